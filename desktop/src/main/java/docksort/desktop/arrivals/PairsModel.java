package docksort.desktop.arrivals;

import docksort.arrival.Clip;
import docksort.arrival.PairSearch;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.stock.CameraPairs;
import docksort.stock.CameraPairs.Kind;
import docksort.stock.CameraPairs.Line;
import docksort.stock.Filling;
import docksort.strain.Verdict;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// Small files of an arrival with their originals, and what may be said of each by hand.
final class PairsModel {
    private final Path folder;
    private CameraPairs pairs = new CameraPairs(List.of());
    private List<PairSearch.Pair> listed = List.of();

    /// @param folder the arrival's
    PairsModel(Path folder) {
        this.folder = folder;
    }

    TaskFindings show(CameraPairs now) {
        pairs = now;
        listed = List.of();
        return new TaskFindings(
                now.inWords(), now.lines().stream().map(this::line).toList(), List.of());
    }

    /// What a look among footage found: these may be made copies.
    TaskFindings show(List<PairSearch.Pair> found) {
        listed = found;
        return new TaskFindings(
                found.isEmpty()
                        ? "No file that is listed as footage is a small copy of another"
                        : found.size()
                                + (found.size() == 1 ? " file is" : " files are")
                                + " listed as footage and would become "
                                + (found.size() == 1 ? "a copy" : "copies"),
                found.stream()
                        .map(pair -> new TaskLine(
                                Tone.GOOD,
                                "is a copy",
                                inside(pair.small().source().head()),
                                pair.original().name(),
                                pair.proof()))
                        .toList(),
                List.of());
    }

    List<PairSearch.Pair> listed() {
        return listed;
    }

    private TaskLine line(Line line) {
        String small = line.copy().map(WorkingCopy::file).map(this::inside).orElse("");
        return switch (line.kind()) {
            case PAIR ->
                new TaskLine(
                        tone(line),
                        line.kind().label(),
                        small,
                        line.clip().name(),
                        line.traits().map(traits -> traits.label() + " · ").orElse("") + line.words());
            case ALONE ->
                new TaskLine(
                        Tone.LOOK,
                        line.kind().label(),
                        inside(line.clip().source().head()),
                        "",
                        line.words());
            case WITHOUT ->
                new TaskLine(Tone.PLAIN, line.kind().label(), "", line.clip().name(), line.words());
        };
    }

    /// A small file that is hard itself is worth a look.
    private static Tone tone(Line line) {
        return line.traits().filter(traits -> traits.verdict() != Verdict.EASY).isPresent() ? Tone.LOOK : Tone.GOOD;
    }

    /// What the camera's settings came to, for the next shoot, the easiest first.
    List<String> settings() {
        return pairs.settings().stream()
                .map(setting -> String.format(
                        Locale.ROOT,
                        "%s: %s, %s, %.1f Mpx decoded for one frame, %.1f Mb/s",
                        setting.label(),
                        setting.clips() == 1 ? "1 file" : setting.clips() + " files",
                        setting.verdict().label(),
                        setting.pixelsForOne() / 1e6,
                        setting.bitsPerSecond() / 1e6))
                .toList();
    }

    static String fill(Filling filling) {
        int count = filling.clips().size();
        return "Plan " + (count == 1 ? "a copy" : count + " copies") + ": "
                + filling.recipe().name();
    }

    static TaskFindings filled(Filling filling) {
        int count = filling.clips().size();
        return TaskFindings.done((count == 1 ? "1 copy is" : count + " copies are") + " planned by the recipe "
                + filling.recipe().name() + ". Sort has it.");
    }

    private String inside(Path file) {
        return file.startsWith(folder) ? folder.relativize(file).toString() : file.toString();
    }

    private Optional<Line> at(int row) {
        return listed.isEmpty() && row >= 0 && row < pairs.lines().size()
                ? Optional.of(pairs.lines().get(row))
                : Optional.empty();
    }

    /// The copy in a row that may be said to be footage.
    Optional<WorkingCopy> copy(int row) {
        return at(row).flatMap(Line::copy);
    }

    /// The clip in a row that may be said to be a copy of another one.
    Optional<Clip> clip(int row) {
        return at(row).filter(line -> line.kind() != Kind.PAIR).map(Line::clip);
    }

    /// Clips that the one in a row may be a copy of: those that nothing speaks against.
    List<Clip> originals(int row) {
        return clip(row)
                .map(small -> pairs.lines().stream()
                        .map(Line::clip)
                        .distinct()
                        .filter(original -> PairSearch.refusal(original, small).isEmpty())
                        .toList())
                .orElse(List.of());
    }

    static TaskFindings moved(int count) {
        return TaskFindings.done(
                count == 1
                        ? "1 file is a copy now. Undo makes it footage again."
                        : count + " files are copies now. Undo makes them footage again.");
    }
}
