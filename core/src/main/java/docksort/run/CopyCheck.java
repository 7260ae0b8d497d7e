package docksort.run;

import docksort.engine.ColourOfCopy;
import docksort.media.AudioStream;
import docksort.media.ClipFacts;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.PixelFormat;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/// Holds the facts of a finished copy against its original's. A copy that differs in one of these is no
/// stand-in.
public final class CopyCheck {
    /// Sound may end this many samples apart: compressed sound comes in packets of up to 2048 samples
    /// (ISO/IEC 14496-3, from memory), and the last one is rarely full.
    private static final int SAMPLES_OF_PACKET = 2_048;

    private CopyCheck() {}

    /// One compared fact.
    public record Finding(String fact, String wanted, String found, boolean passes) {}

    /// All compared facts of one copy.
    ///
    /// @param leastAlike number of its frame that is least like the original's, where all were compared
    public record Verdict(List<Finding> findings, Optional<Long> leastAlike) {
        public Verdict {
            findings = List.copyOf(findings);
        }

        Verdict(List<Finding> findings) {
            this(findings, Optional.empty());
        }

        Verdict with(List<Finding> more) {
            return with(new Verdict(more));
        }

        Verdict with(Verdict more) {
            var all = new ArrayList<>(findings);
            all.addAll(more.findings);
            return new Verdict(all, leastAlike.or(more::leastAlike));
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
    /// @param form what the copy was to be
    /// @param copy the facts of the finished file
    public static Verdict check(ClipFacts original, CopyForm form, ClipFacts copy) {
        var findings = new ArrayList<Finding>();
        if (form.isSoundAlone()) {
            soundAlone(findings, original, form, copy);
            return new Verdict(findings);
        }
        if (copy.video().isEmpty()) {
            findings.add(new Finding("picture", "one stream", "none", false));
            return new Verdict(findings);
        }
        VideoFacts found = copy.video().get();
        findings.add(frames(form, found));
        same(
                findings,
                "rate",
                form.rate().labelBeside(found.rate()),
                found.rate().labelBeside(form.rate()));
        same(findings, "raster", form.raster(), found.raster());
        same(findings, "pixel aspect", form.pixelAspect(), found.pixelAspect());
        same(findings, "timecode", timecode(original, form, found.rate()), timecode(copy));
        VideoFacts picture = original.video().orElseThrow();
        String codec = form.target()
                .map(t -> t.family().label())
                .orElse(picture.codec().family());
        int depth =
                form.target().map(VideoTarget::bitDepth).orElse(picture.pixels().bitDepth());
        same(findings, "codec", codec, found.codec().family());
        same(findings, "bit depth", depth, found.pixels().bitDepth());
        if (form.keepsAlpha()) {
            same(findings, "alpha", true, found.pixels().alpha());
        }
        form.target().filter(VideoTarget::isVc3).ifPresent(target -> frameSize(findings, target, form.raster(), found));
        fields(findings, picture, form, found);
        colour(findings, picture, form, found);
        sound(findings, original, form, copy);
        return new Verdict(findings);
    }

    /// Which field comes first, where the copy has fields and its codec says so.
    private static void fields(List<Finding> findings, VideoFacts original, CopyForm form, VideoFacts found) {
        ScanType wanted = form.interlaced() ? original.scan() : ScanType.PROGRESSIVE;
        if (found.scan() != ScanType.UNKNOWN && wanted != ScanType.UNKNOWN) {
            same(findings, "fields", wanted.label(), found.scan().label(), wanted == found.scan());
        }
    }

    /// What the copy states of its colour must be what the original states; where one says nothing,
    /// nothing is held against the other.
    private static void colour(List<Finding> findings, VideoFacts original, CopyForm form, VideoFacts found) {
        boolean converted = !form.look().keepsColours()
                || original.isRgb()
                || found.pixels().chroma() == PixelFormat.Chroma.RGB;
        if (converted) {
            return;
        }
        stated(
                findings,
                "primaries",
                original.colour().primaries(),
                found.colour().primaries());
        stated(
                findings,
                "transfer",
                original.colour().transfer(),
                found.colour().transfer());
        String wanted = form.target()
                .map(target -> ColourOfCopy.matrix(original.colour(), target))
                .orElse(original.colour().matrix());
        stated(findings, "matrix", matrix(wanted), matrix(found.colour().matrix()));
    }

    /// The matrices of 625 and 525 lines are one (Rec. ITU-R BT.601).
    private static String matrix(String matrix) {
        return matrix.equals("bt470bg") ? "smpte170m" : matrix;
    }

    private static void stated(List<Finding> findings, String fact, String wanted, String found) {
        if (isStated(wanted) && isStated(found)) {
            same(findings, fact, wanted, found);
        }
    }

    /// "reserved" is what a codec without a word for it says.
    private static boolean isStated(String tag) {
        return !tag.isEmpty() && !tag.equals("unknown") && !tag.equals("reserved");
    }

    private static Finding frames(CopyForm form, VideoFacts found) {
        long difference = Math.abs(form.frames() - found.frames().count());
        // A count that was only estimated cannot be held to the frame; a conformed clip may round at its end.
        long allowed = form.framesMayRound() ? 1 : 0;
        return new Finding(
                "frames",
                Long.toString(form.frames()),
                Long.toString(found.frames().count()),
                difference <= allowed && found.frames().isCertain());
    }

    private static void soundAlone(List<Finding> findings, ClipFacts original, CopyForm form, ClipFacts copy) {
        int all = original.audio().stream().mapToInt(AudioStream::channels).sum();
        int channels = form.sound().mix().shares(all).size();
        int found = copy.audio().stream().mapToInt(AudioStream::channels).sum();
        same(findings, "channels", channels, found);
        for (AudioStream stream : copy.audio()) {
            same(findings, "sample rate", form.sound().rateFor(original.audio().getFirst()), stream.samplesPerSecond());
            Rational wanted = original.audio().stream()
                    .map(AudioStream::seconds)
                    .min(Rational::compareTo)
                    .orElse(Rational.ZERO);
            boolean near =
                    isLength(stream.seconds(), wanted, wanted.minus(beforePicture(original)), new Rational(1, 25));
            findings.add(new Finding("length", seconds(wanted), seconds(stream.seconds()), near));
        }
    }

    private static void frameSize(List<Finding> findings, VideoTarget target, Raster raster, VideoFacts found) {
        long bytes = target.vc3FrameBytes(raster);
        boolean all = found.structure().frames().stream().allMatch(frame -> frame.bytes() == bytes);
        findings.add(new Finding("bytes a frame", Long.toString(bytes), all ? Long.toString(bytes) : "others", all));
    }

    private static void sound(List<Finding> findings, ClipFacts original, CopyForm form, ClipFacts copy) {
        List<AudioStream> streams = form.sound().streams(original.audio());
        same(findings, "sound streams", streams.size(), copy.audio().size());
        Rational frame = form.rate().secondsOf(1);
        for (int i = 0; i < Math.min(streams.size(), copy.audio().size()); i++) {
            AudioStream wanted = streams.get(i);
            AudioStream found = copy.audio().get(i);
            String name = "sound " + (i + 1);
            int rate = form.wrapper() == Wrapper.MXF ? 48_000 : form.sound().rateFor(wanted);
            same(findings, name + " channels", wanted.channels(), found.channels());
            same(findings, name + " rate", rate, found.samplesPerSecond());
            Rational packet = new Rational(SAMPLES_OF_PACKET, Math.max(1, rate));
            Rational allowed = packet.compareTo(frame) > 0 ? packet : frame;
            Rational length =
                    form.range().isEmpty() ? wanted.seconds() : form.rate().secondsOf(form.frames());
            Rational least = form.range().isEmpty() ? length.minus(beforePicture(original)) : length;
            // In MXF it is as long as the picture: cut there, or with silence behind it.
            Rational picture = form.wrapper() == Wrapper.MXF ? form.rate().secondsOf(form.frames()) : length;
            Rational most = picture.compareTo(length) > 0 ? picture : length;
            boolean near = isLength(found.seconds(), most, picture.compareTo(least) < 0 ? picture : least, allowed);
            // A range behind the sound's end has less of it, or none.
            boolean shorter = form.range().isPresent() && found.seconds().compareTo(length) < 0;
            findings.add(new Finding(name + " length", seconds(length), seconds(found.seconds()), near || shorter));
        }
    }

    private static boolean isLength(Rational found, Rational most, Rational least, Rational allowed) {
        return found.plus(allowed).compareTo(least) >= 0 && found.minus(allowed).compareTo(most) <= 0;
    }

    /// What sounds before the first frame is not in a copy.
    private static Rational beforePicture(ClipFacts original) {
        return original.video().flatMap(picture -> picture.frames().firstAt()).orElse(Rational.ZERO);
    }

    private static String seconds(Rational seconds) {
        return String.format(Locale.ROOT, "%.3f s", seconds.toDouble());
    }

    private static String timecode(ClipFacts facts) {
        return facts.startTimecode().map(Timecode::toString).orElse("none");
    }

    /// MXF always has a timecode; there is nothing else to write for a clip that has none.
    private static String timecode(ClipFacts original, CopyForm form, FrameRate rate) {
        boolean none = original.startTimecode().isEmpty();
        long first = form.range().map(FrameRange::first).orElse(0L);
        if (none) {
            return form.wrapper() == Wrapper.MXF ? Timecode.zero(rate).toString() : "none";
        }
        return original.startTimecode().get().plus(first).toString();
    }

    private static void same(List<Finding> findings, String fact, Object wanted, Object found) {
        same(findings, fact, wanted.toString(), found.toString(), wanted.equals(found));
    }

    private static void same(List<Finding> findings, String fact, String wanted, String found, boolean passes) {
        findings.add(new Finding(fact, wanted, found, passes));
    }
}
