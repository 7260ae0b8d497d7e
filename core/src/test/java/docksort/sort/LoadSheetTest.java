package docksort.sort;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.files.Room;
import docksort.media.AudioStream;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Codec;
import docksort.media.CodedFrame;
import docksort.media.Colour;
import docksort.media.Findings;
import docksort.media.Fingerprint;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Frames;
import docksort.media.Hdr;
import docksort.media.PixelFormat;
import docksort.media.PixelFormat.Chroma;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.strain.StrainJudge;
import docksort.strain.TimelineFormat;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LoadSheetTest {
    /// A whole number of groups of 1, 6 and 7 frames, so that their mean scrub costs are exact.
    private static final int FRAMES = 84;

    private static final Room AMPLE =
            new Room("volume", new ByteSize(10_000_000_000_000L), new ByteSize(9_000_000_000_000L));

    private static Clip clip(String name, String raster, int bits, boolean alpha, int interval, int rotation) {
        var frames = new ArrayList<CodedFrame>();
        for (int i = 0; i < FRAMES; i++) {
            frames.add(new CodedFrame(i, i % interval == 0, 50_000));
        }
        var video = new VideoFacts(
                new Codec("h264", "High", 40),
                Raster.parse(raster),
                Raster.parse(raster),
                Rational.of(1),
                rotation,
                ScanType.PROGRESSIVE,
                new PixelFormat("x", bits, Chroma.C422, alpha),
                Colour.UNSTATED,
                Hdr.NONE,
                FrameRate.FPS_25,
                VideoFacts.RateKind.CONSTANT,
                new Frames(FRAMES, Frames.Origin.COUNTED),
                FrameStructure.of(frames, FrameStructure.Extent.WHOLE, new Rational(1, 25)));
        var facts = new ClipFacts(
                "MOV",
                Optional.of(video),
                List.of(new AudioStream("pcm_s24le", 2, "", 48000, 24, Rational.of(4))),
                Rational.of(4),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                new ByteSize(5_000_000),
                Findings.NONE,
                Map.of());
        return new Clip(
                new ClipId(name),
                new ArrivalId("a"),
                new ClipSource.SingleFile(Path.of("/card/" + name + ".mov")),
                facts,
                new Fingerprint(1, "0".repeat(32)));
    }

    private static LoadSheet plan(List<Clip> clips, Map<ClipId, List<Recipe>> byHand, Room room) {
        return LoadSheet.plan(
                clips, SortRule.BUILT_IN, byHand, (_, _) -> false, new StrainJudge(TimelineFormat.HD_25), room);
    }

    @ParameterizedTest
    @CsvSource({
        "1920x1080, 1, 0", // exactly the raster, all-intra: nothing catches it
        "1922x1080, 1, 2",
        "1080x1922, 1, 2",
        "1920x1080, 7, 3", // mean of (n+1)/2 = 4: at least 4 catches it
        "1920x1080, 6, 0",
        "3840x2160, 50, 2" // the first rule that catches decides
    })
    void theFirstRuleThatCatchesDecides(String raster, int interval, int rule) {
        var sheet = plan(List.of(clip("c", raster, 8, false, interval, 0)), Map.of(), AMPLE);
        assertThat(sheet.sorted().getFirst().rule()).isEqualTo(rule);
    }

    @ParameterizedTest
    @CsvSource({
        "1920x1080, 8, 0, VC3_HD, 1920×1080, 77070336",
        "1920x1080, 10, 0, VC3_HD_X, 1920×1080, 77070336",
        "1280x720, 12, 0, VC3_HD_X, 1280×720, 38535168",
        "1440x1080, 8, 0, VC3_HQ, 1440×1080, 57802752",
        "3840x2160, 10, 0, VC3_HQX, 3840×2160, 305872896",
        "1920x1080, 8, 90, VC3_HQ, 1080×1920, 77070336"
    })
    void theFullRecipeChoosesFamilyAndDepthByItself(
            String raster, int bits, int rotation, VideoTarget target, String made, long bytes) {
        Clip clip = clip("c", raster, bits, false, 1, rotation);
        PlannedCopy copy = LoadSheet.planned(clip, Recipe.FULL_VC3, "", false);
        assertThat(copy.resolution()).isInstanceOfSatisfying(Recipe.Resolution.Possible.class, possible -> {
            assertThat(possible.target()).isEqualTo(target);
            assertThat(possible.raster()).hasToString(made);
        });
        assertThat(copy.bytes().isExact()).isTrue();
        assertThat(copy.bytes().pictureLow()).isEqualTo(bytes);
        assertThat(copy.bytes().soundBytes())
                .as("48 kHz x 2 x 24 bit = 288000 B/s")
                .isEqualTo(4 * 288_000);
    }

    @ParameterizedTest
    @CsvSource({"3840x2160, 1920×1080", "1920x1080, 1280×720", "1280x720, 1280×720", "4096x1716, 2578×1080"})
    void fittingNeverEnlargesAndTakesTheLargestThatIsSmaller(String raster, String made) {
        var resolution =
                Recipe.LIGHT_VC3_FIT.resolve(clip("c", raster, 8, false, 1, 0).facts());
        assertThat(resolution)
                .isInstanceOfSatisfying(
                        Recipe.Resolution.Possible.class,
                        p -> assertThat(p.raster()).hasToString(made));
    }

    @Test
    void mistakesAreNamedWithTheClipsTheyConcern() {
        Clip titles = clip("titles", "1920x1080", 12, true, 1, 0);
        Clip tiny = clip("tiny", "240x100", 8, false, 1, 0);
        var sheet = plan(
                List.of(titles, tiny),
                Map.of(titles.id(), List.of(Recipe.FULL_VC3), tiny.id(), List.of(Recipe.LIGHT_VC3_FIT)),
                AMPLE);
        assertThat(sheet.warnings()).anySatisfy(w -> {
            assertThat(w.text()).contains("would lose transparency");
            assertThat(w.clips()).containsExactly(titles.id());
        });
        assertThat(sheet.warnings()).anySatisfy(w -> assertThat(w.text()).contains("cannot be made"));
        assertThat(sheet.warnings()).anySatisfy(w -> assertThat(w.text()).contains("less colour or depth"));
        assertThat(sheet.wanted()).extracting(c -> c.clip().name()).containsExactly("titles");
    }

    @Test
    void aPlanThatDoesNotFitSaysHowMuchIsMissingAndWhatWouldFit() {
        var clips = List.of(clip("a", "1920x1080", 8, false, 1, 0), clip("b", "1920x1080", 8, false, 1, 0));
        Map<ClipId, List<Recipe>> full =
                Map.of(clips.get(0).id(), List.of(Recipe.FULL_VC3), clips.get(1).id(), List.of(Recipe.FULL_VC3));
        var tight = new Room("small", new ByteSize(1_000_000_000), new ByteSize(140_000_000));
        var sheet = plan(clips, full, tight);
        assertThat(sheet.fits()).isFalse();
        assertThat(sheet.missing().bytes()).isEqualTo(2 * (77_070_336 + 1_152_000) + 50_000_000 - 140_000_000);
        assertThat(sheet.thatFit()).extracting(c -> c.clip().name()).containsExactly("a");
        assertThat(sheet.warnings().getFirst().stops()).isTrue();
    }

    @Test
    void whatIsInStockIsNotWantedAgainAndSoundAloneCannotBeCopied() {
        Clip clip = clip("a", "3840x2160", 8, false, 50, 0);
        var stocked = LoadSheet.plan(
                List.of(clip),
                SortRule.BUILT_IN,
                Map.of(),
                (_, _) -> true,
                new StrainJudge(TimelineFormat.HD_25),
                AMPLE);
        assertThat(stocked.wanted()).isEmpty();
        assertThat(stocked.copies())
                .singleElement()
                .satisfies(c -> assertThat(c.already()).isTrue());
        assertThat(Recipe.FULL_VC3.resolve(clip.facts().withVideo(Optional.empty())))
                .isEqualTo(new Recipe.Resolution.Impossible("it has no picture"));
    }

    @Test
    void noCopyIsPlannedThatWouldNotBeTrueToTheFrame() {
        Clip whole = clip("A", "1920x1080", 8, false, 1, 0);
        Path folder = Path.of("/card");
        for (ClipSource source : List.of(
                new ClipSource.NumberedStills(folder, "s.", 4, ".png", 1, 9, List.of(4, 5)),
                new ClipSource.Spanned(List.of(folder.resolve("1.mov"), folder.resolve("2.mov"))))) {
            var clip = new Clip(whole.id(), whole.arrival(), source, whole.facts(), whole.fingerprint());
            assertThat(LoadSheet.planned(clip, Recipe.FULL_VC3, "", false).isWanted())
                    .as("%s", source)
                    .isFalse();
        }
        assertThat(LoadSheet.planned(whole, Recipe.FULL_VC3, "", false).isWanted())
                .isTrue();
    }
}
