package docksort.engine;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Predicate;

/// Tells something outside the window, by the desktop's own program for it. Where there is none, nothing is
/// told.
public final class SystemNotice implements BiConsumer<String, String> {
    @Override
    public void accept(String title, String text) {
        Optional<List<String>> command = command(Files::isExecutable, title, text);
        if (command.isEmpty()) {
            return;
        }
        try {
            new ProcessBuilder(command.get())
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
        } catch (IOException e) {
            System.getLogger(SystemNotice.class.getName())
                    .log(System.Logger.Level.DEBUG, "nothing was told outside the window", e);
        }
    }

    /// The text is an argument of its own and never part of a script.
    static Optional<List<String>> command(Predicate<Path> isThere, String title, String text) {
        Path notify = Path.of("/usr/bin/notify-send");
        if (isThere.test(notify)) {
            return Optional.of(List.of(notify.toString(), "--app-name=Dock Sort", "--", title, text));
        }
        Path script = Path.of("/usr/bin/osascript");
        if (isThere.test(script)) {
            return Optional.of(List.of(
                    script.toString(),
                    "-e",
                    "on run words",
                    "-e",
                    "display notification (item 2 of words) with title (item 1 of words)",
                    "-e",
                    "end run",
                    title,
                    text));
        }
        return Optional.empty();
    }
}
