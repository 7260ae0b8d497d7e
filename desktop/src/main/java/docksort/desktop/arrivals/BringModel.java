package docksort.desktop.arrivals;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.desktop.parts.Typed;
import docksort.files.Brought;
import docksort.files.TreeCopy;
import docksort.files.TreeCopy.Fate;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// Copying a card to one place or two: what is asked for, and what came of it.
final class BringModel {
    private BringModel() {}

    /// @param places the first is where clips come in from
    record Order(Path card, List<Path> places) {
        Order {
            places = List.copyOf(places);
        }
    }

    /// @param second may be blank
    /// @return empty while something is missing or is no path
    static Optional<Order> order(String card, String first, String second) {
        Optional<Path> from = Typed.asPath(card);
        Optional<Path> to = Typed.asPath(first);
        Optional<Path> also = Typed.asPath(second);
        if (from.isEmpty() || to.isEmpty() || (also.isEmpty() && !second.isBlank())) {
            return Optional.empty();
        }
        var places = new ArrayList<Path>();
        places.add(to.get());
        also.ifPresent(places::add);
        return Optional.of(new Order(from.get(), places));
    }

    /// Faults first; what was copied is counted, not listed.
    static TaskFindings of(Brought brought) {
        TreeCopy.Outcome outcome = brought.outcome();
        var lines = new ArrayList<TaskLine>();
        outcome.changes().forEach(change -> lines.add(new TaskLine(Tone.STOP, "the card", change, "", "")));
        for (TreeCopy.Line line : outcome.lines()) {
            if (line.fate() != Fate.COPIED && line.fate() != Fate.THERE) {
                lines.add(new TaskLine(
                        Tone.STOP,
                        line.fate() == Fate.OTHER ? "differs" : line.fate().label(),
                        line.path(),
                        line.place().toString(),
                        line.why()));
            }
        }
        brought.folders().forEach(folder -> lines.add(place(brought, folder)));
        return TaskFindings.done(
                outcome.isSafeToClear()
                        ? "Safe to clear: every file of the card was read back at every place"
                        : "NOT safe to clear. Begun again, it goes on where it is",
                lines);
    }

    private static TaskLine place(Brought brought, Path folder) {
        long copied = count(brought, folder, Fate.COPIED);
        long there = count(brought, folder, Fate.THERE);
        String list = brought.lists().stream()
                .filter(each -> each.startsWith(folder))
                .findFirst()
                .map(each -> "checksums: " + folder.relativize(each))
                .orElse("no checksums were written");
        return new TaskLine(Tone.PLAIN, "place", folder.toString(), copied + " copied, " + there + " were there", list);
    }

    private static long count(Brought brought, Path folder, Fate fate) {
        return brought.outcome().lines().stream()
                .filter(line -> line.place().equals(folder) && line.fate() == fate)
                .count();
    }
}
