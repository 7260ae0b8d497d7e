package docksort.engine;

import java.io.File;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.function.Predicate;

/// What a machine does at the end of a run. It is the person's and not this program's: it goes on when this
/// program ends.
public final class LastAct {
    private LastAct() {}

    /// The system's own program that puts the machine to sleep.
    ///
    /// @param isThere whether a program is there and may be run, or a folder is there
    public static Optional<List<String>> sleep(Predicate<Path> isThere) {
        Path systemctl = Path.of("/usr/bin/systemctl");
        if (isThere.test(systemctl) && isThere.test(Path.of("/run/systemd/system"))) {
            return Optional.of(List.of(systemctl.toString(), "suspend"));
        }
        Path pmset = Path.of("/usr/bin/pmset");
        if (isThere.test(pmset)) {
            return Optional.of(List.of(pmset.toString(), "sleepnow"));
        }
        Path rundll = Path.of("C:\\Windows\\System32\\rundll32.exe");
        return isThere.test(rundll)
                ? Optional.of(List.of(rundll.toString(), "powrprof.dll,SetSuspendState", "0,1,0"))
                : Optional.empty();
    }

    /// Begins a program.
    ///
    /// @param words the program and its arguments
    /// @param told variables of its environment
    /// @param output file for what it writes; it is overwritten
    /// @return its exit code, when it ends
    /// @throws IOException when it cannot be begun
    public static CompletableFuture<Integer> begin(List<String> words, Map<String, String> told, Path output)
            throws IOException {
        var builder = new ProcessBuilder(words);
        builder.environment().putAll(told);
        builder.redirectErrorStream(true);
        builder.redirectOutput(output.toFile());
        builder.redirectInput(ProcessBuilder.Redirect.from(nothing()));
        return builder.start().onExit().thenApply(Process::exitValue);
    }

    private static File nothing() {
        return new File(File.separatorChar == '\\' ? "NUL" : "/dev/null");
    }
}
