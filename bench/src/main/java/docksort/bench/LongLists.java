package docksort.bench;

import docksort.catalogue.Catalogue;
import docksort.catalogue.Desk;
import docksort.desktop.parts.ColumnForm;
import docksort.desktop.parts.Theme;
import docksort.desktop.shell.Window;
import docksort.desktop.workshop.Workshop;
import docksort.files.Documents;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.TimeUnit;
import java.util.logging.Level;
import java.util.logging.Logger;
import javafx.application.Platform;
import javafx.scene.Parent;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.stage.Stage;

/// How long lists of very many clips take to be filtered and to get other columns: from the moment at
/// which it is asked for until all is laid out again, on the window's thread. Each letter of a word is one
/// measurement, as when it is typed.
public final class LongLists {
    private static final int ROUNDS = 12;
    private static final List<String> TYPED = List.of("c", "c1", "c12", "c12 h", "c12 hevc", "");

    private LongLists() {}

    /// @param args a work folder and how many clips
    public static void main(String[] args) {
        try {
            measure(Documents.ensureFolder(Path.of(args[0])).toRealPath(), Integer.parseInt(args[1]));
            System.exit(0);
        } catch (Exception e) {
            e.printStackTrace();
            System.exit(1); // the window's own thread would go on
        }
    }

    private static void measure(Path work, int clips) throws Exception {
        Logger.getLogger("").setLevel(Level.WARNING);
        try (Catalogue catalogue =
                Catalogue.open(work.resolve("catalogue.db"), InstantSource.system(), new Desk("bench", "somebody"))) {
            BigStock.fill(catalogue, clips);
        }
        Platform.startup(() -> {});
        Workshop workshop = Workshop.open(work, Platform::runLater);
        try (workshop) {
            Window window = WindowAnswers.onWindow(() -> {
                Theme.install();
                var made = new Window(workshop);
                var stage = new Stage();
                stage.setScene(made.scene());
                stage.show();
                return made;
            });
            while (WindowAnswers.onWindow(() -> workshop.views().view().get().isEmpty())) {
                TimeUnit.MILLISECONDS.sleep(50);
            }
            TimeUnit.SECONDS.sleep(5); // until every station has taken its view
            tell(window, 0, "arrivals", clips);
            tell(window, 1, "sort", clips);
            tell(window, 3, "stock", clips);
        }
    }

    private static void tell(Window window, int index, String name, int clips) throws Exception {
        WindowAnswers.onWindow(() -> {
            window.show(index);
            return 0;
        });
        var filters = new double[(ROUNDS - 2) * TYPED.size()];
        var columns = new double[(ROUNDS - 2) * 2];
        for (int round = 0; round < ROUNDS; round++) {
            for (int i = 0; i < TYPED.size(); i++) {
                String words = TYPED.get(i);
                double taken = millis(
                        window, () -> ((TextField) window.scene().lookup("#" + name + "-filter")).setText(words));
                if (round > 1) { // a program that was just started is not the question
                    filters[(round - 2) * TYPED.size() + i] = taken;
                }
            }
            TableView<?> table =
                    WindowAnswers.onWindow(() -> (TableView<?>) window.scene().lookup("#" + name + "-table"));
            String now = WindowAnswers.onWindow(() -> ColumnForm.of(table));
            String other = String.join(
                    "|", Arrays.asList(now.replace("!", "").split("\\|", -1)).reversed());
            for (int i = 0; i < 2; i++) {
                String form = i == 0 ? other : now;
                double taken = millis(window, () -> ColumnForm.apply(table, form));
                if (round > 1) {
                    columns[(round - 2) * 2 + i] = taken;
                }
            }
        }
        say(name + ", " + clips + " clips: filter", filters, 50);
        say(name + ", " + clips + " clips: other columns", columns, 100);
    }

    private static double millis(Window window, Runnable what) throws Exception {
        double taken = WindowAnswers.onWindow(() -> {
            long start = System.nanoTime();
            what.run();
            Parent root = window.scene().getRoot();
            root.applyCss();
            root.layout();
            return (System.nanoTime() - start) / 1e6;
        });
        WindowAnswers.onWindow(() -> 0); // what was put off until later is not the next one's
        return taken;
    }

    private static void say(String what, double[] millis, int wanted) {
        double[] sorted = millis.clone();
        Arrays.sort(sorted);
        System.out.printf(
                Locale.ROOT,
                "%s: median %.1f ms, worst of %d %.1f ms (wanted below %d)%n",
                what,
                sorted[sorted.length / 2],
                sorted.length,
                sorted[sorted.length - 1],
                wanted);
    }
}
