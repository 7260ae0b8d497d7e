package docksort.desktop.shell;

import docksort.catalogue.Password;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.Theme;
import docksort.desktop.workshop.LibraryDesk;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.PasswordField;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/// Choosing a project: the page without any, and the menu of the one that is open.
public final class ProjectPage {
    private final ProjectDoor door;

    public ProjectPage(ProjectDoor door) {
        this.door = door;
    }

    /// @param problem why the last one could not be opened
    public Scene scene(Optional<String> problem) {
        var page = new VBox(14);
        page.setMaxWidth(620);
        page.setAlignment(Pos.CENTER_LEFT);
        problem.ifPresent(words -> page.getChildren().add(Parts.wrapped(words, "stop")));
        page.getChildren()
                .addAll(
                        Parts.label("Which project?", "docket-name"),
                        Parts.wrapped(
                                "A project is a folder. It holds what is known of footage and copies; the footage stays"
                                        + " where it is."),
                        new HBox(
                                8,
                                button("new-project", "Begin a new one…", this::begin, "main"),
                                button("open-project", "Open one…", this::open),
                                button("join-project", "Join a shared one…", door::join)));
        List<Path> recent = door.recent();
        if (!recent.isEmpty()) {
            page.getChildren().add(Parts.section("Opened last"));
            recent.forEach(path -> page.getChildren().add(line(path, recent.indexOf(path))));
        }
        var pane = new StackPane(page);
        pane.setStyle("-fx-font-size: 13px;");
        var scene = new Scene(pane, 1280, 800);
        scene.getStylesheets().add(Theme.stylesheet());
        return scene;
    }

    /// @param problem how the database refused
    public Scene asking(Path folder, String problem) {
        var password = new PasswordField();
        password.setId("wanted-password");
        password.setAccessibleText("Password");
        password.setMaxWidth(240);
        Runnable open = () -> door.openShared(folder, Password.of(password.getText()));
        password.setOnAction(_ -> open.run());
        var page = new VBox(
                14,
                Parts.label(name(folder), "docket-name"),
                Parts.wrapped(problem),
                SharePage.named("Password", password),
                new HBox(
                        8,
                        button("open-with-password", "Open", open, "main"),
                        button("back-to-projects", "Back to the projects", door::close)),
                Parts.wrapped(
                        "It is kept nowhere. In ~/.pgpass, PGPASSWORD or a service file it is found by itself.",
                        "quiet"));
        page.setMaxWidth(620);
        page.setAlignment(Pos.CENTER_LEFT);
        var pane = new StackPane(page);
        pane.setStyle("-fx-font-size: 13px;");
        var scene = new Scene(pane, 1280, 800);
        scene.getStylesheets().add(Theme.stylesheet());
        return scene;
    }

    private static Button button(String id, String words, Runnable run, String... styles) {
        Button button = Parts.button(words, run, styles);
        button.setId(id);
        return button;
    }

    /// Whether it is there is asked beside the window: it may lie on a volume that does not answer.
    private Node line(Path path, int row) {
        Button open = Parts.button(name(path), () -> door.open(path));
        open.setMinWidth(180);
        open.setId("recent-" + row);
        var place = Parts.wrapped(path.toString(), "mono");
        var line = new HBox(12, open, place);
        line.setAlignment(Pos.CENTER_LEFT);
        door.isThere(path)
                .thenAccept(there -> Platform.runLater(() -> {
                    if (!there) {
                        open.setDisable(true);
                        line.getChildren().add(Parts.marked(Mark.look(), "not there", "look"));
                    }
                }));
        return line;
    }

    private void begin() {
        TaskFields.folder("Folder for the new project").ifPresent(door::begin);
    }

    private void open() {
        TaskFields.folder("Folder of the project").ifPresent(door::open);
    }

    /// @param project folder of the one that is open
    /// @param share shows how it is shared
    MenuButton menu(Path project, LibraryDesk library, Runnable share) {
        var menu = new MenuButton(name(project));
        menu.setId("project-menu");
        menu.setMinWidth(Region.USE_PREF_SIZE);
        menu.setAccessibleText("Project " + name(project));
        menu.setOnShowing(_ -> menu.getItems().setAll(items(project, library, share)));
        menu.getItems().setAll(items(project, library, share));
        return menu;
    }

    private List<MenuItem> items(Path project, LibraryDesk library, Runnable share) {
        var items = new ArrayList<MenuItem>();
        items.add(Parts.item("Begin a new project…", this::begin));
        items.add(Parts.item(
                "Begin one like this…",
                () -> TaskFields.folder("Folder for the new project")
                        .ifPresent(folder -> door.beginLike(folder, project))));
        items.add(Parts.item("Open another project…", this::open));
        items.add(Parts.item("Join a shared project…", door::join));
        items.add(new SeparatorMenuItem());
        items.add(Parts.item("Share with other workstations…", share));
        items.add(new SeparatorMenuItem());
        items.add(Parts.item("Keep its recipes, rules and limits for new projects", library::keepBeginning));
        if (library.kept().get().beginning()) {
            items.add(Parts.item("Begin new projects with the built-in rules", library::forgetBeginning));
        }
        List<Path> others = door.recent().stream()
                .filter(path -> !path.equals(project.toAbsolutePath()))
                .toList();
        if (!others.isEmpty()) {
            items.add(new SeparatorMenuItem());
            others.forEach(path -> items.add(Parts.item(name(path) + "   " + path, () -> door.open(path))));
        }
        items.add(new SeparatorMenuItem());
        items.add(Parts.item("Close this project", door::close));
        return items;
    }

    static String name(Path project) {
        Path last = project.getFileName();
        return last == null ? project.toString() : last.toString();
    }
}
