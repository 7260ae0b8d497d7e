package docksort.sort;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.media.BurnIn;
import docksort.media.BurnIns;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Look;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.SoundForm;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import docksort.strain.TimelineFormat;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

class RecipeTest {
    private static final Circumstances HD = Circumstances.of(TimelineFormat.HD_25);

    private static Recipe recipe(CopyKind kind, Encoding encoding, Wrapper wrapper, Scaling scaling, BurnIn... drawn) {
        return Recipe.of("mine", "Mine", kind, encoding, wrapper, scaling).drawing(BurnIns.of(drawn));
    }

    private static CopyForm form(Recipe recipe, Clip clip) {
        return ((Recipe.Resolution.Possible) recipe.resolve(clip, HD)).form();
    }

    /// The HD family of VC-3 at or below 1920x1080 where its raster exists, otherwise the
    /// resolution-independent one; ten bits only for sources over eight; 4444 for transparency (all
    /// common practice, no source; the family's rasters: SMPTE ST 2019-1, from memory).
    @ParameterizedTest
    @CsvSource({
        "VC3_BY_DEPTH, 1920x1080, 8, false, PROGRESSIVE, VC3_HD",
        "VC3_BY_DEPTH, 1920x1080, 10, false, PROGRESSIVE, VC3_HD_X",
        "VC3_BY_DEPTH, 1920x1080, 12, false, TOP_FIELD_FIRST, VC3_HD_X",
        "VC3_BY_DEPTH, 1280x720, 8, false, PROGRESSIVE, VC3_HD",
        "VC3_BY_DEPTH, 960x540, 8, false, PROGRESSIVE, VC3_HQ",
        "VC3_BY_DEPTH, 2048x1080, 8, false, PROGRESSIVE, VC3_HQ",
        "VC3_BY_DEPTH, 3840x2160, 10, false, PROGRESSIVE, VC3_HQX",
        "VC3_LOW, 1920x1080, 8, false, PROGRESSIVE, VC3_HD_LOW",
        "VC3_LOW, 1280x720, 8, false, PROGRESSIVE, VC3_LB",
        "VC3_MIDDLE, 1920x1080, 8, false, PROGRESSIVE, VC3_HD_MIDDLE",
        "VC3_MIDDLE, 3840x2160, 8, false, PROGRESSIVE, VC3_SQ",
        "PRORES_422, 1920x1080, 8, false, PROGRESSIVE, PRORES_422",
        "PRORES_422, 1920x1080, 12, true, PROGRESSIVE, PRORES_4444",
        "PRORES_PROXY, 1920x1080, 8, true, PROGRESSIVE, PRORES_4444",
        "CINEFORM, 1920x1080, 12, true, PROGRESSIVE, CINEFORM_ALPHA",
        "VC3_HQ, 1920x1080, 8, true, PROGRESSIVE, VC3_HQ",
        "H264_INTRA, 1920x1080, 8, false, PROGRESSIVE, H264_INTRA",
        "H264_INTRA, 1920x1080, 10, false, PROGRESSIVE, H264_INTRA_10"
    })
    void whatDependsOnTheClipIsChosenAndTold(
            Encoding encoding, String raster, int bits, boolean alpha, ScanType scan, VideoTarget target) {
        Clips clips = Clips.named("c").raster(raster).bits(bits).scan(scan);
        Clip clip = alpha ? clips.alpha().clip() : clips.clip();
        Recipe recipe = recipe(CopyKind.FULL, encoding, Wrapper.MOV, new Scaling.Full());
        var possible = (Recipe.Resolution.Possible) recipe.resolve(clip, HD);
        assertThat(possible.form().target()).contains(target);
        boolean other = encoding.usual().filter(target::equals).isEmpty();
        assertThat(other && possible.chosen().isEmpty())
                .as("every choice is told")
                .isFalse();
    }

    /// The engine's VC-3 encoder takes fields only in the HD family, that of Motion JPEG none, and MXF carries
    /// no pixel aspect of VC-3.
    @Test
    void whatACodecCannotCarryHereIsToldBefore() {
        Recipe vc3 = recipe(CopyKind.FULL, Encoding.VC3_BY_DEPTH, Wrapper.MXF, new Scaling.Full());
        Clip fields = Clips.named("f")
                .raster("720x576")
                .scan(ScanType.TOP_FIELD_FIRST)
                .clip();
        Recipe jpeg = recipe(CopyKind.LIGHT, Encoding.MOTION_JPEG, Wrapper.MOV, new Scaling.Full());
        for (Recipe fieldless : List.of(vc3, jpeg)) {
            assertThat(fieldless.resolve(fields, HD))
                    .isInstanceOfSatisfying(
                            Recipe.Resolution.Impossible.class,
                            no -> assertThat(no.why()).contains("has no fields here"));
        }
        Recipe prores = recipe(CopyKind.FULL, Encoding.PRORES_422, Wrapper.MXF, new Scaling.Full());
        assertThat(prores.resolve(fields, HD))
                .isInstanceOfSatisfying(
                        Recipe.Resolution.Impossible.class,
                        no -> assertThat(no.why()).contains("does not state its fields"));
        Clip wide = Clips.named("w").raster("720x576").aspect("64/45").clip();
        assertThat(vc3.resolve(wide, HD))
                .isInstanceOfSatisfying(
                        Recipe.Resolution.Impossible.class,
                        no -> assertThat(no.why()).contains("64/45"));
    }

    @ParameterizedTest
    @CsvSource({
        "3840x2160, 1920×1080",
        "1920x1080, 1280×720",
        "1280x720, 1280×720",
        "4096x1716, 2578×1080",
        "720x576, 720×576"
    })
    void fittingTakesTheLargestThatIsSmallerAndNeverEnlarges(String raster, String made) {
        assertThat(form(Recipe.LIGHT_VC3_FIT, Clips.named("c").raster(raster).clip())
                        .raster())
                .hasToString(made);
    }

    /// Whatever a clip is: even sides, the shape within one pixel, no side larger than the source's.
    @Test
    void noRecipeEnlargesMakesOddSidesOrChangesTheShape() {
        var random = new Random(11);
        var scalings = List.of(
                new Scaling.Full(),
                new Scaling.PerSide(2),
                new Scaling.PerSide(3),
                new Scaling.PerSide(16),
                new Scaling.FitLines(List.of(1080, 720)),
                new Scaling.FitTimeline());
        for (int i = 0; i < 4_000; i++) {
            int rotation = 90 * random.nextInt(4);
            int width = random.nextInt(64, 8_192);
            int height = random.nextInt(64, 4_320);
            Clip clip = Clips.named("c")
                    .raster(width + "x" + height)
                    .frames(2)
                    .turned(rotation)
                    .clip();
            Raster upright = rotation % 180 == 0 ? new Raster(width, height) : new Raster(height, width);
            Scaling scaling = scalings.get(random.nextInt(scalings.size()));
            Raster made = form(recipe(CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, scaling), clip)
                    .raster();
            String what = upright + " by " + scaling + " is " + made;
            assertThat(made.width() % 2 + made.height() % 2).as(what).isZero();
            assertThat(made.width()).as(what).isLessThanOrEqualTo(upright.width() + 1);
            assertThat(made.height()).as(what).isLessThanOrEqualTo(upright.height() + 1);
            double wanted = made.height() * (double) upright.width() / upright.height();
            double pixel = 2.0 * Math.max(1, upright.width() / (double) upright.height());
            assertThat(Math.abs(made.width() - wanted)).as(what).isLessThanOrEqualTo(pixel);
            if (scaling instanceof Scaling.FitTimeline) {
                assertThat(made.width() <= 1920 && made.height() <= 1080)
                        .as(what)
                        .isTrue();
            }
        }
    }

    @Test
    void variableRateIsConformedSquarePixelsKeepTheShapeAndHdrIsOnlyBroughtDownWhenAsked() {
        Clip screen = Clips.named("s").variable().rate("60").frames(600).clip();
        var recipe = new Recipe(
                "mine",
                "Mine",
                CopyKind.LIGHT,
                Encoding.PRORES_PROXY,
                Wrapper.MOV,
                new Scaling.Full(),
                true,
                true,
                Optional.of(FrameRate.FPS_25),
                false,
                Look.TO_SDR,
                SoundForm.KEPT,
                BurnIns.NONE,
                Recipe.USUAL_NAMING,
                Placing.BY_ARRIVAL,
                false);
        assertThat(form(recipe, screen).rate()).isEqualTo(FrameRate.FPS_25);
        assertThat(form(recipe, screen).frames()).as("ten seconds").isEqualTo(250);
        Clip constant = Clips.named("c").rate("50").clip();
        assertThat(form(recipe, constant).rate().exact())
                .as("constant rates are kept")
                .isEqualTo(Rational.of(50));
        Clip wide = Clips.named("w").raster("720x576").aspect("64/45").clip();
        assertThat(form(recipe, wide).raster())
                .as("720x576 shown at 16:9, not enlarged")
                .hasToString("720×406");
        assertThat(form(recipe, wide).pixelAspect()).isEqualTo(Rational.of(1));
        assertThat(form(recipe, Clips.named("h").pq().bits(10).clip()).toSdr()).isTrue();
        assertThat(form(recipe, constant).toSdr()).isFalse();
        assertThat(form(Recipe.FULL_VC3, Clips.named("h").pq().bits(10).clip()).toSdr())
                .isFalse();
    }

    @Test
    void partsThatDoNotGoTogetherAreRefusedWithTheReason() {
        assertThatThrownBy(() -> recipe(CopyKind.LIGHT, Encoding.PRORES_LT, Wrapper.MP4, new Scaling.Full()))
                .hasMessageContaining("MP4 does not take ProRes LT");
        assertThatThrownBy(() -> recipe(CopyKind.LIGHT, Encoding.MOTION_JPEG, Wrapper.MXF, new Scaling.Full()))
                .hasMessageContaining("MXF OP1a does not take Motion JPEG");
        assertThatThrownBy(() -> recipe(CopyKind.LIGHT, Encoding.SOUND_ONLY, Wrapper.WAV, new Scaling.Full()))
                .hasMessageContaining("kind sound");
        assertThatThrownBy(() -> recipe(CopyKind.FULL, Encoding.PRORES_HQ, Wrapper.MOV, new Scaling.PerSide(2)))
                .hasMessageContaining("divided sides make a light copy");
        var name = new BurnIn(BurnIn.What.NAME, BurnIn.At.TOP, "");
        assertThatThrownBy(() -> recipe(CopyKind.FULL, Encoding.PRORES_HQ, Wrapper.MOV, new Scaling.Full(), name))
                .hasMessageContaining("no burn-ins");
        assertThatThrownBy(
                        () -> recipe(CopyKind.LIGHT, Encoding.PRORES_HQ, Wrapper.MOV, new Scaling.Full(), name, name))
                .hasMessageContaining("lie on each other");
        assertThat(Naming.fault("{kind}").orElseThrow()).contains("needs {clip}");
        assertThat(Naming.fault("{clip}/{date}").orElseThrow()).contains("must not have /");
        assertThat(Naming.fault("{clip}{date}").orElseThrow()).contains("does not know {date}");
    }

    @Test
    void aRangeMustLieInTheClipAndHaveFixedFrames() {
        Clip clip = Clips.named("c").frames(50).clip();
        Recipe recipe = Recipe.RANGE_VC3;
        assertThat(recipe.resolve(clip, HD, Optional.of(new FrameRange(40, 11))))
                .isInstanceOf(Recipe.Resolution.Impossible.class);
        var possible = (Recipe.Resolution.Possible) recipe.resolve(clip, HD, Optional.of(new FrameRange(40, 10)));
        assertThat(possible.form().frames()).isEqualTo(10);
        assertThat(recipe.resolve(Clips.named("v").variable().clip(), HD, Optional.of(new FrameRange(0, 5))))
                .isInstanceOf(Recipe.Resolution.Impossible.class);
    }

    /// Target data rates of the codec owner's published white paper, Mb/s, from memory. They are targets: a
    /// tenth and a half more or less is their order.
    @ParameterizedTest
    @CsvSource({
        "1920x1080, 24000/1001, 36, 82, 117, 176, 264",
        "1920x1080, 25, 38, 85, 122, 184, 275",
        "1920x1080, 30000/1001, 45, 102, 147, 220, 330",
        "1920x1080, 60000/1001, 91, 204, 293, 440, 660",
        "3840x2160, 25, 151, 342, 492, 737, 1106",
        "3840x2160, 30000/1001, 182, 410, 589, 884, 1326"
    })
    void proResSizesAreOfThePublishedOrder(
            String raster, String rate, double proxy, double lt, double standard, double hq, double four) {
        double[] published = {proxy, lt, standard, hq, four};
        VideoTarget[] targets = {
            VideoTarget.PRORES_PROXY,
            VideoTarget.PRORES_LT,
            VideoTarget.PRORES_422,
            VideoTarget.PRORES_HQ,
            VideoTarget.PRORES_4444
        };
        for (int i = 0; i < targets.length; i++) {
            double bytes = PredictedBytes.usualFrameBytes(targets[i], Raster.parse(raster));
            double megabits = bytes * 8 * FrameRate.parse(rate).exact().toDouble() / 1e6;
            assertThat(megabits / published[i]).as("%s", targets[i]).isBetween(0.85, 1.15);
        }
    }

    @Test
    void whatIsTakenOverAsItIsFitsItsContainerAndChangesNothing() {
        Recipe mov = Recipe.FULL_REWRAP;
        Clip plain = Clips.named("c").clip();
        CopyForm form = form(mov, plain);
        assertThat(form.isRewrap()).isTrue();
        assertThat(form.frames())
                .isEqualTo(plain.facts().video().orElseThrow().frames().count());
        assertThat(form.raster()).isEqualTo(plain.facts().video().orElseThrow().raster());
        Recipe mxf = recipe(CopyKind.FULL, Encoding.REWRAP, Wrapper.MXF, new Scaling.Full());
        assertThat(mxf.resolve(plain, HD))
                .isInstanceOfSatisfying(
                        Recipe.Resolution.Impossible.class,
                        no -> assertThat(no.why()).contains("does not take H.264"));
        assertThat(mov.resolve(plain, HD, Optional.of(new FrameRange(0, 5))))
                .isInstanceOf(Recipe.Resolution.Impossible.class);
        assertThat(mov.resolve(Clips.named("intra").bits(10).clip(), HD))
                .as("the engine's MOV of it does not decode")
                .isInstanceOf(Recipe.Resolution.Impossible.class);
        BurnIn name = new BurnIn(BurnIn.What.NAME, BurnIn.At.TOP, "");
        Assertions.assertThatThrownBy(() -> mov.drawing(BurnIns.of(name))).hasMessageContaining("cannot be changed");
        assertThat(mov.mark()).isEqualTo(mov.renamed("other", "Other").mark());
        assertThat(mov.mark()).isNotEqualTo(mxf.mark());
    }

    @ParameterizedTest
    @EnumSource(VideoTarget.class)
    void whatTheEngineCannotMakeIsToldBefore(VideoTarget missing) {
        var without = new Circumstances(TimelineFormat.HD_25, EnumSet.of(missing));
        Clip clip = Clips.named("c").clip();
        for (Encoding encoding : Encoding.values()) {
            CopyKind kind = encoding.isSoundOnly() ? CopyKind.SOUND : CopyKind.FULL;
            Wrapper wrapper =
                    encoding.isSoundOnly() ? Wrapper.WAV : encoding == Encoding.AV1_LONG ? Wrapper.MP4 : Wrapper.MOV;
            Recipe recipe = recipe(kind, encoding, wrapper, new Scaling.Full());
            boolean wanted = form(recipe, clip).target().filter(missing::equals).isPresent();
            assertThat(recipe.resolve(clip, without) instanceof Recipe.Resolution.Impossible)
                    .as("%s without %s", encoding, missing)
                    .isEqualTo(wanted);
        }
    }
}
