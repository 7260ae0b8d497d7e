package docksort.desktop.dispatch;

import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.workshop.DispatchDesk;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;

/// The task of writing tracks as edit lists.
final class EditListsPage {
    private final DispatchDesk desk;
    private final TaskPage page;

    private EditListsPage(DispatchDesk desk, Runnable back) {
        this.desk = desk;
        this.page = new TaskPage(
                "lists",
                "Edit lists",
                "Each track of picture as a CMX 3600 edit list, for programs that read nothing else: cuts, dissolves"
                        + " and speeds, with reels, names and files. The timeline itself stays as it is.",
                TaskPage.columns("Track", "", "", 400, 110, 110),
                "Reading the timeline.",
                TaskFields.row(),
                back);
    }

    static TaskPage of(DispatchDesk desk, Runnable back) {
        var lists = new EditListsPage(desk, back);
        desk.tracks(lists::show);
        return lists.page;
    }

    private void show(List<String> tracks) {
        page.show(
                EditListsModel.of(tracks),
                tracks.stream().collect(Collectors.toMap(Function.identity(), track -> () -> write(track))));
    }

    private void write(String track) {
        TaskFields.save("Edit list", track + ".edl", "edl")
                .ifPresent(target ->
                        desk.writeEditList(track, target, left -> page.show(EditListsModel.written(target, left))));
    }
}
