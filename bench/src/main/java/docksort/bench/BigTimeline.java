package docksort.bench;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.Addressing;
import docksort.dispatch.Conform;
import docksort.dispatch.Places;
import docksort.dispatch.Switching;
import docksort.files.Documents;
import docksort.media.FrameRate;
import docksort.media.Rational;
import docksort.media.Timecode;
import docksort.sort.CopyKind;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.timeline.EditListWriter;
import docksort.timeline.TimelineDocument;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;

/// A timeline of very many events: how long it takes to open, to conform and to switch, as OpenTimelineIO
/// and as an edit list that names recordings and no files, in a stock of some thousand and of a hundred
/// thousand clips.
public final class BigTimeline {
    private static final int ROUNDS = 5;

    private BigTimeline() {}

    /// @param args a work folder and how many events
    public static void main(String[] args) throws Exception {
        if (args.length != 2) {
            System.err.println("usage: BigTimeline WORK EVENTS");
            System.exit(2);
        }
        Path work = Documents.ensureFolder(Path.of(args[0])).toRealPath();
        int events = Integer.parseInt(args[1]);
        for (int clips : List.of(2_000, 100_000)) {
            List<StockLine> stock = stock(clips);
            Path otio = work.resolve("cut.otio");
            Documents.replace(otio, new ObjectMapper().writeValueAsBytes(timeline(stock, events)));
            measure(otio, stock);
            Path list = work.resolve("cut.edl");
            Documents.replace(list, list(stock, events).getBytes(StandardCharsets.UTF_8));
            measure(list, stock);
        }
    }

    private static void measure(Path file, List<StockLine> stock) {
        for (int round = 0; round < ROUNDS; round++) {
            long start = System.nanoTime();
            TimelineDocument document = TimelineDocument.open(file, FrameRate.FPS_25);
            long opened = System.nanoTime();
            Conform conform = Conform.of(document, stock, Places.NONE, Map.of());
            long conformed = System.nanoTime();
            Path folder = Objects.requireNonNull(file.getParent());
            int changed = Switching.carryOut(
                            conform, ServingOrder.LIGHT_FIRST, List.of(), Addressing.AS_IT_STANDS, folder)
                    .changed();
            long switched = System.nanoTime();
            int bytes = document.bytes().length;
            long written = System.nanoTime();
            int events = conform.events().size();
            System.out.printf(
                    Locale.ROOT,
                    "%s of %d events, %d clips, %s: open %.0f ms, conform %.0f ms, switch %.0f ms, write %.0f ms"
                            + " (%d changed, %d kB); conform and switch %.2f s (wanted below 1)%n",
                    file.getFileName(),
                    events,
                    stock.size(),
                    round == 0 ? "first" : "again",
                    (opened - start) / 1e6,
                    (conformed - opened) / 1e6,
                    (switched - conformed) / 1e6,
                    (written - switched) / 1e6,
                    changed,
                    bytes / 1_000,
                    (switched - opened) / 1e9);
            if (changed != events) {
                throw new IllegalStateException(changed + " of " + events + " changed");
            }
        }
    }

    private static List<StockLine> stock(int clips) {
        var stock = new ArrayList<StockLine>();
        for (int i = 0; i < clips; i++) {
            Clip clip = LoadSheetBenchmark.clip(i);
            List<WorkingCopy> copies = List.of(BigStock.copy(clip, CopyKind.LIGHT), BigStock.copy(clip, CopyKind.FULL));
            stock.add(new StockLine(
                    clip, Presence.ONLINE, copies, ServingOrder.LIGHT_FIRST.serve(clip, copies, Presence.ONLINE)));
        }
        return stock;
    }

    private static Clip used(List<StockLine> stock, int event) {
        return stock.get((int) ((event * 7_919L) % stock.size())).clip();
    }

    private static ObjectNode timeline(List<StockLine> stock, int events) {
        var json = new ObjectMapper();
        ObjectNode root =
                json.createObjectNode().put("OTIO_SCHEMA", "Timeline.1").put("name", "long cut");
        ArrayNode tracks =
                root.putObject("tracks").put("OTIO_SCHEMA", "Stack.1").putArray("children");
        ArrayNode track = tracks.addObject()
                .put("OTIO_SCHEMA", "Track.1")
                .put("kind", "Video")
                .put("name", "V1")
                .putArray("children");
        for (int i = 0; i < events; i++) {
            Clip clip = used(stock, i);
            ObjectNode event = track.addObject().put("OTIO_SCHEMA", "Clip.2").put("name", clip.name());
            ObjectNode range = event.putObject("source_range").put("OTIO_SCHEMA", "TimeRange.1");
            range.putObject("start_time")
                    .put("OTIO_SCHEMA", "RationalTime.1")
                    .put("rate", 25.0)
                    .put("value", 10.0);
            range.putObject("duration")
                    .put("OTIO_SCHEMA", "RationalTime.1")
                    .put("rate", 25.0)
                    .put("value", 40.0);
            event.put("active_media_reference_key", "DEFAULT_MEDIA")
                    .putObject("media_references")
                    .putObject("DEFAULT_MEDIA")
                    .put("OTIO_SCHEMA", "ExternalReference.1")
                    .put("target_url", clip.source().head().toUri().toString());
        }
        return root;
    }

    private static String list(List<StockLine> stock, int events) {
        var lines = new ArrayList<EditListWriter.Line>();
        Timecode record = Timecode.parse("01:00:00:00", FrameRate.FPS_25);
        for (int i = 0; i < events; i++) {
            Clip clip = used(stock, i);
            Timecode start = clip.facts()
                    .startTimecode()
                    .orElse(Timecode.zero(clip.facts().video().orElseThrow().rate()));
            lines.add(new EditListWriter.Line(
                    "",
                    "V",
                    0,
                    start.plus(10),
                    start.plus(50),
                    record,
                    record.plus(40),
                    Rational.of(1),
                    clip.name(),
                    ""));
            record = record.plus(40);
        }
        return EditListWriter.write("long cut", FrameRate.FPS_25, false, lines);
    }
}
