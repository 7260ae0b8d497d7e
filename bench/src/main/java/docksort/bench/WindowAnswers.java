package docksort.bench;

import docksort.desktop.parts.Theme;
import docksort.desktop.shell.Window;
import docksort.desktop.workshop.Workshop;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.project.Project;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Locale;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.function.IntPredicate;
import java.util.function.Supplier;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.stream.IntStream;
import javafx.application.Platform;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.stage.Stage;

/// How soon the window answers while a run of very many tiny clips goes on: every few moments something
/// is asked of its thread, and the time until it was done is taken. Meanwhile the stations are gone
/// through, rows are walked, and the filter is typed into. The window is a real one on the headless
/// platform, drawn by software. The same is done first while nothing runs, so that what the run adds can
/// be told from what the window and this machine take anyway.
public final class WindowAnswers {
    private static final int MOMENT_MILLIS = 25;
    private static final int MOMENTS_OF_STATION = 40;
    private static final int QUIET_MOMENTS = 2000;
    private static final long LATE_NANOS = TimeUnit.MILLISECONDS.toNanos(100);

    private WindowAnswers() {}

    /// @param args a work folder and how many clips
    public static void main(String[] args) {
        try {
            measure(args);
            System.exit(0);
        } catch (Exception e) {
            e.printStackTrace();
            System.exit(1); // the window's own thread would go on
        }
    }

    private static void measure(String[] args) throws Exception {
        if (args.length != 2) {
            System.err.println("usage: WindowAnswers WORK CLIPS");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.WARNING);
        Path work = Documents.ensureFolder(Path.of(args[0])).toRealPath();
        Path place = work.resolve("project");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = Project.open(place, engine, InstantSource.system())) {
            ManyCopies.enqueue(project, ManyCopies.card(work, Integer.parseInt(args[1]), engine));
        }
        var started = new CountDownLatch(1);
        Platform.startup(started::countDown);
        started.await();
        Workshop workshop = Workshop.open(place, Platform::runLater);
        try (workshop) {
            Window window = onWindow(() -> {
                Theme.install();
                var made = new Window(workshop);
                var stage = new Stage();
                stage.setScene(made.scene());
                stage.show();
                return made;
            });
            for (int moment = 0; moment < 5 * MOMENTS_OF_STATION; moment++) {
                walk(window, moment); // a program that was just started is not the question
            }
            tell("with nothing running", measure(window, moment -> moment < QUIET_MOMENTS));
            workshop.runs().start().get(1, TimeUnit.MINUTES);
            long asked = System.nanoTime();
            while (!isRunning(workshop) && System.nanoTime() - asked < TimeUnit.SECONDS.toNanos(30)) {
                TimeUnit.MILLISECONDS.sleep(MOMENT_MILLIS); // the window hears of it a moment later
            }
            tell("during the run", measure(window, _ -> isRunning(workshop)));
        }
    }

    private static boolean isRunning(Workshop workshop) {
        try {
            return onWindow(() -> workshop.runs().shown().get().running());
        } catch (Exception e) {
            throw new IllegalStateException("the window does not say whether it runs", e);
        }
    }

    /// @param wanted whether one more moment is to be measured, by how many there were
    private static long[] measure(Window window, IntPredicate wanted) throws Exception {
        long[] nanos = new long[1_000_000];
        int count = 0;
        while (count < nanos.length && wanted.test(count)) {
            int moment = count;
            long asked = System.nanoTime();
            walk(window, moment);
            nanos[count++] = System.nanoTime() - asked;
            if (nanos[count - 1] > LATE_NANOS) {
                System.out.printf(
                        "  late: moment %d ended at %s%n",
                        moment, InstantSource.system().instant());
            }
            TimeUnit.MILLISECONDS.sleep(MOMENT_MILLIS);
        }
        return Arrays.copyOf(nanos, count);
    }

    private static void walk(Window window, int moment) throws Exception {
        onWindow(() -> {
            use(window, moment);
            return 0;
        });
    }

    /// One small thing that a person would do.
    private static void use(Window window, int moment) {
        if (moment % MOMENTS_OF_STATION == 0) {
            window.show(moment / MOMENTS_OF_STATION % 5);
        } else if (window.scene().getFocusOwner() instanceof TextField field) {
            field.setText(moment % 3 == 0 ? "" : field.getText() + moment % 10);
        } else if (window.scene().getFocusOwner() != null) {
            window.scene()
                    .getFocusOwner()
                    .fireEvent(new KeyEvent(
                            KeyEvent.KEY_PRESSED,
                            "",
                            "",
                            moment % 17 == 16 ? KeyCode.PAGE_DOWN : KeyCode.DOWN,
                            false,
                            false,
                            false,
                            false));
        }
    }

    /// Which answers took longest, and at which station.
    private static void slowest(long[] nanos) {
        IntStream.range(0, nanos.length)
                .boxed()
                .sorted(Comparator.comparingLong((Integer moment) -> -nanos[moment]))
                .limit(5)
                .forEach(moment -> System.out.printf(
                        Locale.ROOT,
                        "  %.0f ms at moment %d: %s %d%n",
                        nanos[moment] / 1e6,
                        moment,
                        moment % MOMENTS_OF_STATION == 0 ? "change to station" : "something at station",
                        moment / MOMENTS_OF_STATION % 5 + 1));
    }

    private static void tell(String when, long[] nanos) {
        if (nanos.length == 0) {
            throw new IllegalStateException("no answer was measured " + when + ": the run was over too soon");
        }
        slowest(nanos);
        Arrays.sort(nanos);
        double worst = nanos[nanos.length - 1] / 1e6;
        long late = Arrays.stream(nanos).filter(taken -> taken > LATE_NANOS).count();
        System.out.printf(
                Locale.ROOT,
                "%d answers of the window %s: median %.0f ms, 99 of 100 below %.0f ms, worst %.0f ms; %d"
                        + " above 100 ms (wanted: none)%s%n",
                nanos.length,
                when,
                nanos[nanos.length / 2] / 1e6,
                nanos[(int) (nanos.length * 0.99)] / 1e6,
                worst,
                late,
                late == 0 ? "" : "  MISSED");
    }

    static <T> T onWindow(Supplier<T> work) throws Exception {
        var done = new CompletableFuture<T>();
        Platform.runLater(() -> {
            try {
                done.complete(work.get());
            } catch (RuntimeException e) {
                done.completeExceptionally(e);
            }
        });
        return done.get(1, TimeUnit.MINUTES);
    }
}
