package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.engine.StayAwake;
import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.Isolated;

/// Against a program that is not ours and takes all it can get.
@Isolated("looks at what the machine does")
class MachineUseTest {
    private static final int LOOKS = 200;

    @Test
    void othersAreInTheWayWhileTheyWorkAndWhatWeStartedIsNot() throws Exception {
        int processors = Runtime.getRuntime().availableProcessors();
        var ours = new ArrayList<Process>();
        var theirs = new ArrayList<ProcessHandle>();
        var use = new MachineUse();
        try {
            for (int i = 0; i < processors; i++) {
                ours.add(new ProcessBuilder("/bin/sh", "-c", "while :; do :; done").start());
            }
            assertThat(firstReason(use, 8)).as("only we are at work").isEmpty();
            ours.forEach(Process::destroyForcibly);
            for (int i = 0; i < processors; i++) {
                theirs.add(orphan());
            }
            assertThat(firstReason(use, LOOKS))
                    .hasValueSatisfying(why -> assertThat(why).contains("% of its processors"));
        } finally {
            ours.forEach(Process::destroyForcibly);
            theirs.forEach(ProcessHandle::destroyForcibly);
        }
        for (ProcessHandle each : theirs) {
            each.onExit().get(20, TimeUnit.SECONDS);
        }
        boolean free = false;
        for (int i = 0; i < LOOKS && !free; i++) {
            work(100);
            free = use.inTheWay().isEmpty();
        }
        assertThat(free).as("it is let go when the others have gone").isTrue();
    }

    private static Optional<String> firstReason(MachineUse use, int looks) {
        for (int i = 0; i < looks; i++) {
            work(100);
            Optional<String> reason = use.inTheWay();
            if (reason.isPresent()) {
                return reason;
            }
        }
        return Optional.empty();
    }

    /// Time goes by with work of our own.
    private static void work(int millis) {
        long end = System.nanoTime() + TimeUnit.MILLISECONDS.toNanos(millis);
        while (System.nanoTime() < end) {
            Thread.onSpinWait();
        }
    }

    /// A program whose parent has gone.
    private static ProcessHandle orphan() throws Exception {
        Process shell = new ProcessBuilder("/bin/sh", "-c", "(while :; do :; done) >/dev/null 2>&1 & echo $!").start();
        try (var reader = new BufferedReader(new InputStreamReader(shell.getInputStream(), StandardCharsets.UTF_8))) {
            long id = Long.parseLong(reader.readLine());
            shell.waitFor();
            return ProcessHandle.of(id).orElseThrow();
        }
    }

    @Test
    void sleepIsHeldOffByTheSystemsOwnMeans() {
        assertThat(StayAwake.command(file -> false, 7)).isEmpty();
        assertThat(StayAwake.command(Path.of("/usr/bin/caffeinate")::equals, 7))
                .contains(List.of("/usr/bin/caffeinate", "-i", "-w", "7"));
        assertThat(StayAwake.command(file -> !file.equals(Path.of("/usr/bin/caffeinate")), 7))
                .hasValueSatisfying(line -> assertThat(line).contains("--what=sleep:idle", "--pid=7"));
    }
}
