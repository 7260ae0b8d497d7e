package docksort.desktop.sort;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.desktop.Shown;
import docksort.desktop.parts.Scope.Line;
import docksort.desktop.sort.SortModel.SortRow;
import docksort.sort.Planning;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SortModelTest {
    private final Shown shown = new Shown();
    private final List<String> chosen = new ArrayList<>();
    private final Clip large = Clips.named("large").raster("3840x2160").clip();
    private final Clip hard = Clips.named("hard").interval(50).clip();
    private final Clip easy = Clips.named("easy").clip();
    private final Clip byHand = Clips.named("byhand").clip();
    private final Clip there = Clips.named("there").clip();

    private SortModel model() {
        Stream.of(large, hard, easy, byHand, there).forEach(shown::add);
        Map<ClipId, List<String>> hand = new HashMap<>();
        hand.put(byHand.id(), List.of(Recipe.FULL_VC3.id()));
        hand.put(there.id(), List.of(Recipe.FULL_VC3.id()));
        shown.planned(plain -> new Planning(
                plain.book(),
                hand,
                copy -> copy.clip().id().equals(there.id()),
                plain.judge(),
                plain.playRatios(),
                plain.circumstances(),
                plain.pastCopies(),
                plain.rooms(),
                plain.arrivals(),
                plain.ranges(),
                plain.held(),
                plain.aside(),
                plain.passedOver()));
        shown.show();
        return new SortModel(
                shown,
                (clips, recipes) -> clips.forEach(clip -> chosen.add(clip.name() + " "
                        + recipes.map(list -> list.stream().map(Recipe::id).toList()))));
    }

    private static List<String> names(SortModel model) {
        return model.rows().stream().map(row -> row.clip().name()).toList();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', nullValues = "none", textBlock = """
        ''      | large hard easy byhand there
        wanted  | large hard byhand
        light   | large hard
        full    | byhand there
        range   | none
        sound   | none
        hand    | byhand there
        left    | easy
        stock   | there
        unknown | large hard easy byhand there
        """)
    void aScopeShowsItsClipsAndCountsThem(String scope, String clips) {
        SortModel model = model();
        model.scope().set(scope);
        assertThat(names(model)).isEqualTo(clips == null ? List.of() : List.of(clips.split(" ")));
        model.groupsProperty().get().stream()
                .flatMap(group -> group.lines().stream())
                .filter(line -> line.key().equals(scope))
                .map(Line::count)
                .forEach(count -> assertThat(count).isEqualTo(model.rows().size()));
    }

    @Test
    void theLineSaysHowMuchIsWanted() {
        SortModel model = model();
        assertThat(model.number().get()).isEqualTo("3");
        assertThat(model.line().get()).startsWith("wanted · ").endsWith("B");
        var nothing = new Shown();
        nothing.add(easy);
        nothing.show();
        assertThat(new SortModel(nothing, (_, _) -> {}).line().get()).isEqualTo("nothing wanted");
    }

    @Test
    void aPlanThatDoesNotFitSaysSo() {
        shown.add(large);
        shown.planned(plain -> new Planning(
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
                plain.passedOver()));
        shown.show();
        assertThat(new SortModel(shown, (_, _) -> {}).line().get()).endsWith(" · no room");
    }

    /// Two clips are caught by built-in rules, one by none; two were decided by hand and count for no rule.
    @Test
    void rulesCountWhatTheyCaught() {
        List<SortModel.RuleLine> lines = model().rules();
        assertThat(lines).hasSize(SortBook.BUILT_IN.rules().size() + 1);
        assertThat(lines.stream().mapToLong(SortModel.RuleLine::caught).sum()).isEqualTo(3);
        assertThat(lines.getLast().condition()).isEqualTo("anything else");
        assertThat(lines.getLast().caught()).isOne();
        assertThat(lines.getLast().outcome()).isEqualTo("left as it is");
        assertThat(lines.getFirst().number()).isEqualTo("1");
    }

    @Test
    void choosingHandsOverTheClipsOfTheRows() {
        SortModel model = model();
        List<SortRow> two = model.rows().subList(0, 2);
        model.choose(two, Optional.of(List.of(Recipe.REVIEW)));
        model.choose(List.of(model.rows().get(3)), Optional.empty());
        model.choose(List.of(), Optional.empty());
        assertThat(chosen)
                .containsExactly(
                        "large Optional[[light-review]]", "hard Optional[[light-review]]", "byhand Optional.empty");
    }

    @Test
    void aWarningNarrowsTheListAndTheScopeBringsItBack() {
        SortModel model = model();
        model.showOnly(List.of(hard.id(), there.id(), new ClipId("gone")));
        assertThat(names(model)).containsExactly("hard", "there");
        model.scope().set("wanted");
        assertThat(names(model)).containsExactly("large", "hard", "byhand");
    }

    @Test
    void clipsAreGivenByIdAndByWhatIsWanted() {
        SortModel model = model();
        assertThat(model.clips(List.of(easy.id(), new ClipId("gone")))).containsExactly(easy);
        assertThat(model.wantedClips()).containsExactly(large, hard, byHand);
        assertThat(model.handles()).isEqualTo(12);
        assertThat(model.book()).isEqualTo(SortBook.BUILT_IN);
    }

    @Test
    void bytesOfARowAreThoseOfWhatIsWanted() {
        SortModel model = model();
        assertThat(model.rows()).allSatisfy(row -> assertThat(row.bytes() > 0).isEqualTo(row.isWanted()));
    }

    @Test
    void onlyRowsThatDifferAreReplacedWhenTheProjectIsReadAnew() {
        SortModel model = model();
        SortRow kept = model.rows().get(2);
        shown.show();
        assertThat(model.rows().get(2)).isSameAs(kept);
    }
}
