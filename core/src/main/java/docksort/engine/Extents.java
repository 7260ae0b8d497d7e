package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.engine.ChildProcesses.OutputReader;
import docksort.media.AudioStream;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Frames;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/// How much of a clip there is: all its packets are listed, and none is decoded. Headers of containers that
/// are written while they are recorded state lengths of the whole file, of its longest stream, or none.
public final class Extents {
    private final MediaEngine engine;

    public Extents(MediaEngine engine) {
        this.engine = engine;
    }

    /// One stream, as its packets come.
    private static final class Stream {
        private long packets;
        private Optional<Rational> from = Optional.empty();
        private Optional<Rational> last = Optional.empty();
        private Rational lastLasts = Rational.ZERO;
        private Rational sum = Rational.ZERO;

        void add(Optional<Rational> shown, Rational lasts) {
            packets++;
            sum = sum.plus(lasts);
            shown.ifPresent(at -> {
                from = Optional.of(
                        from.filter(first -> first.compareTo(at) <= 0).orElse(at));
                if (last.filter(latest -> latest.compareTo(at) > 0).isEmpty()) {
                    last = Optional.of(at);
                    lastLasts = lasts;
                }
            });
        }

        /// From the first to the beginning of the last.
        Rational begun() {
            return from.flatMap(first -> last.map(latest -> latest.minus(first)))
                    .orElse(Rational.ZERO);
        }

        /// From the first to the end of the last; all together where a clock begins anew.
        Rational seconds() {
            Rational extent = begun().plus(lastLasts);
            return sum.compareTo(extent.times(new Rational(21, 20))) > 0 ? sum : extent;
        }
    }

    /// The facts with counts and lengths that were found, in place of those that were only stated or
    /// estimated.
    ///
    /// @return empty when it was cancelled or the clip cannot be read to its end
    public Optional<ClipFacts> measured(ClipSource source, ClipFacts facts, ProcessControl control)
            throws InterruptedException {
        Map<Integer, Stream> streams = new TreeMap<>();
        var kinds = new TreeMap<Integer, String>();
        var line = new ArrayList<String>(List.of("-v", "error", "-hide_banner", "-of", "compact=p=0"));
        line.addAll(List.of(
                "-show_entries", "packet=codec_type,stream_index,pts_time,duration_time,flags", "-show_packets"));
        line.addAll(MediaEngine.input(source, facts.video().map(VideoFacts::rate)));
        try {
            Ending ending =
                    engine.probe(line, OutputReader.lines(text -> note(text, streams, kinds)), control.cancellation());
            if (ending.cut() != Cut.NONE || streams.isEmpty()) {
                return Optional.empty();
            }
        } catch (IOException e) {
            return Optional.empty(); // then what is stated stands
        }
        Optional<Stream> picture = of(streams, kinds, "video").findFirst();
        List<Stream> sounds = of(streams, kinds, "audio").toList();
        Optional<VideoFacts> video = facts.video()
                .map(known -> picture.map(found -> counted(known, found)).orElse(known));
        var audio = new ArrayList<AudioStream>();
        for (int i = 0; i < facts.audio().size(); i++) {
            AudioStream known = facts.audio().get(i);
            audio.add(i < sounds.size() ? known.lasting(sounds.get(i).seconds()) : known);
        }
        return Optional.of(facts.measured(video, audio));
    }

    private static java.util.stream.Stream<Stream> of(
            Map<Integer, Stream> streams, Map<Integer, String> kinds, String kind) {
        return streams.entrySet().stream()
                .filter(entry -> kind.equals(kinds.get(entry.getKey())))
                .map(Map.Entry::getValue);
    }

    /// A picture that stays on when the recording ends lasts as long as its packet says, and no picture
    /// is lost that begins in the second half of a frame and ends before the next.
    private static VideoFacts counted(VideoFacts known, Stream found) {
        long frames = known.rateKind() == RateKind.VARIABLE
                ? Math.max(
                        known.rate().framesIn(found.begun()) + 1, known.rate().framesIn(found.seconds()))
                : found.packets;
        return known.withFrames(new Frames(
                frames,
                known.rateKind() == RateKind.VARIABLE ? Frames.Origin.ESTIMATED : Frames.Origin.COUNTED,
                known.frames().firstAt(),
                known.frames().reach()));
    }

    /// A line of the writer `compact` (ffprobe manual): keys and values of one packet.
    private static void note(String text, Map<Integer, Stream> streams, Map<Integer, String> kinds) {
        Map<String, String> fields = new TreeMap<>();
        for (String field : text.split("\\|", 16)) {
            int at = field.indexOf('=');
            if (at > 0) {
                fields.put(field.substring(0, at), field.substring(at + 1));
            }
        }
        int index;
        try {
            index = Integer.parseInt(fields.getOrDefault("stream_index", ""));
        } catch (NumberFormatException e) {
            return; // no packet
        }
        if (index < 0 || index > 256 || fields.getOrDefault("flags", "").contains("D")) {
            return; // outside the edit list: decoded, never shown
        }
        kinds.putIfAbsent(index, fields.getOrDefault("codec_type", ""));
        streams.computeIfAbsent(index, _ -> new Stream())
                .add(
                        time(fields.get("pts_time")),
                        time(fields.get("duration_time")).orElse(Rational.ZERO));
    }

    private static Optional<Rational> time(@org.jspecify.annotations.Nullable String text) {
        if (text == null || !text.matches("-?\\d{1,9}(\\.\\d{1,9})?")) {
            return Optional.empty();
        }
        return Optional.of(Rational.parse(text));
    }
}
