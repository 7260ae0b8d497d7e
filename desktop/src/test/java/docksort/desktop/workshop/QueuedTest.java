package docksort.desktop.workshop;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.desktop.Shown;
import docksort.run.CopyProgress;
import docksort.run.RunSnapshot;
import docksort.sort.CopyKind;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/// The queue beside a run that is over, by views that may be older than its end.
class QueuedTest {
    private static final Clip CLIP = Clips.named("A001").clip();

    private final Shown view = new Shown();

    private static CopyProgress row(String id, CopyState state) {
        return CopyProgress.before(Shown.copy(CLIP, id, CopyKind.LIGHT, state), Optional.of(CLIP));
    }

    private List<String> shown(RunSnapshot over) {
        view.show();
        return Queued.beside(over, view.view().get().orElseThrow().stock()).copies().stream()
                .map(row -> row.copy().id() + " " + row.copy().state())
                .toList();
    }

    @Test
    void whatTheRunFinishedStaysFinishedAndTheRestIsAsItIsNow() {
        view.add(
                CLIP,
                Shown.copy(CLIP, "finished", CopyKind.LIGHT, CopyState.CHECKING), // a view from before its end
                Shown.copy(CLIP, "failed", CopyKind.LIGHT, CopyState.MAKING),
                Shown.copy(CLIP, "elsewhere", CopyKind.LIGHT, CopyState.READY),
                Shown.copy(CLIP, "put in since", CopyKind.LIGHT, CopyState.WAITING),
                Shown.copy(CLIP, "old", CopyKind.LIGHT, CopyState.READY));
        RunSnapshot over = RunSnapshot.NONE.with(List.of(
                row("finished", CopyState.READY),
                row("failed", CopyState.FAILED),
                row("elsewhere", CopyState.WAITING),
                row("taken out", CopyState.WAITING)));
        assertThat(shown(over))
                .containsExactly("finished READY", "failed FAILED", "elsewhere READY", "put in since WAITING");
    }

    @Test
    void whereNoRunWasTheQueueAloneIsShown() {
        view.add(
                CLIP,
                Shown.copy(CLIP, "made elsewhere", CopyKind.LIGHT, CopyState.MAKING),
                Shown.copy(CLIP, "old", CopyKind.LIGHT, CopyState.READY),
                Shown.copy(CLIP, "waits", CopyKind.LIGHT, CopyState.WAITING));
        assertThat(shown(RunSnapshot.NONE)).containsExactly("made elsewhere MAKING", "waits WAITING");
    }
}
