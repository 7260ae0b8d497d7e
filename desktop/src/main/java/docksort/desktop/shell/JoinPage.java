package docksort.desktop.shell;

import docksort.catalogue.Desk;
import docksort.catalogue.Invitation;
import docksort.catalogue.Invitation.SharedRoot;
import docksort.catalogue.Password;
import docksort.catalogue.SharedAddress;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.Theme;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.Joining;
import docksort.problem.CoreException.InputRefused;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import javafx.geometry.Pos;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.PasswordField;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/// Joins a project that others share: where its database is, who works here, and where each of its folders is on this
/// workstation.
public final class JoinPage {
    private final ProjectDoor door;
    private final Joining joining;
    private final TextField address = TaskFields.field("join-address", "postgresql://user@host/database", 34);
    private final TextField schema = TaskFields.field("join-schema", "as the others say it", 14);
    private final PasswordField password = new PasswordField();
    private final TextField person = TaskFields.field("join-person", "who works here", 14);
    private final TextField workstation = TaskFields.field("join-workstation", "name of this machine", 14);
    private final TextField folder = TaskFields.field("join-folder", "an empty folder of this machine", 34);
    private final Label told = Parts.wrapped("", "stop");
    private final VBox places = new VBox(8);
    private final Map<String, TextField> paths = new LinkedHashMap<>();
    private final Button look;
    private final Button join;

    public JoinPage(ProjectDoor door, Joining joining) {
        this.door = door;
        this.joining = joining;
        Desk here = Joining.here();
        person.setText(here.person());
        workstation.setText(here.workstation());
        password.setId("join-password");
        password.setAccessibleText("Password");
        password.setPrefColumnCount(12);
        look = Parts.button("Look", this::look, "main");
        look.setId("join-look");
        join = Parts.button("Join", this::join, "main");
        join.setId("join-now");
        told.setId("join-told");
        tell("");
    }

    public Scene scene() {
        Button back = Parts.button("Back to the projects", door::close);
        back.setId("back-to-projects");
        var page = new VBox(
                14,
                Parts.label("Join a shared project", "docket-name"),
                Parts.wrapped("Somebody shared it and knows where: the project's menu says so there, under Share."),
                new FlowPane(
                        12,
                        8,
                        SharePage.named("Database", address),
                        SharePage.named("Name of the project there", schema),
                        SharePage.named("Password, if it asks for one", password)),
                new FlowPane(12, 8, SharePage.named("You", person), SharePage.named("This workstation", workstation)),
                new HBox(8, look, back),
                told,
                places);
        page.setMaxWidth(820);
        page.setAlignment(Pos.CENTER_LEFT);
        page.setStyle("-fx-padding: 2em;");
        var scroll = new ScrollPane(page);
        scroll.setFitToWidth(true);
        scroll.setStyle("-fx-font-size: 13px;");
        var scene = new Scene(scroll, 1280, 800);
        scene.getStylesheets().add(Theme.stylesheet());
        return scene;
    }

    private Desk desk() {
        return new Desk(workstation.getText().strip(), person.getText().strip(), Password.of(password.getText()));
    }

    private SharedAddress where() {
        return SharedAddress.parse(address.getText(), schema.getText().strip());
    }

    private void tell(String words) {
        told.setText(words);
        told.setVisible(!words.isEmpty());
        told.setManaged(!words.isEmpty());
    }

    private void busy(boolean on) {
        look.setDisable(on);
        join.setDisable(on);
    }

    private void failed(String words) {
        busy(false);
        tell(words);
    }

    private void look() {
        try {
            SharedAddress at = where();
            busy(true);
            tell("");
            places.getChildren().setAll(Parts.label("Looking…", "quiet"));
            joining.look(at, desk(), this::show, words -> {
                places.getChildren().clear();
                failed(words);
            });
        } catch (InputRefused e) {
            failed(e.problem().sentence());
        }
    }

    private void show(Invitation invitation) {
        busy(false);
        paths.clear();
        var grid = new VBox(8);
        int row = 0;
        for (SharedRoot root : invitation.roots()) {
            TextField path = TaskFields.field("join-root-" + row++, "nowhere on this workstation", 40);
            root.here().ifPresent(here -> path.setText(here.toString()));
            paths.put(root.name(), path);
            grid.getChildren()
                    .add(new VBox(
                            2,
                            Parts.label(root.name(), "mono"),
                            new HBox(
                                    8,
                                    TaskFields.growing(path),
                                    TaskFields.chooseFolder(path, "Where " + root.name() + " is here")),
                            Parts.wrapped(root.elsewhere(), "quiet")));
        }
        places.getChildren()
                .setAll(
                        Parts.section("Where its folders are on this workstation"),
                        Parts.wrapped(
                                "A folder that is left empty is nowhere here: what lies in it counts as away, on this"
                                        + " workstation alone, and its place can be said later.",
                                "quiet"),
                        grid,
                        SharePage.named(
                                "Folder for what this workstation keeps of the project",
                                new HBox(8, folder, TaskFields.chooseFolder(folder, "Folder for the project"))),
                        Parts.wrapped(
                                invitation.workstations().isEmpty()
                                        ? ""
                                        : "Names that are taken: " + String.join(", ", invitation.workstations()),
                                "quiet"),
                        new HBox(8, join));
    }

    private void join() {
        var into = Typed.asPath(folder.getText());
        if (into.isEmpty()) {
            tell("Say in which folder this workstation keeps what it needs of the project.");
            return;
        }
        Map<String, Path> here = new LinkedHashMap<>();
        paths.forEach((name, field) -> Typed.asPath(field.getText()).ifPresent(path -> here.put(name, path)));
        busy(true);
        tell("");
        joining.join(
                into.get(),
                where(),
                desk(),
                here,
                () -> door.openShared(into.get(), Password.of(password.getText())),
                this::failed);
    }
}
