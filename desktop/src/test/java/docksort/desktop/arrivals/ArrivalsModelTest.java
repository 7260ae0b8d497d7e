package docksort.desktop.arrivals;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.arrival.ClipNames;
import docksort.arrival.Whereabouts;
import docksort.catalogue.CopyState;
import docksort.desktop.Shown;
import docksort.desktop.parts.Scope.Group;
import docksort.desktop.workshop.Insight;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.ScanProgress;
import docksort.files.Volume;
import docksort.media.ByteSize;
import docksort.sort.CopyKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ArrivalsModelTest {
    private final Shown shown = new Shown();
    private final ObservableList<Clip> scanned = FXCollections.observableArrayList();
    private final SimpleObjectProperty<ScanProgress> scan = new SimpleObjectProperty<>(ScanProgress.NONE);
    private final Clip easy = Clips.named("easy").codec("prores").in("card").clip();
    private final Clip hard = Clips.named("hard").interval(250).in("card").clip();
    private final Clip other =
            Clips.named("other").codec("prores").rate("50").in("drive").clip();
    private final Clip copied =
            Clips.named("copied").codec("prores").in("drive").clip();

    private ArrivalsModel model() {
        shown.add(easy);
        shown.add(hard);
        shown.add(other);
        shown.add(copied, Shown.copy(copied, "k", CopyKind.LIGHT, CopyState.READY));
        shown.unreadable("drive", "broken.mov", "its index is not there");
        shown.insight = new Insight(
                Map.of(),
                Map.of(),
                Map.of(),
                new Whereabouts(
                        List.of(
                                new Whereabouts.OnVolume(volume("/a (/dev/x)"), List.of(easy, hard)),
                                new Whereabouts.OnVolume(volume("/b (/dev/y)"), List.of(other, copied))),
                        List.of(),
                        List.of(new Whereabouts.Twins(List.of(easy), 1))),
                List.of(),
                Set.of(),
                List.of(),
                ClipNames.NONE);
        shown.show();
        return new ArrivalsModel(shown, scanned, scan);
    }

    private static Volume volume(String name) {
        return new Volume(name, "hard disk", "ext4", new ByteSize(1), new ByteSize(1), false);
    }

    private static List<String> names(ArrivalsModel model) {
        return model.rows().stream().map(ClipRow::name).toList();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        ''                 | easy hard other copied broken.mov
        arrival card       | easy hard
        arrival drive      | other copied broken.mov
        volume /a (/dev/x) | easy hard
        volume /b (/dev/y) | other copied
        hard               | hard
        differs            | other
        twins              | easy
        original           | easy hard other
        unreadable         | broken.mov
        """)
    void aScopeShowsItsRowsAndCountsThem(String scope, String rows) {
        ArrivalsModel model = model();
        model.scope().set(scope);
        assertThat(names(model)).containsExactly(rows.split(" "));
        model.groups().get().stream()
                .flatMap(group -> group.lines().stream())
                .filter(line -> line.key().equals(scope))
                .forEach(line -> assertThat(line.count()).isEqualTo(model.rows().size()));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', nullValues = "nothing", textBlock = """
        prores        | easy other copied
        PRORES 50     | other
        50 prores     | other
        1920          | easy hard other copied
        index         | broken.mov
        unreadable    | broken.mov
        light         | copied
        long-gop      | hard
        '  '          | easy hard other copied broken.mov
        prores cello  | nothing
        """)
    void everyWordOfTheFilterMustOccurSomewhere(String words, String rows) {
        ArrivalsModel model = model();
        model.filter().set(words);
        assertThat(names(model)).isEqualTo(rows == null ? List.of() : List.of(rows.split(" ")));
    }

    @Test
    void filterAndScopeHoldTogetherAndOverANewView() {
        ArrivalsModel model = model();
        model.scope().set("arrival card");
        model.filter().set("prores");
        assertThat(names(model)).containsExactly("easy");
        shown.add(Clips.named("late").codec("prores").in("card").clip());
        shown.show();
        assertThat(names(model)).containsExactly("easy", "late");
    }

    @Test
    void clipsThatAreBeingLookedAtAreThereAtOnceAndOnlyOnce() {
        ArrivalsModel model = model();
        Clip fresh = Clips.named("fresh").in("new").clip();
        scanned.add(fresh);
        assertThat(names(model)).contains("fresh");
        assertThat(model.number().get()).isEqualTo("5");
        shown.add(fresh); // kept while its folder is still looked through
        shown.show();
        assertThat(names(model)).containsOnlyOnce("fresh");
        scanned.clear();
        assertThat(names(model)).containsOnlyOnce("fresh");
        assertThat(model.number().get()).isEqualTo("5");
    }

    @Test
    void theLineSaysHowFarALookIsAndThenWhatWasFound() {
        var nothing = new ArrivalsModel(new Shown(), scanned, scan);
        assertThat(nothing.line().get()).isEqualTo("nothing yet");
        assertThat(nothing.isEmpty()).isTrue();
        ArrivalsModel model = model();
        assertThat(model.line().get()).isEqualTo("1 hard, 1 unreadable");
        assertThat(model.isEmpty()).isFalse();
        scan.set(new ScanProgress("card", 3, 20, true));
        assertThat(model.line().get()).isEqualTo("looking: 3 of 20");
        shown.show();
        assertThat(model.line().get()).as("a view that comes meanwhile").isEqualTo("looking: 3 of 20");
        scan.set(ScanProgress.NONE);
        assertThat(model.line().get()).isEqualTo("1 hard, 1 unreadable");
    }

    @Test
    void theSummaryCountsWhatDiffers() {
        assertThat(model().summary().get())
                .isEqualTo("2 codecs, 2 rates, 1 pixel aspect; 1 of 4 differs from the project");
        var one = new Shown();
        one.add(easy);
        one.show();
        assertThat(new ArrivalsModel(one, scanned, scan).summary().get()).isEqualTo("1 codec, 1 rate, 1 pixel aspect");
    }

    @Test
    void volumesAreListedWhereThereAreSeveral() {
        ArrivalsModel model = model();
        assertThat(model.groups().get()).extracting(Group::title).containsExactly("Arrivals", "Volumes", "Narrow to");
        assertThat(model.groups().get().get(1).lines())
                .extracting(line -> line.name())
                .containsExactly("/a", "/b");
        shown.insight = Insight.NONE;
        shown.show();
        assertThat(model.groups().get()).extracting(Group::title).containsExactly("Arrivals", "Narrow to");
    }

    @Test
    void whatIsPutAsideIsInItsOwnScopeAloneAndCountsNowhere() {
        Clip kept = Clips.named("kept").interval(12).clip();
        shown.aside = new ProjectView.Aside(List.of(kept), List.of());
        ArrivalsModel model = model();
        int others = model.rows().size();
        assertThat(names(model)).doesNotContain("kept");
        assertThat(model.groups().get().getFirst().lines().getFirst().count()).isEqualTo(others);
        model.scope().set("aside");
        assertThat(names(model)).containsExactly("kept");
        assertThat(model.rows().getFirst().isAside()).isTrue();
        assertThat(model.groups().get().getLast().lines().getLast().name()).isEqualTo("put aside");
        shown.aside = ProjectView.Aside.NONE;
        shown.show();
        assertThat(model.groups().get().getLast().lines().getLast().key()).isEqualTo("unreadable");
    }

    @Test
    void theArrivalInScopeIsThatOfItsLine() {
        ArrivalsModel model = model();
        assertThat(model.arrivalInScope()).isEmpty();
        model.scope().set("arrival drive");
        assertThat(model.arrivalInScope().orElseThrow().id().value()).isEqualTo("drive");
        model.scope().set("hard");
        assertThat(model.arrivalInScope()).isEmpty();
    }

    /// The table puts its selection back when the rows have changed; it must hear when that is.
    @Test
    void changingIsSaidOnlyWhileRowsAreReplaced() {
        ArrivalsModel model = model();
        var said = new ArrayList<Boolean>();
        model.changing().subscribe(now -> {
            said.add(now);
        });
        said.clear();
        shown.show();
        assertThat(said).as("nothing is otherwise").isEmpty();
        shown.remove(easy);
        shown.show();
        assertThat(said).containsExactly(true, false);
    }

    @Test
    void aHundredThousandClipsAreNarrowedByWords() {
        var many = new Shown();
        for (int i = 0; i < 100_000; i++) {
            many.add(Clips.named("clip " + i).frames(1).clip());
        }
        many.show();
        var model = new ArrivalsModel(many, scanned, scan);
        model.filter().set("9999");
        assertThat(names(model)).hasSize(19); // 9999, and x9999 and 9999x for nine digits each
        model.filter().set("");
        assertThat(model.rows()).hasSize(100_000);
    }
}
