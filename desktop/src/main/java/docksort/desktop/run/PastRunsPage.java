package docksort.desktop.run;

import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.workshop.RunDesk;
import docksort.run.RunReport;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.layout.VBox;

/// The list of runs that went before, and their reports.
final class PastRunsPage {
    private final RunDesk desk;
    private final TaskPage page;
    private final Button report = Parts.button("Write its report…", this::write, "main");
    private List<RunReport> runs = List.of();

    private PastRunsPage(RunDesk desk, Runnable back) {
        this.desk = desk;
        report.setId("write-past-report");
        this.page = new TaskPage(
                "past-runs",
                "Past runs",
                "What became of every copy in every run is kept with the project: its recipe, its figures, and what its"
                        + " check found. A report tells all of it, to read (HTML) or to count with (CSV).",
                TaskPage.columns("Begun", "Took", "What came of it", 160, 100, 370),
                "Nothing has run yet.",
                new VBox(),
                back);
        report.disableProperty().bind(page.chosen().lessThan(0));
    }

    static TaskPage of(RunDesk desk, Runnable back) {
        var task = new PastRunsPage(desk, back);
        desk.past(PastRunsModel.MOST, task::show);
        return task.page;
    }

    private void show(List<RunReport> now) {
        runs = now;
        page.show(PastRunsModel.of(now, ZoneId.systemDefault()), now.isEmpty() ? List.of() : List.of(report));
    }

    private Optional<RunReport> chosen() {
        int row = page.chosen().get();
        return row < 0 || row >= runs.size() ? Optional.empty() : Optional.of(runs.get(row));
    }

    private void write() {
        chosen().ifPresent(run -> TaskFields.save("Report of the run", "run-report.html", "html", "csv")
                .ifPresent(file -> desk.writeReport(run, file)));
    }
}
