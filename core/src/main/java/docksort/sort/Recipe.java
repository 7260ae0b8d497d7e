package docksort.sort;

import docksort.arrival.Clip;
import docksort.media.BurnIn;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Hdr;
import docksort.media.PixelFormat.Chroma;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.SoundForm;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// How a copy is made. What depends on the clip is chosen by [#resolve], before anything runs. A recipe
/// whose parts do not go together cannot exist; [#faults] says why.
///
/// @param id names the recipe in rules, in the catalogue and in the copies themselves
/// @param keepsAlpha whether a clip with transparency gets the codec's profile that carries it
/// @param squarePixels whether pixels are made square, by widening or narrowing
/// @param conformTo the constant rate that clips of variable rate get, empty for the rate their
///     inspection found
/// @param deinterlaces whether whole pictures are made of fields
/// @param toSdr whether pictures of high dynamic range are brought down for viewing; others are not
///     touched
/// @param naming file name without its ending, with `{clip}`, `{kind}`, `{recipe}`, `{arrival}`, `{reel}`
///     and `{raster}` filled in
/// @param hardware whether an encoder of the graphics processor may be used where one works
public record Recipe(
        String id,
        String name,
        CopyKind kind,
        Encoding encoding,
        Wrapper wrapper,
        Scaling scaling,
        boolean keepsAlpha,
        boolean squarePixels,
        Optional<FrameRate> conformTo,
        boolean deinterlaces,
        boolean toSdr,
        SoundForm sound,
        List<BurnIn> burnIns,
        String naming,
        Placing placing,
        boolean hardware) {
    public static final String USUAL_NAMING = "{clip}_{kind}";
    private static final int LONGEST_NAME = 60;
    private static final int MOST_BURN_INS = 8;

    /// A small copy at half of each side.
    public static final Recipe LIGHT_PRORES_HALF = plain(
            "light-prores-half", "ProRes Proxy, 1/2", CopyKind.LIGHT, Encoding.PRORES_PROXY, new Scaling.PerSide(2));

    /// A small copy that never falls below a 1080 or 720 line timeline when its original did not.
    public static final Recipe LIGHT_VC3_FIT = plain(
            "light-vc3-fit",
            "VC-3 LB, fit to 1080 or 720",
            CopyKind.LIGHT,
            Encoding.VC3_LB,
            new Scaling.FitLines(List.of(1080, 720)));

    /// A copy at full raster for keying, effects and grading previews.
    public static final Recipe FULL_VC3 =
            plain("full-vc3", "VC-3 at the clip's depth", CopyKind.FULL, Encoding.VC3_BY_DEPTH, new Scaling.Full());

    /// A full copy that keeps transparency.
    public static final Recipe FULL_PRORES =
            plain("full-prores", "ProRes 422, 4444 with alpha", CopyKind.FULL, Encoding.PRORES_422, new Scaling.Full());

    /// A small file for looking at far away, with its name and timecode in the picture.
    public static final Recipe REVIEW = new Recipe(
            "light-review",
            "Review: H.264, 720 lines, name and timecode",
            CopyKind.LIGHT,
            Encoding.H264_LONG,
            Wrapper.MP4,
            new Scaling.FitLines(List.of(720)),
            false,
            true,
            Optional.empty(),
            true,
            true,
            SoundForm.KEPT,
            List.of(
                    new BurnIn(BurnIn.What.NAME, BurnIn.At.TOP_LEFT, ""),
                    new BurnIn(BurnIn.What.TIMECODE, BurnIn.At.BOTTOM, "")),
            "{clip}_review",
            Placing.BY_ARRIVAL,
            false);

    /// An easy clip in a container that the timeline's program opens.
    public static final Recipe FULL_REWRAP =
            plain("full-rewrap", "As it is, in MOV", CopyKind.FULL, Encoding.REWRAP, new Scaling.Full());

    /// What a timeline uses of a clip, at full raster.
    public static final Recipe RANGE_VC3 = plain(
            "range-vc3",
            "Used parts: VC-3 at the clip's depth",
            CopyKind.RANGE,
            Encoding.VC3_BY_DEPTH,
            new Scaling.Full());

    /// Recipes that are always there and cannot be changed.
    public static final List<Recipe> BUILT_IN =
            List.of(LIGHT_PRORES_HALF, LIGHT_VC3_FIT, FULL_VC3, FULL_PRORES, FULL_REWRAP, RANGE_VC3, REVIEW);

    private static Recipe plain(String id, String name, CopyKind kind, Encoding encoding, Scaling scaling) {
        return of(id, name, kind, encoding, Wrapper.MOV, scaling);
    }

    /// With everything else as it usually is: transparency, pixels, rate, fields and sound kept, nothing
    /// drawn, below the arrival's name in the folder for copies.
    public static Recipe of(
            String id, String name, CopyKind kind, Encoding encoding, Wrapper wrapper, Scaling scaling) {
        return new Recipe(
                id,
                name,
                kind,
                encoding,
                wrapper,
                scaling,
                true,
                false,
                Optional.empty(),
                false,
                false,
                SoundForm.KEPT,
                List.of(),
                USUAL_NAMING,
                Placing.BY_ARRIVAL,
                false);
    }

    /// The same with other words drawn into the picture.
    public Recipe drawing(List<BurnIn> words) {
        return with(id, name, words, naming, placing);
    }

    /// The same under other names and in another place.
    public Recipe placed(String newNaming, Placing newPlacing) {
        return with(id, name, burnIns, newNaming, newPlacing);
    }

    public Recipe renamed(String newId, String newName) {
        return with(newId, newName, burnIns, naming, placing);
    }

    private Recipe with(String newId, String newName, List<BurnIn> words, String newNaming, Placing newPlacing) {
        return new Recipe(
                newId,
                newName,
                kind,
                encoding,
                wrapper,
                scaling,
                keepsAlpha,
                squarePixels,
                conformTo,
                deinterlaces,
                toSdr,
                sound,
                words,
                newNaming,
                newPlacing,
                hardware);
    }

    public Recipe {
        burnIns = List.copyOf(burnIns);
        var faults =
                new ArrayList<>(faults(id, name, kind, encoding, wrapper, scaling, burnIns, naming, hardware, sound));
        if (encoding.isRewrap()
                && (squarePixels || conformTo.isPresent() || deinterlaces || toSdr || !burnIns.isEmpty())) {
            faults.add("what is taken over as it is cannot be changed: no square pixels, no other rate, no whole"
                    + " pictures of fields, no other range of levels, no burn-ins");
        }
        if (!faults.isEmpty()) {
            throw new IllegalArgumentException(String.join("; ", faults));
        }
    }

    /// Why parts of a recipe do not go together; empty when they do.
    private static List<String> faults(
            String id,
            String name,
            CopyKind kind,
            Encoding encoding,
            Wrapper wrapper,
            Scaling scaling,
            List<BurnIn> burnIns,
            String naming,
            boolean hardware,
            SoundForm sound) {
        var faults = new ArrayList<String>();
        if (!id.matches("[a-z0-9][a-z0-9-]{0,59}")) {
            faults.add("an id has small letters, digits and dashes, at most 60, was \"" + id + "\"");
        }
        if (name.isBlank() || name.length() > LONGEST_NAME || name.chars().anyMatch(Character::isISOControl)) {
            faults.add("a name is one line of 1 to " + LONGEST_NAME + " characters");
        }
        if (!encoding.fits(wrapper)) {
            faults.add(wrapper.label() + " does not take " + encoding.label());
        }
        if (wrapper == Wrapper.MP4 && sound.bits() != 0) {
            faults.add("sound in MP4 is compressed and has no bits a sample to choose");
        }
        if (wrapper == Wrapper.MXF && sound.samplesPerSecond() != 0 && sound.samplesPerSecond() != 48_000) {
            faults.add("sound in MXF OP1a has 48000 samples a second");
        }
        if (encoding.isSoundOnly() && (!burnIns.isEmpty() || !(scaling instanceof Scaling.Full))) {
            faults.add("a recipe for sound alone has no raster and no burn-ins");
        }
        if (encoding.isRewrap() && (kind != CopyKind.FULL || !(scaling instanceof Scaling.Full))) {
            faults.add("what is taken over as it is makes a full copy of the same raster");
        }
        if (encoding.isSoundOnly() != (kind == CopyKind.SOUND)) {
            faults.add("sound alone is a copy of the kind sound, and nothing else is");
        }
        if (kind == CopyKind.FULL && scaling instanceof Scaling.PerSide) {
            faults.add("a full copy keeps the raster or fits the timeline; divided sides make a light copy");
        }
        if (burnIns.size() > MOST_BURN_INS) {
            faults.add("at most " + MOST_BURN_INS + " burn-ins");
        }
        if (burnIns.stream().map(BurnIn::at).distinct().count() < burnIns.size()) {
            faults.add("two burn-ins would lie on each other");
        }
        if (kind == CopyKind.FULL && !burnIns.isEmpty()) {
            faults.add("a full copy is graded and keyed on and has no burn-ins");
        }
        Naming.fault(naming).ifPresent(faults::add);
        if (hardware && encoding != Encoding.H264_LONG && encoding != Encoding.H264_INTRA) {
            faults.add("only H.264 has encoders of the graphics processor here");
        }
        return faults;
    }

    /// What a recipe comes to for one clip.
    public sealed interface Resolution {
        /// @param chosen what was chosen because of the clip, in words
        record Possible(CopyForm form, List<String> chosen) implements Resolution {
            public Possible {
                chosen = List.copyOf(chosen);
            }
        }

        record Impossible(String why) implements Resolution {}
    }

    /// "light · ProRes Proxy, 1/2"
    public String label() {
        return kind.label() + " · " + name;
    }

    /// One line of what it is made of.
    public String summary() {
        var parts = new ArrayList<String>(List.of(encoding.label(), wrapper.label()));
        if (!encoding.isSoundOnly()) {
            parts.add(scaling.label());
        }
        burnIns.forEach(burnIn -> parts.add(burnIn.label()));
        return String.join(", ", parts);
    }

    /// Tells whether a recipe is the same as one that copies were made by: it changes with everything that
    /// changes what is in a copy, and with nothing else.
    public String mark() {
        String content = String.join(
                "|",
                kind.name(),
                encoding.name(),
                wrapper.name(),
                scaling.toString(),
                Boolean.toString(keepsAlpha),
                Boolean.toString(squarePixels),
                conformTo.map(FrameRate::toString).orElse(""),
                Boolean.toString(deinterlaces),
                Boolean.toString(toSdr),
                sound.toString(),
                burnIns.toString());
        var sum = new java.util.zip.CRC32C();
        sum.update(content.getBytes(java.nio.charset.StandardCharsets.UTF_8));
        return String.format(java.util.Locale.ROOT, "%08x", sum.getValue());
    }

    public boolean isBuiltIn() {
        return BUILT_IN.stream().anyMatch(recipe -> recipe.id.equals(id));
    }

    /// What it comes to for the whole of a clip.
    public Resolution resolve(Clip clip, Circumstances circumstances) {
        return resolve(clip, circumstances, Optional.empty());
    }

    /// @param range the stretch to copy, empty for all of the clip
    public Resolution resolve(Clip clip, Circumstances circumstances, Optional<FrameRange> range) {
        ClipFacts facts = clip.facts();
        Optional<String> hindrance = hindrance(clip, range);
        if (hindrance.isPresent()) {
            return new Resolution.Impossible(hindrance.get());
        }
        if (encoding.isSoundOnly()) {
            return soundAlone(facts);
        }
        VideoFacts picture = facts.video().orElseThrow();
        if (encoding.isRewrap()) {
            return rewrap(clip.source(), facts.container(), picture, range);
        }
        var chosen = new ArrayList<String>();
        Rational aspect = upright(picture, picture.pixelAspect());
        Raster raster = scaling.apply(
                shaped(picture, aspect, chosen), circumstances.timeline().raster());
        boolean interlaced = picture.scan().isInterlaced() && !deinterlaces;
        boolean alpha = keepsAlpha && picture.pixels().alpha() && encoding.canKeepAlpha();
        VideoTarget target = encoding.target(picture, raster, interlaced, alpha);
        tellTarget(target, picture, raster, alpha, chosen);
        Optional<String> unfit = unfit(target, picture, raster, aspect);
        if (unfit.isPresent()) {
            return new Resolution.Impossible(unfit.get());
        }
        if (circumstances.unavailable().contains(target)) {
            return new Resolution.Impossible("this machine's engine cannot make " + target.label());
        }
        FrameRate rate = rate(picture, chosen);
        long frames = range.map(FrameRange::count).orElse(framesAt(rate, picture));
        boolean sdr = toSdr && !Hdr.kind(picture.colour()).isEmpty();
        if (sdr) {
            chosen.add(Hdr.kind(picture.colour()) + " brought down to standard range for viewing");
        }
        if (deinterlaces && picture.scan().isInterlaced()) {
            chosen.add("whole pictures made of fields");
        }
        var form = new CopyForm(
                Optional.of(target),
                wrapper,
                even(raster, target),
                squarePixels ? Rational.of(1) : aspect,
                rate,
                frames,
                range.isEmpty()
                        && (picture.rateKind() == VideoFacts.RateKind.VARIABLE
                                || picture.frames().origin() == docksort.media.Frames.Origin.ESTIMATED),
                interlaced,
                deinterlaces && picture.scan().isInterlaced(),
                sdr,
                alpha,
                sound,
                burnIns,
                range,
                hardware);
        return new Resolution.Possible(form, chosen);
    }

    /// What a codec, or the engine's writer of a container, cannot carry.
    private Optional<String> unfit(VideoTarget target, VideoFacts picture, Raster raster, Rational aspect) {
        boolean fields = picture.scan().isInterlaced() && !deinterlaces;
        if (!target.existsAt(raster, docksort.media.ScanType.PROGRESSIVE)) {
            return Optional.of(target.label() + " has no raster as small as " + raster);
        }
        if (target.family() == VideoTarget.Family.CINEFORM && raster.width() < 32) {
            return Optional.of("CineForm has no raster as small as " + raster);
        }
        if (fields && !target.existsAt(raster, picture.scan())) {
            return Optional.of(target.label() + " of " + raster
                    + " has no fields here: make whole pictures of them, or choose ProRes");
        }
        if (wrapper != Wrapper.MXF) {
            return Optional.empty();
        }
        if (fields && target.family() == VideoTarget.Family.PRORES) {
            return Optional.of(
                    "ProRes in MXF does not state its fields here: choose MOV, or make whole pictures of them");
        }
        if (target.isVc3() && picture.colour().isWideGamut()) {
            return Optional.of("VC-3 in MXF does not state the colour of BT.2020 here: choose MOV");
        }
        return target.isVc3() && !squarePixels && !aspect.equals(Rational.of(1))
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
        if (encoding.isSoundOnly()) {
            return facts.audio().isEmpty() ? Optional.of("it has no sound") : Optional.empty();
        }
        if (facts.video().isEmpty()) {
            return Optional.of("it has no picture");
        }
        if (encoding.isRewrap() && range.isPresent()) {
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
                .anyMatch(two -> two.fact().equals(docksort.media.Contradiction.CLOCK))) {
            return Optional.of(
                    "its clock begins anew within it, as where two recordings were put into one file: part them"
                            + " again");
        }
        boolean varies = facts.video().get().rateKind() == VideoFacts.RateKind.VARIABLE;
        return range.isPresent() && varies
                ? Optional.of("its frame rate varies, so that a range has no fixed frames: make a whole copy")
                : Optional.empty();
    }

    private Resolution soundAlone(ClipFacts facts) {
        var form = new CopyForm(
                Optional.empty(),
                wrapper,
                new Raster(1, 1),
                Rational.of(1),
                FrameRate.FPS_25,
                0,
                true,
                false,
                false,
                false,
                false,
                sound,
                List.of(),
                Optional.empty(),
                false);
        return facts.audio().size() > 1
                ? new Resolution.Possible(form, List.of("streams one after the other in one file"))
                : new Resolution.Possible(form, List.of());
    }

    /// The coded frames are taken over: whatever would need others is impossible.
    private Resolution rewrap(ClipSource source, String container, VideoFacts picture, Optional<FrameRange> range) {
        String codec = picture.codec().label();
        if (!(source instanceof ClipSource.SingleFile)) {
            return new Resolution.Impossible("only a clip in one file can be taken over as it is");
        }
        if (!wrapper.takes(picture.codec())) {
            return new Resolution.Impossible(wrapper.label() + " does not take " + codec + " as it is");
        }
        // The engine writes it as AVC-Intra, whose header it leaves out (measured with FFmpeg 8.0.1: 960x720
        // and the usual rasters above).
        if (wrapper == Wrapper.MOV
                && picture.codec().name().equals("h264")
                && picture.pixels().bitDepth() > 8
                && picture.structure().isAllIntra()
                && picture.raster().height() >= 720) {
            return new Resolution.Impossible(
                    "all-intra H.264 of more than 8 bits does not play from the MOV the engine writes: choose MP4, or"
                            + " another recipe");
        }
        boolean counted = picture.frames().reach() == docksort.media.Frames.Reach.COUNT;
        if (picture.rateKind() == VideoFacts.RateKind.VARIABLE) {
            return new Resolution.Impossible("its frame rate varies: a copy that is encoded anew conforms it");
        }
        boolean cutOff = picture.frames().origin() == docksort.media.Frames.Origin.STATED
                && picture.structure().extent() == docksort.media.FrameStructure.Extent.WHOLE
                && picture.structure().isKnown();
        if (cutOff) {
            return new Resolution.Impossible(
                    "its end is missing: a copy that is encoded anew holds the place of what is lost");
        }
        if (counted || container.equals("MPEG-PS") || picture.rateKind() == VideoFacts.RateKind.INTERPRETED) {
            return new Resolution.Impossible("its file does not say when which frame is shown, which " + wrapper.label()
                    + " must: a copy that is encoded anew counts them");
        }
        var form = new CopyForm(
                Optional.empty(),
                wrapper,
                picture.raster(),
                picture.pixelAspect(),
                picture.rate(),
                picture.frames().count(),
                picture.frames().origin() == docksort.media.Frames.Origin.ESTIMATED,
                picture.scan().isInterlaced(),
                false,
                false,
                picture.pixels().alpha(),
                sound,
                List.of(),
                range,
                false);
        return new Resolution.Possible(form, List.of(codec + " taken over as it is"));
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
        if (!squarePixels || aspect.equals(Rational.of(1))) {
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
        } else if (target.isVc3() && encoding.usual().filter(target::equals).isEmpty()) {
            chosen.add("the resolution-independent family, because of " + raster);
        }
        boolean byDepth = encoding == Encoding.VC3_BY_DEPTH || encoding == Encoding.H264_INTRA;
        if (byDepth) {
            chosen.add(target.bitDepth() + " bit, because the clip has "
                    + picture.pixels().bitDepth());
        }
    }

    private FrameRate rate(VideoFacts picture, List<String> chosen) {
        if (picture.rateKind() != VideoFacts.RateKind.VARIABLE) {
            return picture.rate();
        }
        FrameRate rate = conformTo.orElse(picture.rate());
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

    /// Whether a copy would have less colour resolution than the clip.
    boolean losesChroma(VideoFacts picture, VideoTarget target) {
        Chroma chroma = picture.pixels().chroma();
        boolean more = chroma.isFull() || chroma == Chroma.C440;
        return (more && !target.chroma().isFull()) || (chroma == Chroma.C422 && target.chroma() == Chroma.C420);
    }
}
