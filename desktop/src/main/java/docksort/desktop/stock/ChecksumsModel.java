package docksort.desktop.stock;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.dispatch.AscMhl;
import docksort.dispatch.ChecksumCheck;
import docksort.dispatch.ChecksumCheck.Result;
import java.util.ArrayList;

/// What files say against a list of checksums, and what was written of one.
final class ChecksumsModel {
    private ChecksumsModel() {}

    static TaskFindings of(ChecksumCheck check) {
        var lines = new ArrayList<TaskLine>();
        check.lines().stream()
                .filter(line -> line.result() != Result.SAME)
                .forEach(line -> lines.add(new TaskLine(
                        line.result() == Result.UNKNOWN_KIND ? Tone.LOOK : Tone.STOP,
                        line.result().label(),
                        String.valueOf(line.file().getFileName()),
                        "",
                        line.words())));
        check.unlisted()
                .forEach(file -> lines.add(new TaskLine(
                        Tone.PLAIN, "not listed", String.valueOf(file.getFileName()), "", file.toString())));
        return TaskFindings.done(
                check.count(Result.SAME) + " of " + check.list().entries().size() + " files are the same, "
                        + check.unlisted().size() + " are not in the list",
                lines);
    }

    static TaskFindings written(AscMhl.Generation generation) {
        return TaskFindings.done(
                "Generation " + generation.number() + " of " + generation.files() + " files: " + generation.manifest(),
                generation.changed().stream()
                        .map(file -> new TaskLine(
                                Tone.STOP,
                                "changed",
                                String.valueOf(file.getFileName()),
                                "",
                                "not as in an earlier generation"))
                        .toList());
    }
}
