package docksort.desktop.dispatch;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskFindings.Deed;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.dispatch.Parcel;
import docksort.dispatch.PullList;
import docksort.media.ByteSize;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/// What a timeline needs, and what of it can be written or packed.
final class PullModel {
    static final String PACK = "pull-pack";
    static final String WRITE = "pull-write";

    private PullModel() {}

    static TaskFindings of(PullList list) {
        boolean any = !list.lines().isEmpty();
        return new TaskFindings(
                list.files() + " files of " + list.lines().size() + " recordings, " + new ByteSize(list.bytes())
                        + "; the frames used of them are about " + new ByteSize(list.rangeBytes())
                        + (list.left().isEmpty() ? "" : "; " + list.left().size() + " events are left out"),
                lines(list),
                List.of(
                        new Deed(PACK, "Pack into a folder…", true, any),
                        new Deed(WRITE, "Write the list…", false, any)));
    }

    private static List<TaskLine> lines(PullList list) {
        var lines = new ArrayList<TaskLine>();
        list.left().forEach(words -> lines.add(new TaskLine(Tone.LOOK, "left out", words, "", "")));
        for (PullList.Line line : list.lines()) {
            String used = line.ranges().stream()
                    .map(range -> range.first() + "–" + (range.end() - 1))
                    .collect(Collectors.joining(", "));
            lines.add(new TaskLine(
                    Tone.GOOD,
                    "pulled",
                    line.clip().name(),
                    line.place().toString(),
                    new ByteSize(line.bytes())
                            + (used.isEmpty()
                                    ? ""
                                    : "; frames " + used + " are about " + new ByteSize(line.rangeBytes()))));
        }
        return lines;
    }

    static TaskFindings packed(PullList list, Parcel parcel) {
        return TaskFindings.done(
                "Packed: " + parcel.files() + " files, " + new ByteSize(parcel.bytes()) + ", in " + parcel.folder(),
                lines(list));
    }

    static TaskFindings written(PullList list, Path file) {
        return TaskFindings.done("Written: " + file, lines(list));
    }
}
