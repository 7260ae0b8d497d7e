package docksort.files;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.problem.CoreException.InputRefused;
import docksort.problem.Faults;
import docksort.problem.Problem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.logging.FileHandler;
import java.util.logging.Handler;
import java.util.logging.Logger;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;

/// What nobody catches is found again: its trace in a file, its words with a person.
@Isolated("listens to all threads")
class LogFileTest {
    @TempDir
    Path folder = Path.of("");

    private final List<Problem> heard = Collections.synchronizedList(new ArrayList<>());
    private final Runnable deaf = Faults.listen(heard::add);

    @BeforeEach
    void open() {
        Faults.catchAll(LogFile.into(folder.resolve("log")));
    }

    @AfterEach
    void close() {
        deaf.run();
        Thread.setDefaultUncaughtExceptionHandler(null);
        for (Handler handler : Logger.getLogger("").getHandlers()) {
            if (handler instanceof FileHandler) {
                Logger.getLogger("").removeHandler(handler);
                handler.close();
            }
        }
    }

    private String logged() throws Exception {
        try (Stream<Path> files = Files.list(folder.resolve("log"))) {
            List<String> texts = new ArrayList<>();
            for (Path file :
                    files.filter(each -> each.toString().endsWith(".log")).toList()) {
                texts.add(Files.readString(file));
            }
            return texts.stream().collect(Collectors.joining());
        }
    }

    @Test
    void aFaultOnAnyThreadIsLoggedWithItsTraceAndToldWithoutIt() throws Exception {
        Thread.ofPlatform()
                .name("drill")
                .start(() -> {
                    throw new IllegalStateException("of the drill");
                })
                .join();
        assertThat(logged()).contains("fault on drill", "java.lang.IllegalStateException: of the drill", "\tat ");
        assertThat(heard)
                .singleElement()
                .satisfies(problem -> assertThat(problem.sentence())
                        .contains("Something went wrong", folder.resolve("log").toString())
                        .doesNotContain("Exception", "\tat "));
    }

    @Test
    void aFailureOfTheWorldIsToldInItsOwnWordsOnly() throws Exception {
        var problem = new Problem("The volume went away", "", "Nothing was changed.", "Mount it again.");
        CompletableFuture<String> future = CompletableFuture.failedFuture(new InputRefused(problem));
        try {
            future.thenApply(String::strip).join();
        } catch (CompletionException e) {
            Faults.tell(e);
        }
        assertThat(heard).containsExactly(problem);
        assertThat(logged()).isEmpty();
    }
}
