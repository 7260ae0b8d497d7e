package docksort.desktop.workshop;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.desktop.Shown;
import docksort.engine.MediaEngine;
import docksort.project.AfterRuns;
import docksort.project.Project;
import docksort.run.Afterwards;
import docksort.run.Afterwards.Kind;
import docksort.run.CopyProgress;
import docksort.run.RunSnapshot;
import docksort.sort.CopyKind;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.util.WaitForAsyncUtils;

/// A real project and a real program; nothing is put to sleep.
@WithMedia
class EndOfRunTest {
    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private final ProjectThread thread = new ProjectThread(new Troubles(Runnable::run));
    private Optional<Project> opened = Optional.empty();

    @BeforeEach
    void open() {
        opened = Optional.of(Project.open(folder.resolve("project"), engine, InstantSource.system()));
    }

    @AfterEach
    void close() {
        opened.ifPresent(Project::close);
        engine.close();
    }

    private Project project() {
        return opened.orElseThrow();
    }

    private AfterRuns wanted() {
        return new AfterRuns(folder.resolve("person/after-runs.txt"));
    }

    private static RunSnapshot over(CopyState... states) {
        Clip clip = Clips.named("A001").clip();
        return RunSnapshot.NONE.with(Stream.of(states)
                .map(state -> Shown.copy(clip, "A001" + state, CopyKind.LIGHT, state))
                .map(copy -> new CopyProgress(copy, "A001", 0, 0, 0, 0, 0, 0))
                .toList());
    }

    @Test
    void whatAPersonWroteIsBegunWithWhatTheRunCameToUnlessItIsCalledOff() throws Exception {
        var end = new EndOfRun(project(), wanted(), thread, Runnable::run, 2);
        wanted().keep(new Afterwards(Kind.COMMAND, "/usr/bin/env"));
        var seen = new CountDownLatch(1);
        end.soon().subscribe(now -> now.ifPresent(_ -> seen.countDown()));
        end.of(over(CopyState.READY, CopyState.WAITING));
        assertThat(end.soon().get()).as("something waits still").isEmpty();
        end.of(over());
        assertThat(end.soon().get()).as("nothing was made").isEmpty();
        end.of(over(CopyState.READY, CopyState.FAILED));
        assertThat(seen.await(30, TimeUnit.SECONDS)).isTrue();
        end.callOff();
        assertThat(end.soon().get()).isEmpty();

        end.of(over(CopyState.READY, CopyState.READY, CopyState.FAILED));
        WaitForAsyncUtils.waitFor(
                30,
                TimeUnit.SECONDS,
                () -> project().activity(1).getFirst().what().equals("After the run, runs /usr/bin/env"));
        assertThat(Files.readString(folder.resolve("project/afterwards.log")).lines())
                .contains(
                        "DOCKSORT_MADE=2",
                        "DOCKSORT_FAILED=1",
                        "DOCKSORT_PROJECT=" + project().folder());
        assertThat(project().activity(20))
                .filteredOn(deed -> deed.what().startsWith("After the run"))
                .as("the one that was called off was not begun")
                .hasSize(1);
    }

    @Test
    void whatIsGoneByThenIsTold() {
        var end = new EndOfRun(project(), wanted(), thread, Runnable::run, 2);
        wanted().keep(new Afterwards(Kind.COMMAND, "no-such-program --now"));
        end.of(over(CopyState.READY));
        assertThat(end.soon().get()).isEmpty();
        assertThat(project().activity(1).getFirst().what())
                .isEqualTo("After the run: not done, there is no program no-such-program");
    }
}
