package docksort.desktop.dispatch;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.dispatch.TimelineComparison;
import docksort.dispatch.TimelineComparison.Kind;
import java.util.Arrays;
import java.util.stream.Collectors;

/// What is otherwise in a newer version of a timeline.
final class VersionsModel {
    private VersionsModel() {}

    static TaskFindings of(TimelineComparison comparison) {
        return TaskFindings.done(
                inWords(comparison),
                comparison.changes().stream()
                        .map(change -> new TaskLine(
                                change.kind() == Kind.SHORTENED ? Tone.PLAIN : Tone.LOOK,
                                change.kind().label(),
                                change.event().number() + "  " + change.event().name(),
                                change.event().track(),
                                change.words()))
                        .toList());
    }

    static String inWords(TimelineComparison comparison) {
        String changes = Arrays.stream(Kind.values())
                .filter(kind -> comparison.count(kind) > 0)
                .map(kind -> comparison.count(kind) + " " + kind.label())
                .collect(Collectors.joining(", "));
        return (changes.isEmpty() ? "nothing is otherwise" : changes) + "; " + comparison.same() + " the same";
    }
}
