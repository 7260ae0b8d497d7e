package docksort.desktop.stock;

import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskFindings.Deed;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.link.CopyNames;
import docksort.stock.StockLine;
import java.util.List;

/// What a pattern would make of names of copies.
final class NamesModel {
    static final String RENAME = "rename-copies";

    private NamesModel() {}

    /// Copies that a pattern is for: this project's own that are there.
    static List<WorkingCopy> meant(List<StockLine> stock) {
        return stock.stream()
                .flatMap(line -> line.copies().stream())
                .filter(copy -> copy.state().serves() && !copy.isAdopted())
                .toList();
    }

    static TaskFindings of(CopyNames names) {
        if (names.lines().isEmpty()) {
            return TaskFindings.done("There are no finished copies of this project's own");
        }
        int changes = names.changes().size();
        long faults =
                names.lines().stream().filter(line -> line.fault().isPresent()).count();
        String words = faults > 0
                ? faults + " cannot have their name, so none is renamed"
                : changes == 0 ? "All copies have these names already" : changes + " would be renamed";
        return new TaskFindings(
                words,
                names.lines().stream().map(NamesModel::line).toList(),
                List.of(new Deed(
                        RENAME,
                        "Rename " + changes + (changes == 1 ? " copy" : " copies"),
                        true,
                        names.isSound() && changes > 0)));
    }

    private static TaskLine line(CopyNames.Line line) {
        String now = String.valueOf(line.copy().file().getFileName());
        if (line.fault().isPresent()) {
            return new TaskLine(Tone.STOP, "cannot", now, "", line.fault().get());
        }
        return line.changes()
                ? new TaskLine(
                        Tone.GOOD, "changes", now, String.valueOf(line.to().getFileName()), "")
                : new TaskLine(Tone.PLAIN, "stays", now, now, "");
    }

    static TaskFindings done(int count) {
        return TaskFindings.done(
                count == 1
                        ? "1 copy renamed. Undo gives it its name back."
                        : count + " copies renamed. Undo gives them their names back.");
    }
}
