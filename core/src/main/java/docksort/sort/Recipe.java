package docksort.sort;

import docksort.arrival.Clip;
import docksort.media.BurnIn;
import docksort.media.BurnIns;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Look;
import docksort.media.PixelFormat.Chroma;
import docksort.media.SoundForm;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.zip.CRC32C;

/// How a copy is made. What depends on the clip is chosen by [#resolve], before anything runs. A recipe
/// whose parts do not go together cannot exist; [RecipeFaults] says why.
///
/// @param id names the recipe in rules, in the catalogue and in the copies themselves
/// @param keepsAlpha whether a clip with transparency gets the codec's profile that carries it
/// @param squarePixels whether pixels are made square, by widening or narrowing
/// @param conformTo the constant rate that clips of variable rate get, empty for the rate their
///     inspection found
/// @param deinterlaces whether whole pictures are made of fields
/// @param look what is done to the colours on purpose
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
        Look look,
        SoundForm sound,
        BurnIns burnIns,
        String naming,
        Placing placing,
        boolean hardware) {
    public static final String USUAL_NAMING = "{clip}_{kind}";

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
            Look.TO_SDR,
            SoundForm.KEPT,
            BurnIns.of(
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
                Look.NONE,
                SoundForm.KEPT,
                BurnIns.NONE,
                USUAL_NAMING,
                Placing.BY_ARRIVAL,
                false);
    }

    /// The same with something else drawn into the picture.
    public Recipe drawing(BurnIns drawn) {
        return with(id, name, drawn, naming, placing);
    }

    /// The same under other names and in another place.
    public Recipe placed(String newNaming, Placing newPlacing) {
        return with(id, name, burnIns, newNaming, newPlacing);
    }

    public Recipe renamed(String newId, String newName) {
        return with(newId, newName, burnIns, naming, placing);
    }

    private Recipe with(String newId, String newName, BurnIns drawn, String newNaming, Placing newPlacing) {
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
                look,
                sound,
                drawn,
                newNaming,
                newPlacing,
                hardware);
    }

    public Recipe {
        var faults = new ArrayList<>(
                RecipeFaults.of(id, name, kind, encoding, wrapper, scaling, burnIns, naming, hardware, sound));
        if (encoding.isRewrap()
                && (squarePixels
                        || conformTo.isPresent()
                        || deinterlaces
                        || !look.equals(Look.NONE)
                        || !burnIns.isEmpty())) {
            faults.add("what is taken over as it is cannot be changed: no square pixels, no other rate, no whole"
                    + " pictures of fields, no other colours, no burn-ins");
        }
        if (!faults.isEmpty()) {
            throw new IllegalArgumentException(String.join("; ", faults));
        }
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
        if (look.isBaked()) {
            parts.add("look " + look.label());
        }
        parts.addAll(burnIns.labels());
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
                Boolean.toString(look.toSdr()),
                sound.toString(),
                burnIns.toString());
        if (look.isBaked()) {
            content += "|" + look.mark();
        }
        var sum = new CRC32C();
        sum.update(content.getBytes(StandardCharsets.UTF_8));
        return String.format(Locale.ROOT, "%08x", sum.getValue()) + (look.isBaked() ? BAKED : "");
    }

    private static final String BAKED = "-look";

    /// Whether a copy that was made by a recipe of this mark has a look baked in.
    public static boolean bakesLook(String mark) {
        return mark.endsWith(BAKED);
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
        return new RecipeForClip(this).of(clip, circumstances, range);
    }

    /// Whether a copy would have less colour resolution than the clip.
    boolean losesChroma(VideoFacts picture, VideoTarget target) {
        Chroma chroma = picture.pixels().chroma();
        boolean more = chroma.isFull() || chroma == Chroma.C440;
        return (more && !target.chroma().isFull()) || (chroma == Chroma.C422 && target.chroma() == Chroma.C420);
    }
}
