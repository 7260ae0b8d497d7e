package docksort.desktop;

import docksort.catalogue.Password;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.Theme;
import docksort.desktop.shell.JoinPage;
import docksort.desktop.shell.ProjectDoor;
import docksort.desktop.shell.ProjectPage;
import docksort.desktop.shell.Recents;
import docksort.desktop.shell.Window;
import docksort.desktop.shell.WindowMemory;
import docksort.desktop.workshop.Joining;
import docksort.desktop.workshop.Workshop;
import docksort.problem.CoreException.PasswordWanted;
import docksort.problem.Faults;
import docksort.problem.Problem;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.event.Event;
import javafx.scene.Scene;
import javafx.scene.layout.StackPane;
import javafx.stage.Stage;

/// The program with its window.
///
/// Options: `--project FOLDER`, `--demo FOLDER` (adds every arrival of a footage folder and opens its
/// timeline), `--unattended FOLDER` (does the whole job by itself and leaves pictures and a report
/// there). What else is named is taken as if it were dropped on the window.
public final class DockSortApp extends Application {
    private final Recents recents = Recents.ofThisPerson();
    private Optional<Workshop> workshop = Optional.empty();
    private Runnable keep = () -> {}; // how the window looks

    @Override
    public void start(Stage stage) {
        Theme.install();
        stage.setTitle("Dock Sort");
        stage.setMinWidth(960);
        stage.setMinHeight(600);
        var options = new Options(getParameters().getRaw());
        stage.setScene(saying("Opening the project…"));
        stage.show();
        Path project = options.project();
        // What the demo shows is the same for everybody.
        open(
                stage,
                project,
                () -> options.demo().isPresent()
                        ? Workshop.open(project, Platform::runLater)
                        : Workshop.begin(project, Optional.empty(), Platform::runLater),
                options::toTake,
                options);
    }

    private void open(
            Stage stage,
            Path project,
            Supplier<Workshop> opening,
            Function<Workshop, List<Path>> toTake,
            Options options) {
        CompletableFuture.supplyAsync(() -> {
                    Workshop opened = opening.get();
                    return new Opened(opened, toTake.apply(opened));
                })
                .whenComplete((opened, failure) -> Platform.runLater(() -> {
                    if (failure != null || opened == null) {
                        cannotOpen(stage, project, failure);
                        return;
                    }
                    shown(stage, project, opened, options);
                }));
    }

    private void shown(Stage stage, Path project, Opened opened, Options options) {
        workshop = Optional.of(opened.workshop);
        stage.setOnCloseRequest(asked -> {
            asked.consume();
            leave(stage, Platform::exit);
        });
        var window = new Window(opened.workshop);
        window.showFilesWith(this::showInFolder);
        stage.setScene(window.scene());
        Optional<Path> unattended = options.unattended();
        if (unattended.isPresent()) {
            new Unattended(opened.workshop, window, options, unattended.get()).start();
            return;
        }
        Path absolute = project.toAbsolutePath().normalize();
        recents.opened(absolute);
        stage.setTitle(absolute.getFileName() + " – Dock Sort");
        window.offer(new Door(stage), absolute);
        remember(window, stage);
        window.take(opened.toTake);
    }

    /// With what the system shows folders with. It is asked beside the window: it may take its time.
    private void showInFolder(Path file) {
        Thread.ofVirtual().name("show in folder").start(() -> {
            Path folder = file.toAbsolutePath().getParent();
            try {
                if (folder == null || !Files.isDirectory(folder)) {
                    throw new IOException("the folder is not there");
                }
                getHostServices().showDocument(folder.toUri().toString());
            } catch (IOException | RuntimeException e) {
                workshop.ifPresent(open -> open.troubles()
                        .show(new Problem(
                                file + " was not shown in its folder",
                                String.valueOf(e.getMessage()),
                                "Nothing was changed.",
                                "Copy its path, and open the folder by hand.")));
            }
        });
    }

    private void remember(Window window, Stage stage) {
        WindowMemory memory = WindowMemory.ofThisPerson();
        memory.restore(window, stage);
        keep = () -> memory.keep(window, stage);
    }

    /// What goes on comes to its end while the window says so; then something else begins.
    private void leave(Stage stage, Runnable then) {
        Optional<Workshop> left = workshop;
        workshop = Optional.empty();
        stage.setOnCloseRequest(Event::consume);
        keep.run();
        keep = () -> {};
        stage.setScene(saying("Finishing… What is done is kept; what is half done is made again the next time."));
        Thread.ofPlatform().name("closing").start(() -> {
            try {
                left.ifPresent(Workshop::close);
            } finally {
                Platform.runLater(then);
            }
        });
    }

    /// From one project to another, in this window.
    private final class Door implements ProjectDoor {
        private final Stage stage;

        Door(Stage stage) {
            this.stage = stage;
        }

        @Override
        public List<Path> recent() {
            return recents.all();
        }

        @Override
        public CompletableFuture<Boolean> isThere(Path folder) {
            return CompletableFuture.supplyAsync(() -> Workshop.isThere(folder));
        }

        @Override
        public void open(Path folder) {
            isThere(folder)
                    .thenAccept(there -> Platform.runLater(() -> {
                        if (there) {
                            begin(folder);
                        } else {
                            refuse(folder);
                        }
                    }));
        }

        /// What is open stays open.
        private void refuse(Path folder) {
            var problem = new Problem(
                    folder + " was not opened",
                    "it holds no project",
                    "Nothing was changed.",
                    "Begin one there, or choose another folder.");
            workshop.ifPresentOrElse(
                    open -> open.troubles().show(problem), () -> choose(Optional.of(problem.sentence())));
        }

        @Override
        public void begin(Path folder) {
            leave(stage, () -> begun(folder, () -> Workshop.begin(folder, Optional.empty(), Platform::runLater)));
        }

        @Override
        public void beginLike(Path folder, Path template) {
            leave(stage, () -> begun(folder, () -> Workshop.begin(folder, Optional.of(template), Platform::runLater)));
        }

        @Override
        public void openShared(Path folder, Password password) {
            leave(stage, () -> begun(folder, () -> Workshop.open(folder, password, Platform::runLater)));
        }

        @Override
        public void join() {
            leave(stage, () -> {
                stage.setTitle("Dock Sort");
                stage.setOnCloseRequest(_ -> Platform.exit());
                stage.setScene(new JoinPage(this, new Joining(Platform::runLater)).scene());
            });
        }

        private void begun(Path folder, Supplier<Workshop> opening) {
            stage.setScene(saying("Opening the project…"));
            DockSortApp.this.open(stage, folder, opening, _ -> List.of(), new Options(List.of()));
        }

        void askPassword(Path folder, String problem) {
            stage.setTitle("Dock Sort");
            stage.setOnCloseRequest(_ -> Platform.exit());
            stage.setScene(new ProjectPage(this).asking(folder, problem));
        }

        @Override
        public void close() {
            leave(stage, () -> choose(Optional.empty()));
        }

        void choose(Optional<String> problem) {
            stage.setTitle("Dock Sort");
            stage.setOnCloseRequest(_ -> Platform.exit());
            stage.setScene(new ProjectPage(this).scene(problem));
        }
    }

    private record Opened(Workshop workshop, List<Path> toTake) {}

    private static Scene saying(String words) {
        var pane = new StackPane(Parts.label(words, "quiet"));
        pane.setStyle("-fx-font-size: 13px;");
        var scene = new Scene(pane, 1280, 800);
        scene.getStylesheets().add(Theme.stylesheet());
        return scene;
    }

    private void cannotOpen(Stage stage, Path project, Throwable failure) {
        Throwable cause = failure.getCause() == null ? failure : failure.getCause();
        String words = Faults.tell(cause).sentence();
        System.err.println("dock-sort: " + words);
        if (new Options(getParameters().getRaw()).unattended().isPresent()) {
            System.exit(1);
        }
        if (cause instanceof PasswordWanted) {
            new Door(stage).askPassword(project, words);
            return;
        }
        new Door(stage).choose(Optional.of("The project cannot be opened. " + words));
    }

    /// Where the program ends otherwise than by its window, it ends here.
    @Override
    public void stop() {
        workshop.ifPresent(Workshop::close);
    }

    /// The command line as read.
    static final class Options {
        private final List<String> raw;

        Options(List<String> raw) {
            this.raw = List.copyOf(raw);
        }

        private Optional<Path> path(String name) {
            int at = raw.indexOf(name);
            return at >= 0 && at + 1 < raw.size() ? Optional.of(Path.of(raw.get(at + 1))) : Optional.empty();
        }

        Path project() {
            return path("--project").orElse(Path.of("dock-sort-project"));
        }

        Optional<Path> unattended() {
            return path("--unattended");
        }

        private List<Path> named() {
            var named = new ArrayList<Path>();
            for (int i = 0; i < raw.size(); i++) {
                if (raw.get(i).startsWith("--")) {
                    i++;
                } else {
                    named.add(Path.of(raw.get(i)));
                }
            }
            return named;
        }

        /// What is to be added and opened: the arrivals of the demo that are not in the project yet, its
        /// timeline, and what was named.
        List<Path> toTake(Workshop workshop) {
            var wanted = new ArrayList<Path>();
            path("--demo").ifPresent(demo -> {
                var known = workshop.knownArrivals();
                arrivals(demo).stream()
                        .filter(folder -> !known.contains(folder))
                        .forEach(wanted::add);
                if (!workshop.dispatch().hasTimeline()) {
                    timeline(demo).ifPresent(wanted::addFirst);
                }
            });
            wanted.addAll(named());
            return wanted;
        }

        /// Folders two levels down: volumes, and the arrivals on them.
        static List<Path> arrivals(Path demo) {
            return children(demo).stream()
                    .filter(Files::isDirectory)
                    .flatMap(volume -> children(volume).stream())
                    .filter(Files::isDirectory)
                    .toList();
        }

        static Optional<Path> timeline(Path demo) {
            return children(demo).stream()
                    .filter(file -> file.toString().toLowerCase(Locale.ROOT).endsWith(".otio"))
                    .findFirst();
        }

        private static List<Path> children(Path folder) {
            try (var list = Files.list(folder.toRealPath())) {
                return list.sorted().toList();
            } catch (IOException e) {
                throw new UncheckedIOException("cannot list " + folder, e);
            }
        }

        Optional<Path> demo() {
            return path("--demo");
        }
    }
}
