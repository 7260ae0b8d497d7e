package docksort.sort;

import docksort.arrival.Clip;
import docksort.media.AudioStream;
import docksort.media.BurnIns;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Contradiction;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Frames;
import docksort.media.Hdr;
import docksort.media.KeptFile;
import docksort.media.Look;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// What a recipe comes to for one clip, or why it cannot be carried out.
final class RecipeForClip {
    private final Recipe recipe;

    RecipeForClip(Recipe recipe) {
        this.recipe = recipe;
    }

    /// @param range the stretch to copy, empty for all of the clip
    Recipe.Resolution of(Clip clip, Circumstances circumstances, Optional<FrameRange> range) {
        ClipFacts facts = clip.facts();
        Optional<String> hindrance = hindrance(clip, range);
        if (hindrance.isPresent()) {
            return new Recipe.Resolution.Impossible(hindrance.get());
        }
        if (recipe.encoding().isSoundOnly()) {
            return soundAlone(facts);
        }
        VideoFacts picture = facts.video().orElseThrow();
        if (recipe.encoding().isRewrap()) {
            return rewrap(clip.source(), facts.container(), picture, range);
        }
        var chosen = new ArrayList<String>();
        Rational aspect = upright(picture, picture.pixelAspect());
        Raster raster = recipe.scaling()
                .apply(shaped(picture, aspect, chosen), circumstances.timeline().raster());
        boolean interlaced = picture.scan().isInterlaced() && !recipe.deinterlaces();
        boolean alpha = recipe.keepsAlpha()
                && picture.pixels().alpha()
                && recipe.encoding().canKeepAlpha();
        VideoTarget target = recipe.encoding().target(picture, raster, interlaced, alpha);
        tellTarget(target, picture, raster, alpha, chosen);
        Optional<String> unfit = unfit(target, picture, raster, aspect);
        if (unfit.isPresent()) {
            return new Recipe.Resolution.Impossible(unfit.get());
        }
        if (circumstances.unavailable().contains(target)) {
            return new Recipe.Resolution.Impossible("this machine's engine cannot make " + target.label());
        }
        Optional<KeptFile> lacking =
                recipe.look().table().filter(table -> !circumstances.kept().contains(table.digest()));
        if (lacking.isPresent()) {
            return new Recipe.Resolution.Impossible(
                    "its look needs the lookup table " + lacking.get().name() + ", which the project has not got");
        }
        Optional<KeptFile> image = recipe.burnIns()
                .watermark()
                .map(mark -> mark.image().file())
                .filter(file -> !circumstances.kept().contains(file.digest()));
        if (image.isPresent()) {
            return new Recipe.Resolution.Impossible(
                    "the image " + image.get().name() + " is laid over it, which the project has not got");
        }
        FrameRate rate = rate(picture, chosen);
        long frames = range.map(FrameRange::count).orElse(framesAt(rate, picture));
        boolean sdr = recipe.look().toSdr() && !Hdr.kind(picture.colour()).isEmpty();
        if (sdr) {
            chosen.add(Hdr.kind(picture.colour()) + " brought down to standard range for viewing");
        }
        if (!recipe.sound().mix().isKept() && !facts.audio().isEmpty()) {
            chosen.add(
                    recipe.sound().mix().isEach()
                            ? "each channel of sound a stream of its own"
                            : "sound mixed: " + recipe.sound().mix());
        }
        if (recipe.look().isBaked()) {
            chosen.add("the look " + recipe.look().label() + " baked in");
        }
        if (recipe.deinterlaces() && picture.scan().isInterlaced()) {
            chosen.add("whole pictures made of fields");
        }
        var form = new CopyForm(
                Optional.of(target),
                recipe.wrapper(),
                even(raster, target),
                recipe.squarePixels() ? Rational.of(1) : aspect,
                rate,
                frames,
                range.isEmpty()
                        && (picture.rateKind() == VideoFacts.RateKind.VARIABLE
                                || picture.frames().origin() == Frames.Origin.ESTIMATED),
                interlaced,
                recipe.deinterlaces() && picture.scan().isInterlaced(),
                sdr ? recipe.look() : recipe.look().withoutSdr(),
                alpha,
                recipe.sound(),
                recipe.burnIns(),
                range,
                recipe.hardware());
        if (recipe.burnIns().left(PARTS, form.raster(), form.pixelAspect()) < LEAST_LEFT) {
            return new Recipe.Resolution.Impossible(
                    "what is drawn into it leaves less than a tenth of the picture to be"
                            + " compared with the original's: draw a smaller image, or fewer things");
        }
        return new Recipe.Resolution.Possible(form, chosen);
    }

    private static final Raster PARTS = new Raster(64, 36);
    private static final double LEAST_LEFT = 0.1;

    /// What a codec, or the engine's writer of a container, cannot carry.
    private Optional<String> unfit(VideoTarget target, VideoFacts picture, Raster raster, Rational aspect) {
        boolean fields = picture.scan().isInterlaced() && !recipe.deinterlaces();
        if (!target.existsAt(raster, ScanType.PROGRESSIVE)) {
            return Optional.of(target.label() + " has no raster as small as " + raster);
        }
        if (target.family() == VideoTarget.Family.CINEFORM && raster.width() < 32) {
            return Optional.of("CineForm has no raster as small as " + raster);
        }
        if (fields && !target.existsAt(raster, picture.scan())) {
            return Optional.of(target.label() + " of " + raster
                    + " has no fields here: make whole pictures of them, or choose ProRes");
        }
        if (recipe.wrapper() != Wrapper.MXF) {
            return Optional.empty();
        }
        if (fields && target.family() == VideoTarget.Family.PRORES) {
            return Optional.of(
                    "ProRes in MXF does not state its fields here: choose MOV, or make whole pictures of them");
        }
        if (target.isVc3() && picture.colour().isWideGamut()) {
            return Optional.of("VC-3 in MXF does not state the colour of BT.2020 here: choose MOV");
        }
        return target.isVc3() && !recipe.squarePixels() && !aspect.equals(Rational.of(1))
                ? Optional.of("VC-3 in MXF does not carry pixels of " + aspect + ": choose MOV, or make them square")
                : Optional.empty();
    }

    private Optional<String> hindrance(Clip clip, Optional<FrameRange> range) {
        ClipFacts facts = clip.facts();
        if (clip.source() instanceof ClipSource.NumberedStills stills
                && !stills.missing().isEmpty()) {
            return Optional.of("stills are missing (" + stills.missingLabel() + "): render or copy them again");
        }
        if (facts.findings().outOfReach().isPresent()) {
            return Optional.of(
                    "it is out of reach here: " + facts.findings().outOfReach().get());
        }
        if (facts.isRateOpen()) {
            return Optional.of(facts.video()
                    .filter(VideoFacts::hasOddRate)
                    .map(odd -> "its rate of " + odd.rate().label()
                            + " fps is one that no timeline has: say in Arrivals which it is to be conformed to, or"
                            + " that it is kept")
                    .orElse("it states no frame rate: say in Arrivals how to read it"));
        }
        int channels = facts.audio().stream().mapToInt(AudioStream::channels).sum();
        if (channels > 0 && recipe.sound().mix().highest() > channels) {
            return Optional.of("it has " + channels + (channels == 1 ? " channel" : " channels")
                    + " of sound, and the recipe takes channel "
                    + recipe.sound().mix().highest());
        }
        if (recipe.encoding().isSoundOnly()) {
            return facts.audio().isEmpty() ? Optional.of("it has no sound") : Optional.empty();
        }
        if (facts.video().isEmpty()) {
            return Optional.of("it has no picture");
        }
        if (recipe.encoding().isRewrap() && range.isPresent()) {
            return Optional.of("only whole clips are taken over as they are");
        }
        long frames = facts.video().get().frames().count();
        if (frames == 0) {
            return Optional.of("it has no frames");
        }
        if (range.isPresent() && range.get().end() > frames) {
            return Optional.of("it has " + frames + " frames, " + range.get().end() + " are asked for");
        }
        long there = frames - facts.video().get().frames().missingAtEnd();
        if (range.isPresent() && range.get().end() > there) {
            return Optional.of(
                    "its file ends before frame " + there + ": copy it again from the card, or use less of it");
        }
        if (facts.findings().contradictions().stream()
                .anyMatch(two -> two.fact().equals(Contradiction.CLOCK))) {
            return Optional.of(
                    "its clock begins anew within it, as where two recordings were put into one file: part them"
                            + " again");
        }
        boolean varies = facts.video().get().rateKind() == VideoFacts.RateKind.VARIABLE;
        return range.isPresent() && varies
                ? Optional.of("its frame rate varies, so that a range has no fixed frames: make a whole copy")
                : Optional.empty();
    }

    private Recipe.Resolution soundAlone(ClipFacts facts) {
        var form = new CopyForm(
                Optional.empty(),
                recipe.wrapper(),
                new Raster(1, 1),
                Rational.of(1),
                FrameRate.FPS_25,
                0,
                true,
                false,
                false,
                Look.NONE,
                false,
                recipe.sound(),
                BurnIns.NONE,
                Optional.empty(),
                false);
        return facts.audio().size() > 1
                ? new Recipe.Resolution.Possible(form, List.of("streams one after the other in one file"))
                : new Recipe.Resolution.Possible(form, List.of());
    }

    /// The coded frames are taken over: whatever would need others is impossible.
    private Recipe.Resolution rewrap(
            ClipSource source, String container, VideoFacts picture, Optional<FrameRange> range) {
        String codec = picture.codec().label();
        if (!(source instanceof ClipSource.SingleFile)) {
            return new Recipe.Resolution.Impossible("only a clip in one file can be taken over as it is");
        }
        if (!recipe.wrapper().takes(picture.codec())) {
            return new Recipe.Resolution.Impossible(recipe.wrapper().label() + " does not take " + codec + " as it is");
        }
        // The engine writes it as AVC-Intra, whose header it leaves out (measured with FFmpeg 8.0.1: 960x720
        // and the usual rasters above).
        if (recipe.wrapper() == Wrapper.MOV
                && picture.codec().name().equals("h264")
                && picture.pixels().bitDepth() > 8
                && picture.structure().isAllIntra()
                && picture.raster().height() >= 720) {
            return new Recipe.Resolution.Impossible(
                    "all-intra H.264 of more than 8 bits does not play from the MOV the engine writes: choose MP4, or"
                            + " another recipe");
        }
        boolean counted = picture.frames().reach() == Frames.Reach.COUNT;
        if (picture.rateKind() == VideoFacts.RateKind.VARIABLE) {
            return new Recipe.Resolution.Impossible("its frame rate varies: a copy that is encoded anew conforms it");
        }
        boolean cutOff = picture.frames().origin() == Frames.Origin.STATED
                && picture.structure().extent() == FrameStructure.Extent.WHOLE
                && picture.structure().isKnown();
        if (cutOff) {
            return new Recipe.Resolution.Impossible(
                    "its end is missing: a copy that is encoded anew holds the place of what is lost");
        }
        if (counted || container.equals("MPEG-PS") || picture.rateKind() == VideoFacts.RateKind.INTERPRETED) {
            return new Recipe.Resolution.Impossible("its file does not say when which frame is shown, which "
                    + recipe.wrapper().label() + " must: a copy that is encoded anew counts them");
        }
        var form = new CopyForm(
                Optional.empty(),
                recipe.wrapper(),
                picture.raster(),
                picture.pixelAspect(),
                picture.rate(),
                picture.frames().count(),
                picture.frames().origin() == Frames.Origin.ESTIMATED,
                picture.scan().isInterlaced(),
                false,
                Look.NONE,
                picture.pixels().alpha(),
                recipe.sound(),
                BurnIns.NONE,
                range,
                false);
        return new Recipe.Resolution.Possible(form, List.of(codec + " taken over as it is"));
    }

    private static Rational upright(VideoFacts picture, Rational aspect) {
        return picture.rotationDegrees() % 180 == 0 ? aspect : Rational.of(1).dividedBy(aspect);
    }

    /// The raster turned upright, with square pixels where the recipe wants them.
    private Raster shaped(VideoFacts picture, Rational aspect, List<String> chosen) {
        Raster upright = picture.rotationDegrees() % 180 == 0
                ? picture.raster()
                : picture.raster().turned();
        if (picture.rotationDegrees() != 0) {
            chosen.add("turned upright by " + picture.rotationDegrees() + "°");
        }
        if (!recipe.squarePixels() || aspect.equals(Rational.of(1))) {
            return upright;
        }
        chosen.add("pixels of " + aspect + " made square");
        // The longer side stays: nothing is enlarged.
        boolean wide = aspect.compareTo(Rational.of(1)) > 0;
        long width = wide
                ? upright.width()
                : aspect.times(Rational.of(upright.width())).rounded();
        long height = wide ? Rational.of(upright.height()).dividedBy(aspect).rounded() : upright.height();
        return new Raster(Math.clamp(width, 2, 65_536), Math.clamp(height, 2, 65_536));
    }

    private void tellTarget(VideoTarget target, VideoFacts picture, Raster raster, boolean alpha, List<String> chosen) {
        if (alpha) {
            chosen.add(target.label() + ", because there is alpha");
        } else if (target.isHdFamily()) {
            chosen.add("the HD family, because it has " + raster);
        } else if (target.isVc3()
                && recipe.encoding().usual().filter(target::equals).isEmpty()) {
            chosen.add("the resolution-independent family, because of " + raster);
        }
        boolean byDepth = recipe.encoding() == Encoding.VC3_BY_DEPTH || recipe.encoding() == Encoding.H264_INTRA;
        if (byDepth) {
            chosen.add(target.bitDepth() + " bit, because the clip has "
                    + picture.pixels().bitDepth());
        }
    }

    private FrameRate rate(VideoFacts picture, List<String> chosen) {
        if (picture.rateKind() != VideoFacts.RateKind.VARIABLE) {
            return picture.rate();
        }
        FrameRate rate = recipe.conformTo().orElse(picture.rate());
        chosen.add("variable rate conformed to " + rate.label() + " fps");
        return rate;
    }

    private static long framesAt(FrameRate rate, VideoFacts picture) {
        return rate.equals(picture.rate()) ? picture.frames().count() : rate.framesIn(picture.seconds());
    }

    /// CineForm wants a width in steps of 16 (libavcodec/cfhdenc.c, FFmpeg 8.0): the nearest below.
    private static Raster even(Raster raster, VideoTarget target) {
        return target.family() == VideoTarget.Family.CINEFORM
                ? new Raster(Math.max(32, raster.width() / 16 * 16), Math.max(32, raster.height() / 8 * 8))
                : raster;
    }
}
