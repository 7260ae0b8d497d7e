package docksort.desktop.arrivals;

import docksort.desktop.parts.Typed;
import docksort.media.ClipFacts;
import docksort.media.Described;
import docksort.media.FrameRate;
import docksort.media.Raster;
import java.util.List;
import java.util.Optional;

/// What somebody says of recordings that cannot be decoded here, as it is written.
///
/// @param raster and the others may be empty: what is not said stays as it is
record DescribeModel(String raster, String rate, String frames, String timecode, String reel) {
    private static final long MOST_FRAMES = 9_999_999;

    /// What is known already; of several, what all of them say.
    static DescribeModel of(List<ClipFacts> all) {
        List<Described> said = all.stream().map(ClipFacts::described).distinct().toList();
        Described one = said.size() == 1 ? said.getFirst() : Described.NOTHING;
        return new DescribeModel(
                one.raster().map(Raster::toString).orElse(""),
                one.rate().map(FrameRate::label).orElse(""),
                one.frames().map(String::valueOf).orElse(""),
                one.timecode().orElse(""),
                one.reel().orElse(""));
    }

    /// Whether there is anything to be said of it: its container states nothing of its picture.
    static boolean concerns(ClipFacts facts) {
        return facts.findings().outOfReach().isPresent()
                && facts.video()
                        .map(video -> video.codec().name().equals("camera_raw"))
                        .orElse(true);
    }

    static String question(List<ClipFacts> all) {
        List<List<String>> lacking = all.stream()
                .map(ClipFacts::lacking)
                .filter(words -> !words.isEmpty())
                .toList();
        if (lacking.isEmpty()) {
            return "Its raster, rate and length are as they were said or stated besides. They can be said otherwise.";
        }
        String words = String.join(
                ", ", lacking.stream().flatMap(List::stream).distinct().toList());
        return all.size() == 1
                ? "Nothing here states its " + words + ". Timelines count on them: what are they?"
                : "Of " + lacking.size() + " of the " + all.size() + " nothing here states " + words
                        + ". What are they?";
    }

    static Optional<String> rateFault(String text) {
        try {
            return text.isBlank() || FrameRate.parse(text).exact().isPositive()
                    ? Optional.empty()
                    : Optional.of("write it as 24 or 23.976");
        } catch (IllegalArgumentException | ArithmeticException e) {
            return Optional.of("write it as 24 or 23.976");
        }
    }

    static Optional<String> framesFault(String text) {
        return Typed.wholeNumber(text, 1, MOST_FRAMES);
    }

    Optional<String> timecodeFault(String text) {
        try {
            return text.isBlank() || withTimecode(text).described().isPresent()
                    ? Optional.empty()
                    : Optional.of("the other fields first");
        } catch (IllegalArgumentException e) {
            return Optional.of("write it as 10:00:00:00, with frames that the rate has");
        }
    }

    private DescribeModel withTimecode(String text) {
        return new DescribeModel(raster, rate, frames, text, reel);
    }

    /// What is said; empty while something is written wrong, or nothing is.
    Optional<Described> said() {
        try {
            return described().filter(words -> !words.equals(Described.NOTHING));
        } catch (IllegalArgumentException | ArithmeticException e) {
            return Optional.empty();
        }
    }

    private Optional<Described> described() {
        boolean wrong = Typed.raster(raster).isPresent()
                || rateFault(rate).isPresent()
                || framesFault(frames).isPresent();
        return wrong
                ? Optional.empty()
                : Optional.of(new Described(
                        written(raster).map(Raster::parse),
                        written(rate).map(FrameRate::parse),
                        written(frames).map(Long::parseLong),
                        written(timecode),
                        written(reel)));
    }

    private static Optional<String> written(String text) {
        return Optional.of(text.strip()).filter(words -> !words.isEmpty());
    }
}
