package docksort.desktop.shell;

import docksort.catalogue.Password;
import docksort.catalogue.SharedAddress;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.workshop.Workshop;
import docksort.problem.CoreException.InputRefused;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.PasswordField;
import javafx.scene.control.TextField;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/// Gives a project to several workstations; once it is shared, says how others join it.
final class SharePage {
    private final Workshop workshop;
    private final Runnable reopen;
    private final TextField address = TaskFields.field("share-address", "postgresql://user@host/database", 34);
    private final TextField schema = TaskFields.field("share-schema", "small letters, digits, underscores", 14);
    private final PasswordField password = new PasswordField();
    private final TaskPage page;

    /// @param reopen opens the project anew, as a shared one
    SharePage(Workshop workshop, Runnable reopen, Runnable back) {
        this.workshop = workshop;
        this.reopen = reopen;
        password.setId("share-password");
        password.setAccessibleText("Password");
        password.setPrefColumnCount(12);
        String name = workshop.views().view().get().map(view -> view.name()).orElse("");
        schema.setText(SharedAddress.schemaFor(name));
        boolean shared = workshop.sharing().address().isPresent();
        page = new TaskPage(
                "share",
                shared ? "Shared with other workstations" : "Share with other workstations",
                shared
                        ? "Others open the project from the same database, each with its own place for every folder."
                        : "The project's catalogue moves into a PostgreSQL database, which somebody has set up. Each"
                                + " row is compared. Footage and copies stay where they are; the catalogue's file stays"
                                + " too, and nothing is written into it any more.",
                shared
                        ? TaskPage.columns("Workstation", "", "", 240, 120, 260)
                        : TaskPage.columns("Table", "Rows", "", 240, 120, 260),
                shared
                        ? "On another workstation choose \"Join a shared project…\" in the project's menu, or give the"
                                + " command above."
                        : "Say where the database is. What is moved is listed here.",
                shared ? joining(workshop.sharing().address().orElseThrow()) : wishes(),
                back);
        if (shared) {
            workshop.sharing().members(this::joined);
        }
    }

    private void joined(List<String> members) {
        page.show(TaskFindings.done(
                members.size() == 1 ? "One workstation joined" : members.size() + " workstations joined",
                members.stream()
                        .map(member -> new TaskLine(
                                TaskLine.Tone.GOOD,
                                "joined",
                                member,
                                "",
                                member.equals(workshop.sharing().workstation()) ? "this one" : ""))
                        .toList()));
    }

    Node node() {
        return page.node();
    }

    static VBox named(String name, Node field) {
        return new VBox(2, Parts.label(name, "quiet"), field);
    }

    private Node wishes() {
        Button share = Parts.button("Share", this::share, "main");
        share.setId("share-now");
        return new VBox(
                8,
                new FlowPane(
                        12,
                        8,
                        named("Database", address),
                        named("Name of the project there", schema),
                        named("Password, if it asks for one", password)),
                Parts.wrapped(
                        "The password is kept nowhere: it comes from ~/.pgpass, PGPASSWORD or a service file, or is"
                                + " typed here each time.",
                        "quiet"),
                new HBox(8, share));
    }

    private Node joining(SharedAddress at) {
        String command = "dock-sort join '" + at.uri() + "' --schema " + at.schema();
        var shown = new TextField(command);
        shown.setId("join-command");
        shown.setEditable(false);
        shown.setAccessibleText("Command that joins the project");
        Button copy = Parts.button("Copy", () -> {
            var content = new ClipboardContent();
            content.putString(command);
            Clipboard.getSystemClipboard().setContent(content);
        });
        Button archive = Parts.button("Copy the catalogue into a file…", this::archive);
        archive.setId("share-archive");
        return new VBox(
                8,
                Parts.fact("database", at.uri()),
                Parts.fact("name there", at.schema()),
                Parts.fact("this workstation", workshop.sharing().workstation()),
                new HBox(8, TaskFields.growing(shown), copy),
                new HBox(8, archive));
    }

    private void share() {
        try {
            SharedAddress to =
                    SharedAddress.parse(address.getText(), schema.getText().strip());
            page.follow(workshop.sharing().share(to, Password.of(password.getText()), rows -> {
                page.show(
                        moved("Shared. The project has to be opened anew to go on in the database.", rows),
                        Map.of("open-shared", reopen));
            }));
        } catch (InputRefused e) {
            workshop.troubles().show(e.problem());
        }
    }

    private void archive() {
        TaskFields.save("Copy the catalogue into", "catalogue.db", "db")
                .ifPresent(file -> page.follow(workshop.sharing()
                        .archive(
                                file,
                                rows -> page.show(TaskFindings.done(
                                        "Copied into " + file
                                                + ": as catalogue.db of a folder it is a project of its own.",
                                        lines(rows))))));
    }

    private static TaskFindings moved(String words, Map<String, Long> rows) {
        return new TaskFindings(
                words, lines(rows), List.of(new TaskFindings.Deed("open-shared", "Open it anew", true, true)));
    }

    private static List<TaskLine> lines(Map<String, Long> rows) {
        return rows.entrySet().stream()
                .filter(row -> row.getValue() > 0)
                .map(row -> new TaskLine(
                        TaskLine.Tone.GOOD,
                        "the same",
                        row.getKey(),
                        row.getValue() + (row.getValue() == 1 ? " row" : " rows"),
                        "each compared"))
                .toList();
    }
}
