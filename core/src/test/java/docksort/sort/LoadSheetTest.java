package docksort.sort;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.files.Room;
import docksort.media.ByteSize;
import docksort.media.ClipSource;
import docksort.media.FrameRange;
import docksort.media.PixelFormat.Chroma;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import docksort.sort.Fact.Is;
import docksort.sort.Warning.Remedy;
import docksort.sort.Warning.Weight;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LoadSheetTest {
    private static final Planning PLAIN = Clips.planning(SortBook.BUILT_IN);

    private static Planning byHand(Map<ClipId, List<String>> chosen, Room room) {
        return new Planning(
                PLAIN.book(),
                chosen,
                PLAIN.inStock(),
                PLAIN.judge(),
                PLAIN.playRatios(),
                PLAIN.circumstances(),
                PLAIN.pastCopies(),
                (_, _) -> room,
                PLAIN.arrivals(),
                PLAIN.ranges(),
                (_, _) -> List.of(),
                Set.of(),
                _ -> Optional.empty());
    }

    private static LoadSheet all(Recipe recipe, Clip... clips) {
        var chosen = new HashMap<ClipId, List<String>>();
        for (Clip clip : clips) {
            chosen.put(clip.id(), List.of(recipe.id()));
        }
        return LoadSheet.plan(List.of(clips), byHand(chosen, Clips.AMPLE));
    }

    @ParameterizedTest
    @CsvSource({
        "1920x1080, 1, 0", // exactly the raster, all-intra: nothing catches it
        "1922x1080, 1, 2",
        "1080x1922, 1, 2",
        "1080x1920, 1, 0", // as large as the same one lying
        "1920x1080, 28, 3", // mean of (n+1)/2 = 14.5 frames of 2,073,600 pixels: 30 million are a visible wait
        "1920x1080, 27, 0",
        "3840x2160, 50, 2" // the first rule that catches decides
    })
    void theFirstRuleThatCatchesDecides(String raster, int interval, int rule) {
        Clip clip = Clips.named("c").raster(raster).interval(interval).clip();
        Sorted sorted = LoadSheet.plan(List.of(clip), PLAIN).sorted().getFirst();
        assertThat(sorted.rule()).isEqualTo(rule);
        assertThat(sorted.sentence().isEmpty()).isEqualTo(rule == 0);
    }

    /// Sound: 48 kHz, 24 bit, 2 channels = 288000 B/s.
    @ParameterizedTest
    @CsvSource({
        "1920x1080, 8, 0, VC3_HD, 1920×1080, 77070336",
        "1920x1080, 10, 0, VC3_HD_X, 1920×1080, 77070336",
        "1280x720, 12, 0, VC3_HD_X, 1280×720, 38535168",
        "1440x1080, 8, 0, VC3_HQ, 1440×1080, 57802752",
        "3840x2160, 10, 0, VC3_HQX, 3840×2160, 305872896",
        "1920x1080, 8, 90, VC3_HQ, 1080×1920, 77070336"
    })
    void theFullRecipeChoosesFamilyAndDepthByItselfAndItsBytesAreExact(
            String raster, int bits, int rotation, VideoTarget target, String made, long bytes) {
        Clip clip = Clips.named("c").raster(raster).bits(bits).turned(rotation).clip();
        PlannedCopy copy = LoadSheet.planned(clip, Recipe.FULL_VC3, "", PLAIN).getFirst();
        assertThat(copy.form().orElseThrow().target()).contains(target);
        assertThat(copy.form().orElseThrow().raster()).hasToString(made);
        assertThat(copy.bytes().isExact()).isTrue();
        assertThat(copy.bytes().pictureLow()).isEqualTo(bytes);
        assertThat(copy.bytes().soundBytes()).isEqualTo(Math.round(288_000 * 84 / 25.0));
    }

    @Test
    void eachMistakeIsNamedWithItsClipsAndARemedy() {
        Clip titles = Clips.named("titles").bits(12).alpha().clip();
        Clip deep = Clips.named("deep")
                .bits(10)
                .chroma(Chroma.C444)
                .frameBytes(9_000_000)
                .clip();
        Clip small = Clips.named("small").frameBytes(300).clip();
        Clip plain = Clips.named("plain").frameBytes(9_000_000).clip();
        expect(all(Recipe.FULL_VC3, titles), "lose transparency", Weight.MISTAKE, Recipe.FULL_PRORES.id(), titles);
        expect(all(Recipe.FULL_VC3, deep), "less colour", Weight.NOTE, "", deep);
        expect(all(Recipe.LIGHT_VC3_FIT, small), "larger than originals", Weight.MISTAKE, "", small);
        Clip wide = Clips.named("wide")
                .raster("2560x1440")
                .interval(50)
                .frameBytes(9_000_000)
                .clip();
        expect(all(Recipe.LIGHT_PRORES_HALF, wide), "timeline's 1080 lines", Weight.NOTE, "light-vc3-fit", wide);
        Recipe longGop =
                Recipe.of("mine", "Mine", CopyKind.LIGHT, Encoding.H264_LONG, Wrapper.MP4, new Scaling.PerSide(2));
        Clip huge =
                Clips.named("huge").raster("3840x2160").frameBytes(9_000_000).clip();
        expect(own(longGop, huge), "long-GOP", Weight.NOTE, Recipe.LIGHT_PRORES_HALF.id(), huge);
        Recipe eight = with(Encoding.VC3_HQ);
        expect(own(eight, deep), "would have fewer bits", Weight.MISTAKE, Recipe.FULL_VC3.id(), deep);
        expect(own(with(Encoding.VC3_HQX), plain), "would have more bits", Weight.MISTAKE, Recipe.FULL_VC3.id(), plain);
        assertThat(all(Recipe.FULL_VC3, plain).warnings())
                .as("nothing to say, nothing said")
                .isEmpty();
    }

    private static Recipe with(Encoding encoding) {
        return Recipe.of("mine", "Mine", CopyKind.FULL, encoding, Wrapper.MOV, new Scaling.Full());
    }

    private static LoadSheet own(Recipe recipe, Clip clip) {
        var book = new SortBook(List.of(recipe), List.of(new SortRule(List.of(), List.of(recipe.id()))), false);
        return LoadSheet.plan(List.of(clip), PLAIN.with(book));
    }

    private static void expect(LoadSheet sheet, String words, Weight weight, String recipe, Clip clip) {
        assertThat(sheet.warnings()).anySatisfy(warning -> {
            assertThat(warning.text()).contains(words);
            assertThat(warning.weight()).isEqualTo(weight);
            assertThat(warning.clips()).containsExactly(clip.id());
            if (!recipe.isEmpty()) {
                assertThat(warning.remedy())
                        .isInstanceOfSatisfying(
                                Remedy.Choose.class,
                                choose -> assertThat(choose.recipes()).isEqualTo(Map.of(clip.id(), List.of(recipe))));
            }
        });
    }

    @Test
    void oneCamerasMixedFractionsAndEqualNamesAreFound() {
        Clip a = Clips.named("A").raster("3840x2160").frameBytes(9_000_000).clip();
        Clip b = Clips.named("B").raster("3840x2160").frameBytes(9_000_000).clip();
        Clip c = Clips.named("C").raster("3840x2160").frameBytes(9_000_000).clip();
        Map<ClipId, List<String>> chosen = Map.of(
                a.id(), List.of("light-prores-half"),
                b.id(), List.of("light-prores-half"),
                c.id(), List.of("quarter"));
        Recipe quarter =
                Recipe.of("quarter", "1/4", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, new Scaling.PerSide(4));
        LoadSheet mixed = LoadSheet.plan(
                List.of(a, b, c), byHand(chosen, Clips.AMPLE).with(PLAIN.book().with(quarter)));
        expect(mixed, "another fraction", Weight.MISTAKE, Recipe.LIGHT_PRORES_HALF.id(), c);
        Clip twin = Clips.named("A").in("second card").raster("3840x2160").clip();
        Planning named = new Planning(
                PLAIN.book(),
                Map.of(),
                PLAIN.inStock(),
                PLAIN.judge(),
                Map.of(),
                PLAIN.circumstances(),
                PLAIN.pastCopies(),
                PLAIN.rooms(),
                Map.of(new ArrivalId("card"), "Card", new ArrivalId("second card"), "Second"),
                Map.of(),
                (_, _) -> List.of(),
                Set.of(),
                _ -> Optional.empty());
        assertThat(LoadSheet.plan(List.of(a, twin), named).warnings())
                .as("each arrival has its folder")
                .noneMatch(warning -> warning.text().contains("same name"));
        var oneFolder = new SortBook(
                List.of(placed(Placing.ONE_FOLDER)), List.of(new SortRule(List.of(), List.of("mine"))), false);
        assertThat(LoadSheet.plan(List.of(a, twin), named.with(oneFolder)).warnings())
                .anySatisfy(warning -> {
                    assertThat(warning.text()).contains("2 copies would have the same name");
                    assertThat(warning.clips()).containsExactlyInAnyOrder(a.id(), twin.id());
                });
    }

    private static Recipe placed(Placing placing) {
        return with(Encoding.VC3_BY_DEPTH).placed(Recipe.USUAL_NAMING, placing);
    }

    @Test
    void aPlanThatDoesNotFitSaysHowMuchIsMissingAndWhatWouldFit() {
        Clip a = Clips.named("a").clip();
        Clip b = Clips.named("b").clip();
        Map<ClipId, List<String>> full = Map.of(a.id(), List.of("full-vc3"), b.id(), List.of("full-vc3"));
        Planning tight = byHand(full, Clips.room("small", 140_000_000));
        var sheet = LoadSheet.plan(List.of(a, b), tight);
        assertThat(sheet.fits()).isFalse();
        long each = 77_070_336 + Math.round(288_000 * 84 / 25.0);
        assertThat(sheet.missing()).isEqualTo(new ByteSize(2 * each + 50_000_000 - 140_000_000));
        assertThat(sheet.warnings().getFirst().stops()).isTrue();
        LoadSheet part = sheet.thatFit(tight);
        assertThat(part.wanted()).extracting(c -> c.clip().name()).containsExactly("a");
        assertThat(part.fits()).isTrue();
    }

    @Test
    void whatIsInStockIsNotWantedAndRangesAreMadeForEachUsedPart() {
        Clip clip = Clips.named("a").raster("3840x2160").clip();
        var stocked = new Planning(
                PLAIN.book(),
                Map.of(),
                _ -> true,
                PLAIN.judge(),
                Map.of(),
                PLAIN.circumstances(),
                PLAIN.pastCopies(),
                PLAIN.rooms(),
                Map.of(),
                Map.of(clip.id(), List.of(new FrameRange(0, 10), new FrameRange(50, 34))),
                (_, _) -> List.of(),
                Set.of(),
                _ -> Optional.empty());
        assertThat(LoadSheet.plan(List.of(clip), stocked).wanted()).isEmpty();
        List<PlannedCopy> ranges = LoadSheet.planned(
                clip,
                Recipe.RANGE_VC3,
                "",
                new Planning(
                        stocked.book(),
                        Map.of(),
                        _ -> false,
                        stocked.judge(),
                        Map.of(),
                        stocked.circumstances(),
                        stocked.pastCopies(),
                        stocked.rooms(),
                        Map.of(),
                        stocked.ranges(),
                        (_, _) -> List.of(),
                        Set.of(),
                        _ -> Optional.empty()));
        assertThat(ranges).extracting(c -> c.form().orElseThrow().frames()).containsExactly(10L, 34L);
        assertThat(ranges).allMatch(c -> c.bytes().isExact());
        assertThat(LoadSheet.planned(clip, Recipe.RANGE_VC3, "", PLAIN)
                        .getFirst()
                        .resolution())
                .isInstanceOfSatisfying(
                        Recipe.Resolution.Impossible.class,
                        no -> assertThat(no.why()).contains("no timeline"));
    }

    @Test
    void noCopyIsPlannedOfStillsWithGaps() {
        Clips whole = Clips.named("A");
        Clip clip = whole.of(
                whole.facts(), new ClipSource.NumberedStills(Path.of("/card"), "s.", 4, ".png", 1, 9, List.of(4, 5)));
        assertThat(LoadSheet.planned(clip, Recipe.FULL_VC3, "", PLAIN)
                        .getFirst()
                        .isWanted())
                .isFalse();
    }

    /// Many clips of many kinds under the rules and every recipe in turn.
    @Test
    void totalsAreTheSumOfPartsAndTheSamePlanComesOutEveryTime() {
        var random = new Random(4);
        var clips = new ArrayList<Clip>();
        for (int i = 0; i < 300; i++) {
            clips.add(Clips.named("c" + i)
                    .raster(random.nextInt(2, 4_096) + "x" + random.nextInt(2, 2_304))
                    .bits(random.nextBoolean() ? 8 : 10)
                    .interval(1 + random.nextInt(60))
                    .frames(1 + random.nextInt(200))
                    .clip());
        }
        for (Recipe recipe : Recipe.BUILT_IN) {
            LoadSheet sheet = all(recipe, clips.toArray(Clip[]::new));
            long least = sheet.wanted().stream()
                    .mapToLong(c -> c.bytes().least().bytes())
                    .sum();
            long most = sheet.volumes().stream()
                    .mapToLong(v -> v.bytes().most().bytes())
                    .sum();
            assertThat(sheet.bytes().least().bytes()).isEqualTo(least);
            assertThat(sheet.bytes().most().bytes()).isEqualTo(most);
            assertThat(sheet).isEqualTo(all(recipe, clips.toArray(Clip[]::new)));
        }
    }

    @Test
    void whatAChangedRuleWouldDoIsToldBefore() {
        Clip hard = Clips.named("hard").interval(50).clip();
        Clip easy = Clips.named("easy").clip();
        LoadSheet before = LoadSheet.plan(List.of(hard, easy), PLAIN);
        var stricter = SortBook.BUILT_IN.withRules(List.of(new SortRule(
                List.of(new Condition(Fact.SCRUB_COST, Is.AT_LEAST, "1")), List.of(Recipe.LIGHT_PRORES_HALF.id()))));
        List<LoadSheet.Change> changes = before.changes(LoadSheet.plan(List.of(hard, easy), PLAIN.with(stricter)));
        assertThat(changes).singleElement().satisfies(change -> {
            assertThat(change.clip()).isEqualTo(easy);
            assertThat(change.before()).isEmpty();
            assertThat(change.after()).containsExactly(Recipe.LIGHT_PRORES_HALF);
        });
    }

    @Test
    void whatWasMadeBeforeNarrowsSizesAndGivesTimes() {
        Clip clip = Clips.named("next").clip();
        PlannedCopy unknown =
                LoadSheet.planned(clip, Recipe.LIGHT_PRORES_HALF, "", PLAIN).getFirst();
        assertThat(unknown.time().isKnown()).isFalse();
        double usual = PastCopy.usual(unknown.form().orElseThrow(), 0);
        var made = new ArrayList<PastCopies.Of>();
        for (int i = 0; i < 3; i++) {
            Clip other = Clips.named("made" + i).clip();
            made.add(new PastCopies.Of(
                    other.fingerprint(),
                    Recipe.LIGHT_PRORES_HALF.id(),
                    new PastCopy(
                            Optional.of(VideoTarget.PRORES_PROXY),
                            "H.264",
                            1920 * 1080,
                            960 * 540,
                            84,
                            usual,
                            usual * (0.5 + 0.05 * i),
                            0.01,
                            false)));
        }
        Planning wiser = new Planning(
                PLAIN.book(),
                Map.of(),
                PLAIN.inStock(),
                PLAIN.judge(),
                Map.of(),
                PLAIN.circumstances(),
                new PastCopies(made),
                PLAIN.rooms(),
                Map.of(),
                Map.of(),
                (_, _) -> List.of(),
                Set.of(),
                _ -> Optional.empty());
        PlannedCopy copy =
                LoadSheet.planned(clip, Recipe.LIGHT_PRORES_HALF, "", wiser).getFirst();
        assertThat(copy.bytes().pictureLikely()).isEqualTo(Math.round(usual * 0.55 * 84));
        assertThat(copy.bytes().pictureHigh() - copy.bytes().pictureLow())
                .isLessThan((unknown.bytes().pictureHigh() - unknown.bytes().pictureLow()) / 3);
        assertThat(copy.time().likelySeconds()).isCloseTo(0.84, Offset.offset(0.001));
        assertThat(copy.time().label()).isEqualTo("about 1 s");
    }
}
