package docksort.files;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.function.Supplier;

/// Finds out which mounted volumes answer. One whose server or cable is gone may keep whoever asks it
/// waiting for ever: it is asked on a thread of its own, once, and counts as away until that thread comes
/// back. Safe for use by several threads.
public final class Mounts {
    /// Those of this machine.
    public static final Mounts HERE = new Mounts(Mounts::listed, Mounts::ask, Duration.ofSeconds(3));

    private static final long FRESH_NANOS = TimeUnit.SECONDS.toNanos(2);

    private final Supplier<List<Path>> points;
    private final Consumer<Path> ask;
    private final Duration patience;
    private final Map<Path, Question> asked = new ConcurrentHashMap<>();

    private record Question(long begunNanos, CountDownLatch answered) {}

    /// @param points where volumes are mounted
    /// @param ask comes back when the volume at such a point answers, whatever it says
    public Mounts(Supplier<List<Path>> points, Consumer<Path> ask, Duration patience) {
        this.points = points;
        this.ask = ask;
        this.patience = patience;
    }

    /// Whether the volume that a path lies on answers, where it is mounted at all.
    public boolean answers(Path path) {
        Path point = points.get().stream()
                .filter(path.toAbsolutePath().normalize()::startsWith)
                .max(Comparator.comparingInt(Path::getNameCount))
                .orElse(path.toAbsolutePath().getRoot());
        Question question = asked.compute(point, (_, last) -> last == null || isOld(last) ? begin(point) : last);
        try {
            long waited = System.nanoTime() - question.begunNanos;
            return question.answered.await(patience.toNanos() - waited, TimeUnit.NANOSECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    private static boolean isOld(Question last) {
        return last.answered.getCount() == 0 && System.nanoTime() - last.begunNanos > FRESH_NANOS;
    }

    private Question begin(Path point) {
        var question = new Question(System.nanoTime(), new CountDownLatch(1));
        Thread.ofPlatform().daemon().name("asking " + point).start(() -> {
            try {
                ask.accept(point);
            } finally {
                question.answered.countDown();
            }
        });
        return question;
    }

    /// The kernel's list is read without asking any of them. Other systems have no such file: there a
    /// volume that does not answer is not told from one that does.
    private static List<Path> listed() {
        Listing last = latest;
        if (System.nanoTime() - last.nanos < FRESH_NANOS) {
            return last.points;
        }
        List<Path> points = read();
        latest = new Listing(System.nanoTime(), points);
        return points;
    }

    private record Listing(long nanos, List<Path> points) {}

    private static volatile Listing latest = new Listing(System.nanoTime() - 2 * FRESH_NANOS, List.of());

    private static List<Path> read() {
        var points = new ArrayList<Path>();
        try {
            for (String line : Files.readAllLines(Path.of("/proc/self/mounts"))) {
                String[] columns = line.split(" ", 3);
                if (columns.length == 3) {
                    points.add(Path.of(unescaped(columns[1])));
                }
            }
        } catch (IOException | IllegalArgumentException e) {
            return List.of();
        }
        return points;
    }

    /// Blanks and the like stand as three octal digits behind a backslash (proc(5), fstab(5)).
    static String unescaped(String text) {
        var plain = new StringBuilder();
        for (int i = 0; i < text.length(); i++) {
            if (text.charAt(i) == '\\' && i + 3 < text.length()) {
                plain.append((char) Integer.parseInt(text.substring(i + 1, i + 4), 8));
                i += 3;
            } else {
                plain.append(text.charAt(i));
            }
        }
        return plain.toString();
    }

    private static void ask(Path point) {
        try {
            Files.getFileStore(point).getUsableSpace();
        } catch (IOException | SecurityException e) {
            return; // an error is an answer, too
        }
    }
}
