package docksort.media;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;

/// The facts of one recording from those of its parts.
public final class SpannedFacts {
    private SpannedFacts() {}

    /// Whether a part can follow another: same picture and sound, and a timecode that carries on where both
    /// have one.
    public static boolean follows(ClipFacts part, ClipFacts next) {
        if (part.video().isEmpty() || next.video().isEmpty()) {
            return false;
        }
        VideoFacts a = part.video().get();
        VideoFacts b = next.video().get();
        boolean samePicture = a.codec().equals(b.codec())
                && a.raster().equals(b.raster())
                && a.rate().equals(b.rate())
                && a.pixels().equals(b.pixels())
                && part.container().equals(next.container());
        boolean carriesOn =
                part.startTimecode().isPresent() == next.startTimecode().isPresent()
                        && part.startTimecode()
                                .map(start -> start.plus(a.frames().count()))
                                .equals(next.startTimecode());
        return samePicture
                && sounds(part).equals(sounds(next))
                && carriesOn
                && part.reel().equals(next.reel());
    }

    private static List<String> sounds(ClipFacts facts) {
        return facts.audio().stream().map(AudioStream::label).toList();
    }

    /// @param parts facts of all parts, in order, at least one
    public static ClipFacts join(List<ClipFacts> parts) {
        ClipFacts first = parts.getFirst();
        Optional<VideoFacts> video = first.video().map(v -> joinVideo(v, parts));
        Rational seconds = parts.stream().map(ClipFacts::seconds).reduce(Rational.ZERO, Rational::plus);
        var complaints = new LinkedHashSet<String>();
        var contradictions = new LinkedHashSet<Contradiction>();
        parts.forEach(part -> {
            complaints.addAll(part.findings().complaints());
            contradictions.addAll(part.findings().contradictions());
        });
        var audio = new ArrayList<AudioStream>();
        for (int i = 0; i < first.audio().size(); i++) {
            int stream = i;
            AudioStream one = first.audio().get(i);
            Rational sum = parts.stream()
                    .map(part -> part.audio().get(stream).seconds())
                    .reduce(Rational.ZERO, Rational::plus);
            audio.add(new AudioStream(
                    one.codec(), one.channels(), one.layout(), one.samplesPerSecond(), one.bitsPerSample(), sum));
        }
        return new ClipFacts(
                first.container(),
                video,
                audio,
                seconds,
                first.startTimecode(),
                first.reel(),
                first.recordedAt(),
                new ByteSize(
                        parts.stream().mapToLong(part -> part.size().bytes()).sum()),
                new Findings(
                        List.copyOf(complaints),
                        List.copyOf(contradictions),
                        first.findings().outOfReach()),
                first.tags());
    }

    private static VideoFacts joinVideo(VideoFacts first, List<ClipFacts> parts) {
        List<VideoFacts> videos =
                parts.stream().flatMap(part -> part.video().stream()).toList();
        long frames = videos.stream().mapToLong(v -> v.frames().count()).sum();
        Frames.Origin origin = videos.stream()
                .map(v -> v.frames().origin())
                .max(Comparator.naturalOrder())
                .orElse(Frames.Origin.ESTIMATED);
        Frames.Reach reach = videos.stream()
                .map(v -> v.frames().reach())
                .max(Comparator.naturalOrder())
                .orElse(Frames.Reach.JUMP);
        var all = new Frames(frames, origin, first.frames().firstAt(), reach);
        return first.withFrames(all).withStructure(joinStructure(first, videos));
    }

    private static FrameStructure joinStructure(VideoFacts first, List<VideoFacts> videos) {
        Rational timeBase = first.structure().timeBase();
        boolean whole = videos.stream()
                .allMatch(v -> v.structure().extent() == FrameStructure.Extent.WHOLE
                        && v.structure().timeBase().equals(timeBase));
        if (!whole) {
            return first.structure();
        }
        var joined = new FrameStructure.Builder(FrameStructure.Extent.WHOLE, timeBase)
                .leadingStandAlone(first.structure().leadingStandAlone());
        long before = 0;
        for (VideoFacts video : videos) {
            long offset = first.rate().secondsOf(before).dividedBy(timeBase).rounded();
            video.structure().forEach((_, shown, key, bytes) -> joined.add(shown + offset, key, bytes));
            before += video.frames().count();
        }
        return joined.build();
    }
}
