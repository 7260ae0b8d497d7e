package docksort.engine;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;

/// Holds the machine's sleep off while it is open, where the system has a program for that. It ends with this
/// program, whichever way that ends.
public final class StayAwake implements AutoCloseable {
    private final Optional<Process> helper;

    private StayAwake(Optional<Process> helper) {
        this.helper = helper;
    }

    public static StayAwake begin() {
        Optional<List<String>> command =
                command(Files::isExecutable, ProcessHandle.current().pid());
        if (command.isEmpty()) {
            return new StayAwake(Optional.empty());
        }
        try {
            return new StayAwake(Optional.of(new ProcessBuilder(command.get())
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start()));
        } catch (IOException e) {
            System.getLogger(StayAwake.class.getName())
                    .log(System.Logger.Level.WARNING, "the machine may fall asleep", e);
            return new StayAwake(Optional.empty());
        }
    }

    /// The system's own program for it, told to end when this program does.
    public static Optional<List<String>> command(Predicate<Path> isThere, long ownProcess) {
        String own = Long.toString(ownProcess);
        Path caffeinate = Path.of("/usr/bin/caffeinate");
        if (isThere.test(caffeinate)) {
            return Optional.of(List.of(caffeinate.toString(), "-i", "-w", own));
        }
        Path inhibit = Path.of("/usr/bin/systemd-inhibit");
        Path tail = Path.of("/usr/bin/tail");
        if (isThere.test(inhibit) && isThere.test(tail) && isThere.test(Path.of("/run/systemd/system"))) {
            return Optional.of(List.of(
                    inhibit.toString(),
                    "--what=sleep:idle",
                    "--who=Dock Sort",
                    "--why=Copies are being made",
                    tail.toString(),
                    "--pid=" + own,
                    "-f",
                    "/dev/null"));
        }
        return Optional.empty();
    }

    @Override
    public void close() {
        helper.ifPresent(process -> {
            process.descendants().forEach(ProcessHandle::destroy);
            process.destroy();
        });
    }
}
