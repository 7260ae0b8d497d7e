package docksort.strain;

import docksort.media.ClipFacts;
import docksort.media.FrameStructure;
import docksort.media.PixelFormat.Chroma;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// Judges a clip from its facts. Bit rate decides nothing: what counts is how many pixels must be decoded to
/// show a frame, and how many a second to play.
///
/// The limits are ours (common practice, no source): a random frame that needs 8 million decoded pixels starts
/// to be felt, 30 million are a visible wait; 250 million pixels a second is UHD at 30, 500 million is UHD at
/// 60.
public final class StrainJudge {
    private static final double FELT_PIXELS_PER_SEEK = 8e6;
    private static final double WAITED_PIXELS_PER_SEEK = 30e6;
    private static final double FELT_PIXELS_PER_SECOND = 240e6;
    private static final double WAITED_PIXELS_PER_SECOND = 490e6;
    private static final String COPY_CURES = "A working copy cures this";
    private static final String NO_COPY_NEEDED = "No working copy is needed for this";

    private final TimelineFormat timeline;

    public StrainJudge(TimelineFormat timeline) {
        this.timeline = timeline;
    }

    public Strain judge(ClipFacts facts) {
        if (facts.video().isEmpty()) {
            return new Strain(Verdict.EASY, Optional.empty(), List.of());
        }
        VideoFacts video = facts.video().get();
        Optional<ScrubCost> cost = scrubCost(video);
        var reasons = new ArrayList<Reason>();
        cost.ifPresent(c -> scrubbing(video, c, reasons));
        playing(facts, video, reasons);
        kind(facts, video, reasons);
        against(video, reasons);
        facts.complaints().stream()
                .limit(3)
                .forEach(said -> reasons.add(new Reason(
                        Verdict.FAIR,
                        "look",
                        "the media engine complains: " + said,
                        "Play it once to the end before it is relied on")));
        reasons.sort(Comparator.comparing(Reason::weight).reversed());
        Verdict verdict = reasons.stream()
                .map(Reason::weight)
                .max(Comparator.naturalOrder())
                .orElse(Verdict.EASY);
        return new Strain(verdict, cost, reasons);
    }

    private static Optional<ScrubCost> scrubCost(VideoFacts video) {
        if (!video.structure().isKnown()) {
            return video.rateKind() == RateKind.INTERPRETED ? Optional.of(ScrubCost.ONE) : Optional.empty();
        }
        return Optional.of(ScrubCost.of(video.structure()));
    }

    private static void scrubbing(VideoFacts video, ScrubCost cost, List<Reason> reasons) {
        if (cost.worst() <= 1) {
            return;
        }
        double pixels = cost.mean().toDouble() * video.raster().pixels();
        Verdict weight = grade(pixels, FELT_PIXELS_PER_SEEK, WAITED_PIXELS_PER_SEEK);
        String seconds = String.format(
                Locale.ROOT,
                "%.1f",
                video.structure().keyframeInterval().meanSeconds().toDouble());
        String sampled = video.structure().extent() == FrameStructure.Extent.STRETCH
                ? " Counted in the first " + video.structure().frames().size() + " frames."
                : "";
        reasons.add(new Reason(
                weight,
                cost.meanLabel(),
                "frames decoded to show one, on average; " + cost.worst() + " at worst. Keyframe every " + seconds
                        + " s." + sampled,
                weight == Verdict.EASY ? NO_COPY_NEEDED : COPY_CURES));
    }

    private static void playing(ClipFacts facts, VideoFacts video, List<Reason> reasons) {
        long perSecond = video.pixelsPerSecond();
        Verdict weight = grade((double) perSecond, FELT_PIXELS_PER_SECOND, WAITED_PIXELS_PER_SECOND);
        if (!facts.isLongGop() && weight == Verdict.HARD) {
            weight = Verdict.FAIR;
        }
        if (weight != Verdict.EASY) {
            reasons.add(new Reason(
                    weight,
                    perSecond / 1_000_000 + " M",
                    "pixels a second to decode: " + video.raster() + " at "
                            + video.rate().label() + " fps",
                    facts.isLongGop()
                            ? COPY_CURES
                            : "A light copy helps; so does a smaller timeline raster, because every frame"
                                    + " stands alone"));
        }
        boolean dear = switch (video.codec().name()) {
            case "hevc", "av1", "vp9" ->
                video.pixels().bitDepth() > 8 || video.pixels().chroma() != Chroma.C420;
            case "h264" -> video.pixels().bitDepth() > 8;
            default -> false;
        };
        if (dear) {
            reasons.add(new Reason(
                    facts.isLongGop() ? Verdict.FAIR : Verdict.EASY,
                    video.pixels().bitDepth() + " bit",
                    video.codec().family() + " " + video.pixels().label()
                            + ": many machines decode it without help of hardware",
                    facts.isLongGop() ? COPY_CURES : NO_COPY_NEEDED));
        }
    }

    private static void kind(ClipFacts facts, VideoFacts video, List<Reason> reasons) {
        if (video.rateKind() == RateKind.VARIABLE) {
            reasons.add(new Reason(
                    Verdict.FAIR,
                    "VFR",
                    "the time between frames varies; the fastest is "
                            + video.rate().label() + " fps",
                    "A copy at constant " + video.rate().label() + " fps, sound kept in step"));
        }
        if (facts.container().equals("stills")) {
            reasons.add(new Reason(
                    Verdict.FAIR,
                    Long.toString(video.frames().count()),
                    "stills, a file for each frame. They state no rate: read at "
                            + video.rate().label() + " fps",
                    "A full copy makes one clip of them"));
        } else if (video.rateKind() == RateKind.INTERPRETED) {
            reasons.add(new Reason(
                    Verdict.FAIR,
                    "rate",
                    "none is stated: read at " + video.rate().label() + " fps",
                    "Check that it is so"));
        }
        if (video.pixels().alpha()) {
            reasons.add(new Reason(
                    Verdict.EASY, "alpha", "has transparency", "A copy in a codec without alpha would lose it"));
        }
        if (video.scan().isInterlaced()) {
            reasons.add(new Reason(Verdict.EASY, "fields", video.scan().label(), "Copies keep the fields"));
        }
        if (!video.isSquare()) {
            reasons.add(new Reason(
                    Verdict.EASY,
                    video.pixelAspect().toString(),
                    "pixels are not square: shown at " + video.displayRaster(),
                    "Copies keep the pixel aspect"));
        }
    }

    private void against(VideoFacts video, List<Reason> reasons) {
        if (!video.displayRaster().equals(timeline.raster())) {
            reasons.add(new Reason(
                    Verdict.EASY,
                    Integer.toString(video.displayRaster().width()),
                    "wide on a " + timeline.raster().width() + " timeline (" + video.displayRaster() + ")",
                    ""));
        }
        if (!video.rate().equals(timeline.rate())) {
            reasons.add(new Reason(
                    Verdict.EASY,
                    video.rate().label(),
                    "frames a second on a timeline of " + timeline.rate().label(),
                    "Copies keep the clip's own rate"));
        }
    }

    /// Whether raster, rate or pixel aspect are not the timeline's.
    public boolean differsFromTimeline(VideoFacts video) {
        return !video.displayRaster().equals(timeline.raster())
                || !video.rate().equals(timeline.rate())
                || !video.isSquare();
    }

    private static Verdict grade(double value, double felt, double waited) {
        return value >= waited ? Verdict.HARD : value >= felt ? Verdict.FAIR : Verdict.EASY;
    }
}
