package docksort.desktop.dispatch;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.TimelineView;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Condition;
import docksort.dispatch.DepartureCheck.Finding;
import docksort.dispatch.DepartureReport;
import docksort.media.Raster;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/// What a departure check found, and who may let the timeline go.
final class DepartureModel {
    static final String THIS_ONE = "this workstation";

    private DepartureModel() {}

    /// The raster of the delivery as a person wrote it, where that is to be kept before a check.
    ///
    /// @param known what is kept already
    static Optional<Raster> newDelivery(String text, Optional<Raster> known) {
        if (text.isBlank() || Typed.raster(text).isPresent()) {
            return Optional.empty();
        }
        return Optional.of(Raster.parse(text)).filter(raster -> !known.equals(Optional.of(raster)));
    }

    static TaskFindings of(DepartureCheck check) {
        var lines = new ArrayList<TaskLine>();
        for (Condition condition : Condition.values()) {
            if (!check.failed(condition)) {
                lines.add(new TaskLine(Tone.GOOD, "holds", condition.title(), "", condition.label()));
            }
            check.findings().stream()
                    .filter(finding -> finding.condition() == condition && finding.blocks())
                    .forEach(finding -> lines.add(line(finding, Tone.STOP, "blocks")));
        }
        check.findings().stream()
                .filter(finding -> !finding.blocks())
                .forEach(finding -> lines.add(line(finding, Tone.PLAIN, "remark")));
        return TaskFindings.done(words(check), lines);
    }

    private static String words(DepartureCheck check) {
        if (!check.complete()) {
            return "The check was not finished";
        }
        long blocking = check.findings().stream().filter(Finding::blocks).count();
        if (blocking == 0) {
            return "It may leave: " + count(check.events(), "event") + ", "
                    + count(check.files().size(), "file");
        }
        return "It does not leave: "
                + (blocking == 1 ? "1 thing is not as it must be" : blocking + " things are not as they must be");
    }

    private static String count(int number, String what) {
        return number + " " + what + (number == 1 ? "" : "s");
    }

    private static TaskLine line(Finding finding, Tone tone, String word) {
        String event = finding.event() == 0 ? finding.subject() : finding.event() + "  " + finding.subject();
        return new TaskLine(tone, word, finding.condition().title(), event, finding.words());
    }

    /// Workstations that it can be written for.
    static List<String> workstations(Optional<TimelineView> timeline) {
        return Stream.concat(Stream.of(THIS_ONE), timeline.stream().flatMap(view -> view.workstations().stream()))
                .toList();
    }

    /// What the button says that lets it go.
    static String deed(DepartureCheck check) {
        return check.passes() ? "Let it leave…" : "Let it go by name and reason…";
    }

    /// Whether it may be let go: by name, and by a reason where the check does not pass.
    static boolean mayGo(DepartureCheck check, String name, String reason) {
        return check.complete() && !name.isBlank() && (check.passes() || !reason.isBlank());
    }

    static TaskFindings left(DepartureReport report) {
        return TaskFindings.done(
                "It left: " + report.result() + ", signed by " + report.signedBy(),
                List.of(
                        written("Timeline", report.timeline().toString()),
                        written("Report", report.timeline() + ".departure.html"),
                        written("Report as JSON", report.timeline() + ".departure.json")));
    }

    private static TaskLine written(String what, String where) {
        return new TaskLine(Tone.GOOD, "written", what, "", where);
    }
}
