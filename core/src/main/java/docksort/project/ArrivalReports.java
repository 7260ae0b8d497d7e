package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.ArrivalNames;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.Unreadable;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Presence;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.media.ClipSource;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.stock.ArrivalReport;
import docksort.stock.ArrivalReport.Card;
import docksort.stock.ArrivalReport.Row;
import docksort.stock.CameraPairs;
import docksort.strain.StrainJudge;
import docksort.strain.TimelineFormat;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.BiConsumer;
import java.util.stream.Collectors;

/// Writing what came in for people who do not have the project.
public final class ArrivalReports {
    private static final int PICTURES = 3; // of each clip
    private static final int WIDTH = 224; // twice as wide as they are shown, for print

    private final Catalogue catalogue;
    private final MediaEngine engine;
    private final Settings settings;
    private final Measurements measurements;
    private final Pairing pairing;
    private final InstantSource clock;

    ArrivalReports(
            Catalogue catalogue,
            MediaEngine engine,
            Settings settings,
            Measurements measurements,
            Pairing pairing,
            InstantSource clock) {
        this.catalogue = catalogue;
        this.engine = engine;
        this.settings = settings;
        this.measurements = measurements;
        this.pairing = pairing;
        this.clock = clock;
    }

    /// What was put aside is left out. Writes HTML or CSV, by the ending; an older file of that name is
    /// replaced. Pictures of HTML go into a folder beside it.
    ///
    /// @param pictures whether clips are shown; CSV has none
    /// @param progress hears for how many clips of how many there are pictures
    /// @return whether it was written, not cancelled
    public boolean write(
            List<Arrival> arrivals,
            Path file,
            boolean pictures,
            BiConsumer<Integer, Integer> progress,
            Cancellation cancellation)
            throws InterruptedException {
        boolean html = file.toString().toLowerCase(Locale.ROOT).endsWith(".html");
        Set<ArrivalId> wanted = arrivals.stream().map(Arrival::id).collect(Collectors.toSet());
        Set<ClipId> aside = catalogue.aside().clips();
        List<Clip> clips = catalogue.clips().all().stream()
                .filter(clip -> wanted.contains(clip.arrival()) && !aside.contains(clip.id()))
                .toList();
        Map<ClipId, List<String>> shown = html && pictures ? pictures(clips, file, progress, cancellation) : Map.of();
        if (cancellation.isCancelled()) {
            return false;
        }
        ArrivalReport report = report(arrivals, clips, shown);
        String text = html ? report.html() : report.csv();
        Documents.replace(file, text.getBytes(StandardCharsets.UTF_8));
        return true;
    }

    private ArrivalReport report(List<Arrival> arrivals, List<Clip> clips, Map<ClipId, List<String>> shown) {
        TimelineFormat timeline = settings.timelineFormat();
        var judge = new StrainJudge(timeline, measurements.all());
        Map<ClipId, Presence> presence = catalogue.clips().presence();
        Map<ArrivalId, List<Clip>> byArrival = clips.stream().collect(Collectors.groupingBy(Clip::arrival));
        Map<ArrivalId, List<Unreadable>> bad =
                catalogue.arrivals().unreadable(false).stream().collect(Collectors.groupingBy(Unreadable::arrival));
        Map<ArrivalId, String> names = ArrivalNames.of(catalogue.arrivals().all());
        var cards = new ArrayList<Card>();
        for (Arrival arrival : arrivals) {
            CameraPairs pairs = pairing.of(arrival);
            Set<ClipId> without = new HashSet<>();
            var alone = new ArrayList<String>();
            for (CameraPairs.Line line : pairs.lines()) {
                switch (line.kind()) {
                    case WITHOUT -> {
                        if (!line.words().isEmpty()) { // a camera that writes none at all lost none
                            without.add(line.clip().id());
                        }
                    }
                    case ALONE -> alone.add(line.clip().source().head().toString());
                    case PAIR -> {}
                }
            }
            var rows = new ArrayList<Row>();
            for (Clip clip : byArrival.getOrDefault(arrival.id(), List.of())) {
                List<String> missing = new ArrayList<>(ArrivalReport.missing(clip.facts()));
                Presence there = presence.get(clip.id());
                if (there != null) {
                    missing.addFirst("the original is " + there.state().label());
                }
                if (without.contains(clip.id())) {
                    missing.add("the camera wrote no small file of it");
                }
                rows.add(new Row(
                        clip,
                        judge.judge(clip),
                        timeline.differences(clip.facts()),
                        missing,
                        shown.getOrDefault(clip.id(), List.of())));
            }
            Map<String, String> unreadable = new TreeMap<>();
            bad.getOrDefault(arrival.id(), List.of())
                    .forEach(each -> unreadable.put(
                            each.file().toString(), each.problem().why()));
            cards.add(new Card(
                    names.getOrDefault(arrival.id(), arrival.name()),
                    arrival.folder().toString(),
                    rows,
                    unreadable,
                    alone));
        }
        return new ArrivalReport(settings.name(), clock.instant(), timeline.label(), cards);
    }

    /// At one, three and five sixths of each clip, where it can be decoded.
    private Map<ClipId, List<String>> pictures(
            List<Clip> clips, Path file, BiConsumer<Integer, Integer> progress, Cancellation cancellation)
            throws InterruptedException {
        String page = String.valueOf(file.getFileName());
        String name = page.substring(0, page.lastIndexOf('.')) + "-pictures";
        Path folder = Documents.ensureFolder(file.toAbsolutePath().resolveSibling(name));
        List<Clip> visible =
                clips.stream().filter(clip -> clip.facts().isDecodable()).toList();
        Map<ClipId, List<String>> shown = new HashMap<>();
        int workers = Math.max(2, Runtime.getRuntime().availableProcessors());
        try (ExecutorService makers = Executors.newFixedThreadPool(workers)) {
            var making = new ArrayList<Future<List<String>>>();
            for (Clip clip : visible) {
                making.add(makers.submit(() -> pictures(clip, folder, name, cancellation)));
            }
            for (int i = 0; i < visible.size(); i++) {
                shown.put(visible.get(i).id(), making.get(i).get());
                progress.accept(i + 1, visible.size());
            }
        } catch (ExecutionException e) {
            if (e.getCause() instanceof RuntimeException cause) {
                throw cause;
            }
            throw new IllegalStateException("a picture could not be made", e.getCause());
        }
        return shown;
    }

    private List<String> pictures(Clip clip, Path folder, String name, Cancellation cancellation)
            throws InterruptedException {
        VideoFacts video = clip.facts().video().orElseThrow();
        int count = video.frames().count() < PICTURES ? 1 : PICTURES;
        var made = new ArrayList<String>();
        for (int i = 0; i < count && !cancellation.isCancelled(); i++) {
            var place = new Rational(2L * i + 1, 2L * count);
            String picture = clip.id().value() + "-" + (i + 1) + ".png";
            picture(clip.source(), place, video).ifPresent(bytes -> {
                Documents.replace(folder.resolve(picture), bytes);
                made.add(link(name + "/" + picture));
            });
        }
        return made;
    }

    /// As a page leads to it: names of reports may have signs that addresses have for their own.
    private static String link(String path) {
        try {
            return new URI(null, null, "./" + path, null).toASCIIString();
        } catch (URISyntaxException e) {
            throw new IllegalStateException("no address of " + path, e);
        }
    }

    /// Of numbered stills the one that lies there.
    private Optional<byte[]> picture(ClipSource source, Rational place, VideoFacts video) throws InterruptedException {
        if (!(source instanceof ClipSource.NumberedStills stills)) {
            return engine.picture(source, video.seconds().times(place), WIDTH);
        }
        List<Path> files = stills.files();
        Path there = files.get((int) place.times(Rational.of(files.size())).floor());
        return engine.picture(new ClipSource.SingleFile(there), Rational.ZERO, WIDTH);
    }
}
