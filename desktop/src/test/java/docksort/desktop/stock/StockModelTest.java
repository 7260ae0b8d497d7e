package docksort.desktop.stock;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.Shown;
import docksort.desktop.parts.Scope.Line;
import docksort.media.ByteSize;
import docksort.sort.CopyKind;
import docksort.stock.Limits;
import docksort.stock.StockLine;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import javafx.collections.ListChangeListener;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StockModelTest {
    private final Shown shown = new Shown();
    private final Clip both = Clips.named("both").clip();
    private final Clip light = Clips.named("light").clip();
    private final Clip full = Clips.named("full").clip();
    private final Clip bare = Clips.named("bare").clip();
    private final Clip away = Clips.named("away").clip();
    private final Clip broken = Clips.named("broken").clip();
    private final Clip elsewhere = Clips.named("elsewhere").clip();

    private StockModel model() {
        shown.add(
                both,
                Shown.copy(both, "b-l", CopyKind.LIGHT, CopyState.READY),
                Shown.copy(both, "b-f", CopyKind.FULL, CopyState.READY));
        shown.add(light, Shown.copy(light, "l", CopyKind.LIGHT, CopyState.READY));
        shown.add(full, Shown.copy(full, "f", CopyKind.FULL, CopyState.READY));
        shown.add(bare);
        shown.add(away, new Presence(Presence.State.OFFLINE, "the volume is away"));
        shown.add(broken, Shown.copy(broken, "x", CopyKind.LIGHT, CopyState.FAILED));
        shown.add(elsewhere, Shown.copy(elsewhere, "e-camera", CopyKind.LIGHT, CopyState.READY));
        shown.show();
        return new StockModel(shown);
    }

    private static List<String> names(StockModel model) {
        return model.rows().stream().map(line -> line.clip().name()).toList();
    }

    private static Stream<Line> lines(StockModel model) {
        return model.groups().get().stream().flatMap(group -> group.lines().stream());
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', nullValues = "none", textBlock = """
        ''       | both light full bare away broken elsewhere
        light    | both light elsewhere
        full     | full
        original | bare away broken
        look     | broken
        away     | away
        camera   | elsewhere
        past     | none
        no-light | full bare away broken
        no-full  | light bare away broken elsewhere
        unused   | both
        odd      | none
        unknown  | both light full bare away broken elsewhere
        """)
    void aScopeShowsItsClipsAndCountsThem(String scope, String clips) {
        StockModel model = model();
        model.scope().set(scope);
        assertThat(names(model)).isEqualTo(clips == null ? List.of() : List.of(clips.split(" ")));
        lines(model)
                .filter(line -> line.key().equals(scope))
                .forEach(line -> assertThat(line.count()).isEqualTo(model.rows().size()));
    }

    @Test
    void theLineTellsWhatNeedsALook() {
        var empty = new Shown();
        empty.show();
        assertThat(new StockModel(empty).line().get()).isEqualTo("no copies yet");
        StockModel model = model();
        assertThat(model.number().get()).isEqualTo("5");
        assertThat(model.line().get()).isEqualTo("ready, 1 needs a look, 1 original away");
        shown.limits = new Limits(Optional.empty(), Optional.of(new ByteSize(3_500_000)));
        shown.show();
        assertThat(model.line().get()).isEqualTo("ready, 1 needs a look, 1 original away, 1 past the limits");
    }

    @Test
    void theRoomOfCopiesIsHeldAgainstTheLimits() {
        StockModel model = model();
        assertThat(model.room()).isEqualTo("5 copies take 5.0 MB. There are no limits; Clean up… sets them.");
        assertThat(model.pastLimits()).isZero();
        shown.limits = new Limits(Optional.empty(), Optional.of(new ByteSize(9_000_000)));
        shown.show();
        assertThat(model.room()).endsWith("None is past that.");
        // The camera's own copy is not counted: 4 MB are, and 2 of them too many.
        shown.limits = new Limits(Optional.of(Duration.ofDays(1)), Optional.of(new ByteSize(2_000_000)));
        shown.show();
        assertThat(model.pastLimits()).isEqualTo(4); // made in 1970, and never needed since
        model.scope().set("past");
        assertThat(names(model)).containsExactly("both", "light", "full");
    }

    @Test
    void copiesThatWaitNeedNoLookAndThoseWithHolesDoUntilTheyAreAccepted() {
        var holes = new Shown();
        Clip clip = Clips.named("holes").clip();
        WorkingCopy made = Shown.copy(clip, "h", CopyKind.LIGHT, CopyState.READY_WITH_HOLES);
        var stopped = new WorkingCopy(
                made.id(),
                made.clip(),
                made.kind(),
                made.recipeId(),
                made.rootId(),
                made.file(),
                made.state(),
                made.note(),
                made.source(),
                made.range(),
                made.place(),
                new WorkingCopy.Service(true, 0),
                0);
        holes.add(clip, stopped);
        Clip waits = Clips.named("waits").clip();
        holes.add(waits, Shown.copy(waits, "w", CopyKind.LIGHT, CopyState.WAITING));
        holes.show();
        var model = new StockModel(holes);
        assertThat(model.line().get()).isEqualTo("ready, 1 needs a look");
        model.scope().set("look");
        assertThat(names(model)).containsExactly("holes");
        holes.replace(clip, made);
        holes.show();
        assertThat(model.rows()).isEmpty();
        assertThat(model.line().get()).isEqualTo("ready");
    }

    /// A table keeps its selection where a row is not replaced.
    @Test
    void onlyRowsThatDifferAreReplacedWhenTheProjectIsReadAnew() {
        StockModel model = model();
        StockLine kept = model.rows().getFirst();
        var replaced = new ArrayList<Integer>();
        model.rows().addListener((ListChangeListener<StockLine>) change -> {
            while (change.next()) {
                replaced.add(change.getFrom());
            }
        });
        shown.show();
        assertThat(replaced).as("nothing is otherwise").isEmpty();
        shown.replace(bare, Shown.copy(bare, "n", CopyKind.LIGHT, CopyState.WAITING));
        shown.show();
        assertThat(replaced).containsExactly(3);
        assertThat(model.rows().getFirst()).isSameAs(kept);
    }

    @Test
    void aScopeHoldsWhenClipsComeAndGo() {
        StockModel model = model();
        model.scope().set("original");
        shown.remove(bare);
        shown.show();
        assertThat(names(model)).containsExactly("away", "broken");
        shown.add(Clips.named("late").clip());
        shown.show();
        assertThat(names(model)).containsExactly("away", "broken", "late");
    }

    @Test
    void aCopyUnlikeItsCamerasRestIsTold() {
        var odd = new Shown();
        for (int i = 0; i < 4; i++) {
            Clip clip = Clips.named("c" + i).clip();
            odd.add(clip, Shown.copy(clip, "k" + i, CopyKind.LIGHT, CopyState.READY));
        }
        Clip other = Clips.named("other").clip();
        WorkingCopy large = Shown.copy(other, "o", CopyKind.LIGHT, CopyState.READY)
                .withPlace(new WorkingCopy.Place(1, 1, 1920, 1080, "x", "", ""));
        odd.add(other, large);
        odd.show();
        var model = new StockModel(odd);
        model.scope().set("odd");
        assertThat(names(model)).containsExactly("other");
        assertThat(model.oddities(model.rows().getFirst()))
                .singleElement()
                .asString()
                .contains("1920");
    }

    @Test
    void aHundredThousandRowsAreNarrowedAndCounted() {
        var many = new Shown();
        for (int i = 0; i < 100_000; i++) {
            Clip clip = Clips.named("m" + i).frames(1).clip();
            if (i % 10 == 0) {
                many.add(clip, Shown.copy(clip, "k" + i, CopyKind.LIGHT, CopyState.READY));
            } else {
                many.add(clip);
            }
        }
        many.show();
        var model = new StockModel(many);
        model.scope().set("light");
        assertThat(model.rows()).hasSize(10_000);
        assertThat(model.number().get()).isEqualTo("10000");
        model.scope().set("no-light");
        assertThat(model.rows()).hasSize(90_000);
    }
}
