package docksort.desktop.dispatch;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.dispatch.Places;
import java.util.ArrayList;
import java.util.Map;

/// Where this workstation and others see the roots.
final class WorkstationsModel {
    private WorkstationsModel() {}

    static TaskFindings of(Places places) {
        var lines = new ArrayList<TaskLine>();
        for (Places.Place place : places.roots()) {
            lines.add(new TaskLine(
                    Tone.GOOD,
                    "here",
                    place.name(),
                    DepartureModel.THIS_ONE,
                    place.here().toString()));
            place.elsewhere().entrySet().stream()
                    .sorted(Map.Entry.comparingByKey())
                    .forEach(entry -> lines.add(new TaskLine(
                            Tone.PLAIN,
                            "there",
                            place.name(),
                            entry.getKey(),
                            entry.getValue().toString())));
        }
        int others = places.workstations().size();
        return TaskFindings.done(
                switch (others) {
                    case 0 -> "No other workstation is known yet";
                    case 1 -> "1 other workstation";
                    default -> others + " other workstations";
                },
                lines);
    }
}
