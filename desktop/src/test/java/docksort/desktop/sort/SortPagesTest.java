package docksort.desktop.sort;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.sort.SheetModel.Times;
import docksort.media.BurnIn;
import docksort.media.Measured;
import docksort.media.Rational;
import docksort.sort.Condition;
import docksort.sort.CopyKind;
import docksort.sort.Fact;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Planning;
import docksort.sort.PredictedBytes;
import docksort.sort.PredictedTime;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.SortRule;
import docksort.sort.Tried;
import docksort.strain.BayProfile;
import java.nio.ByteBuffer;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.FieldSource;

/// The pages of the Sort station without their window.
class SortPagesTest {
    private static final SortBook BOOK = SortBook.BUILT_IN;

    private static List<PlannedCopy> planned(Clip clip, Recipe recipe) {
        return LoadSheet.planned(clip, recipe, "", Clips.planning(BOOK));
    }

    @Nested
    class OneRecipe {
        private final RecipeModel mine = new RecipeModel(BOOK, Recipe.REVIEW, true);

        @SuppressWarnings("unused") // by its name
        static final List<Recipe> everyRecipe = Recipe.BUILT_IN;

        @ParameterizedTest
        @FieldSource("everyRecipe")
        void whatIsNotTouchedStaysAsItWas(Recipe recipe) {
            var model = new RecipeModel(BOOK, recipe, false);
            assertThat(model.recipe(model.start())).isEqualTo(recipe);
            assertThat(model.fault(model::start)).isEmpty();
            assertThat(model.scalings()).contains(recipe.scaling()).doesNotHaveDuplicates();
        }

        @Test
        void aNewOneHasAFreeIdOfItsName() {
            RecipeModel.Draft start = mine.start();
            assertThat(start.name()).isEqualTo("Review: H.264, 720 lines, name and timecode, mine");
            SortBook first = mine.saved(named(start, "  For Nadia's tablet! ")).book();
            assertThat(first.own()).singleElement().satisfies(recipe -> {
                assertThat(recipe.id()).isEqualTo("for-nadia-s-tablet");
                assertThat(recipe.name()).isEqualTo("For Nadia's tablet!");
            });
            SortBook second = new RecipeModel(first, Recipe.REVIEW, true)
                    .saved(named(start, "For Nadia's tablet"))
                    .book();
            assertThat(second.own())
                    .extracting(Recipe::id)
                    .containsExactly("for-nadia-s-tablet", "for-nadia-s-tablet-2");
            assertThat(mine.saved(named(start, "!?")).book().own())
                    .extracting(Recipe::id)
                    .containsExactly("recipe");
        }

        @Test
        void savingSaysWhatWasDone() {
            Recipe own = mine.recipe(named(mine.start(), "Small"));
            SortBook book = BOOK.with(own);
            assertThat(mine.saved(named(mine.start(), "Small")).words()).isEqualTo("Made the recipe Small");
            var change = new RecipeModel(book, own, false);
            BookChange saved = change.saved(named(change.start(), "Smaller"));
            assertThat(saved.words()).isEqualTo("Changed the recipe Smaller");
            assertThat(saved.book().own())
                    .extracting(Recipe::id, Recipe::name)
                    .containsExactly(tuple("small", "Smaller"));
        }

        @ParameterizedTest
        @CsvSource(delimiter = '|', textBlock = """
            conform | 29.97  |
            conform | 24000/1001 |
            conform | fast   | fast
            conform | 25/0   | 25/0
            conform | 0      | 0
            muted   | 3, 4 5 |
            muted   | 3;4    | "3;4" is no number of a channel
            muted   | 65     | channels are numbered 1 to 64
            mix     | 1+2, 3 |
            mix     | all    |
            mix     | 1-2    | a mix is written as 1+2, 3, with ; between streams
            mix     | 65     | channels are numbered 1 to 64
            frame   | 2.39   |
            frame   | 16:9   |
            frame   | wide   | written as 2.39 or as 16:9
            frame   | 9      | from 1:5 to 5:1
            name    | ''     | name
            naming  | a/b    | name
            words   | HELLO  | a burned-in text must have words
            """)
        void whatDoesNotGoTogetherIsSaid(String field, String typed, String wrong) {
            RecipeModel.Draft draft = with(mine.start(), field, typed);
            Optional<String> fault = mine.fault(() -> draft);
            if (wrong == null) {
                assertThat(fault).isEmpty();
            } else {
                assertThat(fault)
                        .hasValueSatisfying(words -> assertThat(words)
                                .startsWith("Cannot be saved: ")
                                .contains(wrong));
            }
        }

        @Test
        void aTextIsDrawnWithItsWords() {
            RecipeModel.Draft start = mine.start();
            var text = new RecipeModel(BOOK, Recipe.REVIEW, true)
                    .recipe(drawn(start, Map.of(BurnIn.What.TEXT, BurnIn.At.BOTTOM), "NOT FOR AIR"));
            assertThat(text.burnIns().words())
                    .containsExactly(new BurnIn(BurnIn.What.TEXT, BurnIn.At.BOTTOM, "NOT FOR AIR"));
            var again = new RecipeModel(BOOK.with(text), text, false);
            assertThat(again.start().words()).isEqualTo("NOT FOR AIR");
            assertThat(again.recipe(again.start())).isEqualTo(text);
        }

        @Test
        void aSampleRateThatIsNotOfferedIsKeptAmongThoseThatAre() {
            RecipeModel.Draft d = mine.start();
            Recipe odd = mine.recipe(new RecipeModel.Draft(
                    d.name(),
                    d.kind(),
                    d.encoding(),
                    d.wrapper(),
                    d.scaling(),
                    d.alpha(),
                    d.square(),
                    d.deinterlace(),
                    d.look(),
                    d.hardware(),
                    d.conform(),
                    0,
                    32_000,
                    "2",
                    d.mix(),
                    d.burnIns(),
                    d.words(),
                    d.frame(),
                    d.outside(),
                    d.watermark(),
                    d.naming(),
                    d.placing()));
            var model = new RecipeModel(BOOK.with(odd), odd, false);
            assertThat(model.sampleRates()).containsExactly(0, 44_100, 48_000, 96_000, 32_000);
            assertThat(model.start().muted()).isEqualTo("2");
        }

        @Test
        void theOutcomeSaysWhatComesOfItOrWhyNothingDoes() {
            Clip clip = Clips.named("A").raster("3840x2160").clip();
            assertThat(RecipeModel.outcome(planned(clip, Recipe.LIGHT_PRORES_HALF))
                            .getFirst())
                    .satisfies(line -> {
                        assertThat(line.tone()).isEqualTo(TaskLine.Tone.GOOD);
                        assertThat(line.words()).contains("1920×1080").contains(", about ");
                    });
            assertThat(RecipeModel.outcome(planned(clip, Recipe.RANGE_VC3)))
                    .containsExactly(new TaskLine(
                            TaskLine.Tone.LOOK,
                            "",
                            "",
                            "",
                            "cannot be made: no timeline uses it: open one in Dispatch"));
        }

        private RecipeModel.Draft named(RecipeModel.Draft draft, String name) {
            return with(draft, "name", name);
        }

        private RecipeModel.Draft drawn(RecipeModel.Draft d, Map<BurnIn.What, BurnIn.At> drawn, String words) {
            return new RecipeModel.Draft(
                    d.name(),
                    d.kind(),
                    d.encoding(),
                    d.wrapper(),
                    d.scaling(),
                    d.alpha(),
                    d.square(),
                    d.deinterlace(),
                    d.look(),
                    d.hardware(),
                    d.conform(),
                    d.bits(),
                    d.sampleRate(),
                    d.muted(),
                    d.mix(),
                    drawn,
                    words,
                    d.frame(),
                    d.outside(),
                    d.watermark(),
                    d.naming(),
                    d.placing());
        }

        private RecipeModel.Draft with(RecipeModel.Draft d, String field, String typed) {
            if (field.equals("words")) {
                return drawn(d, Map.of(BurnIn.What.TEXT, BurnIn.At.BOTTOM), "");
            }
            return new RecipeModel.Draft(
                    field.equals("name") ? typed : d.name(),
                    d.kind(),
                    d.encoding(),
                    d.wrapper(),
                    d.scaling(),
                    d.alpha(),
                    d.square(),
                    d.deinterlace(),
                    d.look(),
                    d.hardware(),
                    field.equals("conform") ? typed : d.conform(),
                    d.bits(),
                    d.sampleRate(),
                    field.equals("muted") ? typed : d.muted(),
                    field.equals("mix") ? typed : d.mix(),
                    d.burnIns(),
                    d.words(),
                    field.equals("frame") ? typed : d.frame(),
                    d.outside(),
                    d.watermark(),
                    field.equals("naming") ? typed : d.naming(),
                    d.placing());
        }
    }

    @Nested
    class OneRule {
        private final Clip uhd = Clips.named("uhd").raster("3840x2160").clip();

        @Test
        void aNewRuleComesLastAndAnOldOneStaysInItsPlace() {
            var added = new RuleModel(BOOK, -1);
            SortBook with = added.wanted(added.conditions(), List.of(Recipe.FULL_VC3));
            assertThat(with.rules())
                    .startsWith(BOOK.rules().toArray(SortRule[]::new))
                    .hasSize(BOOK.rules().size() + 1);
            assertThat(added.applied(with).words()).isEqualTo("Added a rule");
            assertThat(added.title()).isEqualTo("New rule");

            var second = new RuleModel(BOOK, 1);
            SortBook changed = second.wanted(second.conditions(), List.of());
            assertThat(changed.rules().get(1))
                    .isEqualTo(new SortRule(BOOK.rules().get(1).when(), List.of()));
            assertThat(second.applied(changed).words()).isEqualTo("Changed rule 2");
            assertThat(second.title()).isEqualTo("Rule 2");
        }

        @Test
        void asItStandsItChangesNothing() {
            for (int index = 0; index < BOOK.rules().size(); index++) {
                var model = new RuleModel(BOOK, index);
                List<Recipe> made = Stream.of(CopyKind.values())
                        .flatMap(kind -> model.chosen(kind).stream())
                        .toList();
                assertThat(model.changes(model.wanted(model.conditions(), made)))
                        .isFalse();
                assertThat(model.changes(model.wanted(List.of(), made))).isTrue();
            }
        }

        @Test
        void everyKindOffersItsRecipesAndNone() {
            var model = new RuleModel(BOOK, 2);
            for (CopyKind kind : CopyKind.values()) {
                assertThat(model.choices(kind))
                        .startsWith(Optional.empty())
                        .allMatch(choice -> choice.isEmpty() || choice.get().kind() == kind);
            }
            assertThat(model.chosen(CopyKind.LIGHT)).contains(Recipe.LIGHT_PRORES_HALF);
            assertThat(model.chosen(CopyKind.FULL)).isEmpty();
        }

        @ParameterizedTest
        @CsvSource({"0, -1, ''", "0, 1, 1 0 2", "1, -1, 1 0 2", "1, 1, 0 2 1", "2, 1, ''", "-1, 1, ''"})
        void aRuleMovesWithinTheList(int index, int by, String order) {
            Optional<BookChange> moved = new RuleModel(BOOK, index).moved(by);
            if (order.isEmpty()) {
                assertThat(moved).isEmpty();
                return;
            }
            assertThat(moved.orElseThrow().book().rules())
                    .isEqualTo(Arrays.stream(order.split(" "))
                            .map(at -> BOOK.rules().get(Integer.parseInt(at)))
                            .toList());
            assertThat(moved.get().words()).isEqualTo("Moved rule " + (index + 1) + " to " + (index + 1 + by));
        }

        @Test
        void onlyWhatIsThereIsDeleted() {
            BookChange deleted = new RuleModel(BOOK, 0).deleted().orElseThrow();
            assertThat(deleted.book().rules())
                    .isEqualTo(BOOK.rules().subList(1, BOOK.rules().size()));
            assertThat(deleted.words()).isEqualTo("Deleted rule 1");
            assertThat(new RuleModel(BOOK, -1).deleted()).isEmpty();
        }

        @Test
        void aConditionThatIsNoneCannotBeApplied() {
            var model = new RuleModel(BOOK, -1);
            assertThatThrownBy(() ->
                            model.wanted(List.of(new Condition(Fact.RASTER, Fact.Is.LARGER_THAN, "wide")), List.of()))
                    .isInstanceOf(IllegalArgumentException.class)
                    .hasMessageContaining("wide");
        }

        @Test
        void whatWouldChangeIsCountedAndNamed() {
            List<LoadSheet.Change> changes = new ArrayList<>(IntStream.range(0, 7)
                    .mapToObj(
                            n -> new LoadSheet.Change(Clips.named("C" + n).clip(), List.of(), List.of(Recipe.FULL_VC3)))
                    .toList());
            changes.add(new LoadSheet.Change(uhd, List.of(Recipe.FULL_VC3), List.of()));
            RuleModel.Outcome outcome = RuleModel.outcome(changes);
            assertThat(outcome.lines()).containsExactly("1 are left as they are", "7 get " + Recipe.FULL_VC3.label());
            assertThat(outcome.names()).isEqualTo("C0, C1, C2, C3, C4, C5 and 2 more");
            assertThat(RuleModel.outcome(List.of()).names()).startsWith("Nothing:");
        }
    }

    @Test
    void onlyOwnRecipesMayBeChangedAndDeletingOneLeavesItsRules() {
        Recipe own = Recipe.FULL_VC3.renamed("mine", "Mine");
        SortBook book = BOOK.with(own).withRules(List.of(new SortRule(List.of(), List.of("mine"))));
        var model = new RecipesModel(book);
        assertThat(model.own()).containsExactly(new RecipesModel.Line(own, true));
        assertThat(model.builtIn()).hasSize(Recipe.BUILT_IN.size()).noneMatch(RecipesModel.Line::mayChange);
        BookChange deleted = model.deleted(own);
        assertThat(deleted.words()).isEqualTo("Deleted the recipe Mine");
        assertThat(deleted.book().own()).isEmpty();
        assertThat(deleted.book().rules()).containsExactly(new SortRule(List.of(), List.of()));
    }

    @Nested
    class Compared {
        private final Clip clip =
                Clips.named("A").raster("3840x2160").frames(250).clip(); // 10 s at 25 fps
        private final CompareModel model = new CompareModel(BOOK, List.of(clip));

        private void plan() {
            model.plan(BOOK.recipes().stream()
                    .flatMap(recipe -> planned(clip, recipe).stream())
                    .toList());
        }

        private CompareModel.Line line(String streams, Optional<Double> volume) {
            return model.lines(streams, volume).stream()
                    .filter(line -> line.title().equals(Recipe.LIGHT_PRORES_HALF.label()))
                    .findFirst()
                    .orElseThrow();
        }

        @Test
        void theOriginalComesFirstAndTheLargestFillsTheBar() {
            assertThat(model.lines("3", Optional.empty())).isEmpty();
            plan();
            List<CompareModel.Line> lines = model.lines("3", Optional.empty());
            assertThat(lines.getFirst().title()).isEqualTo("The original");
            assertThat(lines.getFirst().bytes()).isEqualTo("12.5 MB"); // 250 frames of 50,000 bytes
            assertThat(lines)
                    .filteredOn(line -> !line.bytes().equals("cannot be made"))
                    .allMatch(line -> line.share() > 0 && line.share() <= 1);
            assertThat(lines.stream().mapToDouble(CompareModel.Line::share).max())
                    .hasValue(1);
            // Nothing uses a range of it.
            assertThat(lines)
                    .filteredOn(line -> line.title().equals(Recipe.RANGE_VC3.label()))
                    .singleElement()
                    .satisfies(line -> {
                        assertThat(line.bytes()).isEqualTo("cannot be made");
                        assertThat(line.forms()).contains("no timeline uses it");
                    });
        }

        @ParameterizedTest
        @CsvSource({"3, 3 streams need", "' 1 ', 1 stream needs", "0, 1 stream needs", "500, 99 streams need"})
        void streamsAreCountedAsTyped(String typed, String words) {
            plan();
            assertThat(line(typed, Optional.empty()).budget())
                    .hasValueSatisfying(budget -> assertThat(budget).startsWith(words));
        }

        @ParameterizedTest
        @CsvSource({"''", "many", "3.5", "99999999999"})
        void whatIsNoNumberOfStreamsAsksNothing(String typed) {
            plan();
            assertThat(line(typed, Optional.empty()).budget()).isEmpty();
        }

        /// A copy of half the sides that decodes at 4 times 25 fps here takes a quarter of the machine
        /// for one.
        @Test
        void aTrialTellsWhatTheMachineDoes() {
            plan();
            assertThat(line("1", Optional.of(500e6)).budget().orElseThrow())
                    .contains(" of 500 measured")
                    .contains("decoding not measured");
            model.tried(List.of(tried(Recipe.LIGHT_PRORES_HALF.label(), 4)));
            assertThat(line("1", Optional.of(500e6)).budget().orElseThrow()).contains("25 % of the decoding: plays");
            assertThat(line("5", Optional.of(500e6)).budget().orElseThrow())
                    .contains("125 % of the decoding: too much");
            assertThat(line("1", Optional.empty()).tried()).isPresent();
        }

        @Test
        void anotherMachineGoesBeforeThisOne() {
            plan();
            model.tried(List.of(tried(Recipe.LIGHT_PRORES_HALF.label(), 4)));
            PlannedCopy copy = planned(clip, Recipe.LIGHT_PRORES_HALF).getFirst();
            double pixels = 1920.0 * 1080 * 25 * 10; // ten streams
            model.playOn(BayProfile.of(
                    "bay 2", 0, Map.of(copy.form().orElseThrow().target().orElseThrow(), pixels)));
            assertThat(line("1", Optional.empty()).budget().orElseThrow()).contains("10 % of the decoding");
        }

        private Tried tried(String name, double ratio) {
            return new Tried(name, "", 1, 1, Measured.of(ratio), Rational.of(1), 1, 50, ByteBuffer.allocate(0));
        }

        @Test
        void severalClipsAreCounted() {
            assertThat(model.subject()).isEqualTo("A");
            assertThat(new CompareModel(BOOK, List.of(clip, Clips.named("B").clip())).subject())
                    .isEqualTo("2 selected clips");
        }
    }

    @Nested
    class Sheet {
        private static final Instant NOON = Instant.parse("2026-03-02T12:00:00Z");
        private final Clip uhd = Clips.named("uhd").raster("3840x2160").clip();

        private LoadSheet sheet(Planning planning, Clip... clips) {
            return LoadSheet.plan(List.of(clips), planning);
        }

        private LoadSheet lasting(double seconds, int unknown) {
            LoadSheet plain = sheet(Clips.planning(BOOK), uhd);
            return new LoadSheet(
                    plain.sorted(),
                    plain.copies(),
                    new PredictedBytes(1_000_000, 1_200_000, 1_500_000, 0),
                    new PredictedTime(seconds, seconds, seconds, unknown),
                    plain.volumes(),
                    plain.warnings());
        }

        @Test
        void figuresAreThoseOfWhatIsWanted() {
            assertThat(new SheetModel(lasting(60, 0)).figures())
                    .containsExactly(
                            new SheetModel.Figure("1", "copy of 1 clip"),
                            new SheetModel.Figure("1.2 MB", "1.0 MB to 1.5 MB"));
            Clip second = Clips.named("second").raster("3840x2160").clip();
            assertThat(new SheetModel(sheet(Clips.planning(BOOK), uhd, second))
                            .figures()
                            .getFirst())
                    .isEqualTo(new SheetModel.Figure("2", "copies of 2 clips"));
            // Two copies of one clip.
            SortBook both = BOOK.withRules(
                    List.of(new SortRule(List.of(), List.of(Recipe.LIGHT_VC3_FIT.id(), Recipe.FULL_VC3.id()))));
            assertThat(new SheetModel(sheet(Clips.planning(both), uhd))
                            .figures()
                            .getFirst())
                    .isEqualTo(new SheetModel.Figure("2", "copies of 1 clip"));
        }

        @Test
        void nothingWantedOrNoRoomKeepsTheRunFromStarting() {
            Planning plain = Clips.planning(BOOK);
            assertThat(new SheetModel(sheet(plain, uhd)).whyNot()).isEmpty();
            var nothing = new SheetModel(sheet(plain, Clips.named("easy").clip()));
            assertThat(nothing.whyNot()).contains("Nothing is wanted.");
            assertThat(nothing.time()).isEmpty();
            assertThat(nothing.worthTrying()).isEmpty();
            assertThat(nothing.end(new Times("", "", "", false, 0), NOON, ZoneOffset.UTC))
                    .isEmpty();
            var full = new Planning(
                    plain.book(),
                    plain.byHand(),
                    plain.inStock(),
                    plain.judge(),
                    plain.playRatios(),
                    plain.circumstances(),
                    plain.pastCopies(),
                    (_, _) -> Clips.room("small", 1_000),
                    plain.arrivals(),
                    plain.ranges(),
                    plain.held(),
                    plain.aside(),
                    plain.passedOver());
            assertThat(new SheetModel(sheet(full, uhd)).whyNot()).contains("It does not fit: see below.");
        }

        @ParameterizedTest
        @CsvSource(delimiter = '|', textBlock = """
            ''    | ''    | ''                | 0 | Over at about 13:30
            22:00 | ''    | ''                | 0 | Over at about 23:30
            22:00 | 23:00 | ''                | 0 | Over at about 23:30: not all of it is done by 23:00
            23:00 | 6:00  | ''                | 0 | Over at about 00:30
            11:00 | ''    | ''                | 0 | Over at about 12:30
            ''    | 13:00 | ''                | 2 | Over at about 13:30, and what is not known yet: not all of it is done by 13:00
            soon  | ''    | ''                | 0 | Write times as 22:30, or leave them out.
            ''    | 25:00 | ''                | 0 | Write times as 22:30, or leave them out.
            ''    | ''    | daily 19:00-07:00 | 0 | Begins at 19:00; outside of its hours nothing is begun
            20:30 | ''    | daily 19:00-07:00 | 0 | Begins at 20:30; outside of its hours nothing is begun
            ''    | ''    | Th 19:00-07:00    | 0 | Begins at Thu 19:00; outside of its hours nothing is begun
            ''    | ''    | daily 11:00-13:00 | 0 | Begins at once; outside of its hours nothing is begun
            ''    | ''    | nights            | 0 | No hours: hours are written like Mo-Fr 19:00-07:00, not "nights".
            """)
        void theEndIsReckonedFromWhatIsTyped(String from, String until, String hours, int unknown, String words) {
            // An hour and a half from noon on, or from when it begins.
            assertThat(new SheetModel(lasting(5_400, unknown))
                            .end(new Times(from, until, hours, false, 0), NOON, ZoneOffset.UTC))
                    .isEqualTo(words);
        }

        @Test
        void aRunBeginsAsTyped() {
            var pace = new Times("22:00", "06:00", "", true, 4).pace(NOON, ZoneOffset.UTC);
            assertThat(pace.from()).contains(Instant.parse("2026-03-02T22:00:00Z"));
            assertThat(pace.until()).contains(Instant.parse("2026-03-03T06:00:00Z"));
            assertThat(pace.gently()).isTrue();
            assertThat(pace.speedCap()).isEqualTo(4);
            assertThat(new Times("", " ", "", false, 0)
                            .pace(NOON, ZoneOffset.UTC)
                            .from())
                    .isEmpty();
        }

        @Test
        void whatIsNotKnownWellIsWorthATrial() {
            List<PlannedCopy> open = new SheetModel(sheet(Clips.planning(BOOK), uhd)).worthTrying();
            assertThat(open).hasSize(1);
            assertThat(SheetModel.trial(open)).isEqualTo("Try a second of it");
            assertThat(SheetModel.trial(List.of(open.getFirst(), open.getFirst())))
                    .isEqualTo("Try a second of each (2)");
        }

        @Test
        void handlesAreAskedForWhereRangesAreMade() {
            SortBook ranges = BOOK.withRules(List.of(new SortRule(List.of(), List.of(Recipe.RANGE_VC3.id()))));
            assertThat(new SheetModel(sheet(Clips.planning(ranges), uhd)).asksForHandles())
                    .isTrue();
            assertThat(new SheetModel(sheet(Clips.planning(BOOK), uhd)).asksForHandles())
                    .isFalse();
            assertThat(SheetModel.handlesFault("-1")).isPresent();
            assertThat(SheetModel.handlesFault("100000")).isEmpty();
            assertThat(SheetModel.handlesFault("100001")).isPresent();
        }
    }
}
