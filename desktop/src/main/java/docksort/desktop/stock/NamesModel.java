package docksort.desktop.stock;

import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskFindings.Deed;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.link.CopyNames;
import docksort.stock.StockLine;
import java.util.List;
import java.util.stream.Stream;

/// What a pattern would make of names of copies.
final class NamesModel {
    static final String RENAME = "rename-copies";

    private NamesModel() {}

    /// Copies that a pattern is for: those that are there, this project's own or all.
    ///
    /// @param takenOver whether those that were taken over are meant, too, the camera's own among them
    static List<WorkingCopy> meant(List<StockLine> stock, boolean takenOver) {
        return there(stock).filter(copy -> takenOver || !copy.isAdopted()).toList();
    }

    /// Copies that are left aside.
    static List<WorkingCopy> aside(List<StockLine> stock, boolean takenOver) {
        return there(stock).filter(copy -> !takenOver && copy.isAdopted()).toList();
    }

    private static Stream<WorkingCopy> there(List<StockLine> stock) {
        return stock.stream()
                .flatMap(line -> line.copies().stream())
                .filter(copy -> copy.state().serves());
    }

    /// @param aside copies that are not meant
    static TaskFindings of(CopyNames names, List<WorkingCopy> aside) {
        if (names.lines().isEmpty()) {
            return TaskFindings.done(
                    "There are no finished copies of this project's own",
                    aside.stream().map(NamesModel::aside).toList());
        }
        int changes = names.changes().size();
        long faults =
                names.lines().stream().filter(line -> line.fault().isPresent()).count();
        String words = faults > 0
                ? faults + " cannot have their name, so none is renamed"
                : changes == 0 ? "All copies have these names already" : changes + " would be renamed";
        return new TaskFindings(
                words,
                Stream.concat(
                                names.lines().stream().map(NamesModel::line),
                                aside.stream().map(NamesModel::aside))
                        .toList(),
                List.of(new Deed(
                        RENAME,
                        "Rename " + changes + (changes == 1 ? " copy" : " copies"),
                        true,
                        names.isSound() && changes > 0)));
    }

    private static TaskLine aside(WorkingCopy copy) {
        String now = String.valueOf(copy.file().getFileName());
        return new TaskLine(Tone.PLAIN, "left aside", now, "", "it was taken over, and keeps its name");
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
