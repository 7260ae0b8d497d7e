package docksort.run;

import docksort.media.AudioStream;
import docksort.media.ClipFacts;
import docksort.media.Frames;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import docksort.media.VideoTarget;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/// Holds the facts of a finished copy against its original's. A copy that differs in one of these is no stand-in.
public final class CopyCheck {
    /// Sound may end this many samples apart: compressed sound comes in packets of up to 2048 samples (ISO/IEC
    /// 14496-3, from memory), and the last one is rarely full.
    private static final int SAMPLES_OF_PACKET = 2_048;

    private CopyCheck() {}

    /// One compared fact.
    public record Finding(String fact, String wanted, String found, boolean passes) {}

    /// All compared facts of one copy.
    public record Verdict(List<Finding> findings) {
        public Verdict {
            findings = List.copyOf(findings);
        }

        public boolean passes() {
            return findings.stream().allMatch(Finding::passes);
        }

        /// What failed, as a sentence, or the figures that agree.
        public String inWords() {
            List<Finding> failed = findings.stream().filter(f -> !f.passes).toList();
            if (failed.isEmpty()) {
                return findings.stream().map(f -> f.fact + " " + f.found).collect(Collectors.joining(", "));
            }
            return failed.stream()
                    .map(f -> f.fact + " is " + f.found + ", must be " + f.wanted)
                    .collect(Collectors.joining("; "));
        }
    }

    /// @param original the clip's facts
    /// @param target the codec the copy was to get
    /// @param raster the raster the copy was to get
    /// @param copy the facts of the finished file
    public static Verdict check(ClipFacts original, VideoTarget target, Raster raster, ClipFacts copy) {
        var findings = new ArrayList<Finding>();
        VideoFacts wanted = original.video().orElseThrow();
        if (copy.video().isEmpty()) {
            findings.add(new Finding("picture", "one stream", "none", false));
            return new Verdict(findings);
        }
        VideoFacts found = copy.video().get();
        findings.add(frames(wanted, found));
        same(
                findings,
                "rate",
                wanted.rate().label() + " fps",
                found.rate().label() + " fps",
                found.rate().equals(wanted.rate()));
        same(findings, "raster", raster, found.raster());
        same(findings, "pixel aspect", upright(wanted), found.pixelAspect());
        same(findings, "timecode", timecode(original), timecode(copy));
        same(
                findings,
                "codec",
                target.isVc3() ? "VC-3" : "ProRes",
                found.codec().family());
        same(findings, "bit depth", target.bitDepth(), found.pixels().bitDepth());
        if (target.isVc3()) {
            frameSize(findings, target, raster, found);
        }
        sound(findings, original, copy, wanted);
        return new Verdict(findings);
    }

    private static Finding frames(VideoFacts wanted, VideoFacts found) {
        long difference = Math.abs(wanted.frames().count() - found.frames().count());
        // A count that was only estimated cannot be held to the frame; a conformed clip may round at its end.
        long allowed = wanted.frames().origin() == Frames.Origin.ESTIMATED ? 1 : 0;
        if (wanted.rateKind() == RateKind.VARIABLE) {
            allowed = 1;
        }
        return new Finding(
                "frames",
                Long.toString(wanted.frames().count()),
                Long.toString(found.frames().count()),
                difference <= allowed && found.frames().isCertain());
    }

    private static void frameSize(List<Finding> findings, VideoTarget target, Raster raster, VideoFacts found) {
        long bytes = target.vc3FrameBytes(raster);
        boolean all = found.structure().frames().stream().allMatch(frame -> frame.bytes() == bytes);
        findings.add(new Finding("bytes a frame", Long.toString(bytes), all ? Long.toString(bytes) : "others", all));
    }

    private static void sound(List<Finding> findings, ClipFacts original, ClipFacts copy, VideoFacts picture) {
        same(findings, "sound streams", original.audio().size(), copy.audio().size());
        Rational frame = picture.rate().secondsOf(1);
        for (int i = 0; i < Math.min(original.audio().size(), copy.audio().size()); i++) {
            AudioStream wanted = original.audio().get(i);
            AudioStream found = copy.audio().get(i);
            String name = "sound " + (i + 1);
            same(findings, name + " channels", wanted.channels(), found.channels());
            same(findings, name + " rate", wanted.samplesPerSecond(), found.samplesPerSecond());
            Rational packet = new Rational(SAMPLES_OF_PACKET, Math.max(1, wanted.samplesPerSecond()));
            Rational allowed = packet.compareTo(frame) > 0 ? packet : frame;
            boolean near = wanted.seconds().minus(found.seconds()).absolute().compareTo(allowed) <= 0;
            findings.add(new Finding(name + " length", seconds(wanted.seconds()), seconds(found.seconds()), near));
        }
    }

    private static String seconds(Rational seconds) {
        return String.format(java.util.Locale.ROOT, "%.3f s", seconds.toDouble());
    }

    private static Rational upright(VideoFacts picture) {
        return picture.rotationDegrees() % 180 == 0
                ? picture.pixelAspect()
                : Rational.of(1).dividedBy(picture.pixelAspect());
    }

    private static String timecode(ClipFacts facts) {
        return facts.startTimecode().map(Timecode::toString).orElse("none");
    }

    private static void same(List<Finding> findings, String fact, Object wanted, Object found) {
        same(findings, fact, wanted.toString(), found.toString(), wanted.equals(found));
    }

    private static void same(List<Finding> findings, String fact, String wanted, String found, boolean passes) {
        findings.add(new Finding(fact, wanted, found, passes));
    }
}
