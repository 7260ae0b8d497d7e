package docksort.desktop.dispatch;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.catalogue.Pin;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.Shown;
import docksort.desktop.workshop.TimelineView;
import docksort.dispatch.ConformedEvent;
import docksort.dispatch.ConformedEvent.Doubt;
import docksort.dispatch.ConformedEvent.Way;
import docksort.dispatch.Standing;
import docksort.media.FrameRange;
import docksort.media.Rational;
import docksort.sort.CopyKind;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.timeline.Mention;
import docksort.timeline.SourceUse;
import docksort.timeline.TimelineEvent;
import docksort.timeline.TimelineEvent.Overlap;
import docksort.timeline.TimelineEvent.Transition;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.SimpleObjectProperty;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DispatchModelTest {
    private final SimpleObjectProperty<Optional<TimelineView>> shown = new SimpleObjectProperty<>(Optional.empty());
    private final DispatchModel model = new DispatchModel(shown);
    private final List<ConformedEvent> events = new ArrayList<>();
    private final List<Pin> pins = new ArrayList<>();

    private void add(String name, Standing standing, Optional<Clip> clip, Doubt... doubts) {
        var event = new TimelineEvent(
                events.size() + 1,
                events.size() % 2 == 0 ? "V1" : "A1",
                name,
                Rational.ZERO,
                10,
                TimelineEvent.Kind.PICTURE,
                new Mention("/media/" + name + ".mov", List.of(), "", name, ""),
                Transition.NONE,
                Overlap.NONE,
                new SourceUse.Whole());
        Optional<StockLine> line = clip.map(its -> {
            WorkingCopy copy = Shown.copy(its, "copy", CopyKind.LIGHT, CopyState.READY);
            return new StockLine(
                    its,
                    Presence.ONLINE,
                    List.of(copy),
                    ServingOrder.LIGHT_FIRST.serve(its, List.of(copy), Presence.ONLINE));
        });
        events.add(new ConformedEvent(
                event,
                standing,
                line,
                line.isPresent() ? Way.REFERENCE : Way.NONE,
                "by its reference",
                List.of(),
                Optional.of(new FrameRange(10, 10)),
                Optional.of(new FrameRange(10, 10)),
                List.of(doubts)));
    }

    private void show() {
        shown.set(Optional.of(new TimelineView(
                "cut",
                Path.of("/cut.otio"),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                events,
                pins,
                false,
                false,
                Optional.empty(),
                List.of())));
    }

    private void cut() {
        Clip dome = Clips.named("dome").clip();
        Clip mirror = Clips.named("mirror").clip();
        add("wide", new Standing.OnOriginal(), Optional.of(dome));
        add("close", new Standing.OnCopy(CopyKind.LIGHT, "copy"), Optional.of(mirror));
        add("either", new Standing.Doubtful(), Optional.empty());
        add("stranger", new Standing.Foreign(), Optional.empty());
        add("title", new Standing.WithoutMedia(), Optional.empty());
        add(
                "torn",
                new Standing.OnOriginal(),
                Optional.of(mirror),
                new Doubt(Doubt.Kind.OUTSIDE, "it uses frames that the recording does not have"));
        pins.add(new Pin(dome.id(), Optional.empty(), "full"));
        show();
    }

    private List<String> names() {
        return model.rows().stream().map(event -> event.event().name()).toList();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        ''        | wide close either stranger title torn
        look      | either stranger torn
        copies    | close
        originals | wide torn
        pinned    | wide
        doubtful  | either
        foreign   | stranger
        none      | title
        unknown   | wide close either stranger title torn
        """)
    void aScopeShowsItsEventsAndCountsThem(String scope, String wanted) {
        cut();
        model.scope().set(scope);
        assertThat(names()).containsExactly(wanted.split(" "));
        model.groups().get().getFirst().lines().stream()
                .filter(line -> line.key().equals(scope))
                .forEach(line -> assertThat(line.count()).isEqualTo(model.rows().size()));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        dome              | wide
        MIRROR            | close torn
        a1                | close stranger torn
        /media/title      | title
        not project      | stranger
        '  wide '         | wide
        frames that the   | torn
        """)
    void wordsAreLookedForInAllThatAnEventSays(String words, String wanted) {
        cut();
        model.filter().set(words);
        assertThat(names()).containsExactly(wanted.split(" "));
    }

    @Test
    void filterAndScopeHoldTogetherAndOverANewView() {
        cut();
        model.scope().set("originals");
        model.filter().set("mirror");
        assertThat(names()).containsExactly("torn");
        events.removeLast();
        show();
        assertThat(names()).isEmpty();
        model.filter().set("");
        assertThat(names()).containsExactly("wide");
    }

    @Test
    void theLineSaysWhereTheEventsAre() {
        assertThat(model.line().get()).isEqualTo("no timeline open");
        assertThat(model.number().get()).isEqualTo("0");
        add("wide", new Standing.OnOriginal(), Optional.of(Clips.named("dome").clip()));
        show();
        assertThat(model.line().get()).isEqualTo("every event on its original");
        add(
                "close",
                new Standing.OnCopy(CopyKind.LIGHT, "copy"),
                Optional.of(Clips.named("m").clip()));
        show();
        assertThat(model.line().get()).isEqualTo("1 event on a copy");
        add("stranger", new Standing.Foreign(), Optional.empty());
        add(
                "close 2",
                new Standing.OnCopy(CopyKind.LIGHT, "copy"),
                Optional.of(Clips.named("m").clip()));
        show();
        assertThat(model.line().get()).isEqualTo("2 events on copies, 1 to look at");
        assertThat(model.number().get()).isEqualTo("4");
        shown.set(Optional.empty());
        assertThat(model.line().get()).isEqualTo("no timeline open");
        assertThat(model.rows()).isEmpty();
    }

    /// An event without media is no event on its original.
    @Test
    void aForeignEventAloneIsNotSaidToBeOnItsOriginal() {
        add("stranger", new Standing.Foreign(), Optional.empty());
        show();
        assertThat(model.line().get()).isEqualTo("no event on a copy, 1 to look at");
    }

    @Test
    void aPinOfOtherFramesIsNone() {
        Clip dome = Clips.named("dome").clip();
        add("wide", new Standing.OnOriginal(), Optional.of(dome));
        pins.add(new Pin(dome.id(), Optional.of(new FrameRange(50, 5)), "full"));
        show();
        assertThat(model.isPinned(events.getFirst())).isFalse();
        pins.add(new Pin(dome.id(), Optional.of(new FrameRange(12, 3)), "full"));
        show();
        assertThat(model.isPinned(events.getFirst())).isTrue();
    }
}
