package docksort.desktop.run;

import docksort.catalogue.Machine;
import docksort.catalogue.Machine.Wish;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/// The machines that make copies of a shared project, as lines to read.
final class MachinesModel {
    private MachinesModel() {}

    /// @param doing in words
    /// @param figures how much it makes and made; empty where there is nothing to tell
    /// @param reads how fast it reads originals; empty where that was not measured
    /// @param sign of life
    /// @param lives false when others may make now what it had begun
    /// @param wishes what can be asked of it
    /// @param recipes ids of those that it was given; empty for all
    record Line(
            String workstation,
            String name,
            String doing,
            String figures,
            String reads,
            String sign,
            boolean lives,
            List<Wish> wishes,
            Optional<List<String>> recipes) {
        Line {
            wishes = List.copyOf(wishes);
            recipes = recipes.map(List::copyOf);
        }
    }

    /// @param label of a recipe, by its id
    static List<Line> lines(List<Machine> machines, UnaryOperator<String> label) {
        return machines.stream().map(machine -> line(machine, label)).toList();
    }

    private static Line line(Machine machine, UnaryOperator<String> label) {
        return new Line(
                machine.workstation(),
                machine.here() ? machine.workstation() + " (here)" : machine.workstation(),
                (machine.isStopped() ? "stopped; others make what it had begun" : doing(machine))
                        + machine.recipes()
                                .map(given ->
                                        given.stream().map(label).collect(Collectors.joining(", ", "; only ", "")))
                                .orElse(""),
                machine.isStopped() ? "" : figures(machine),
                machine.isStopped() ? "" : reads(machine),
                sign(machine.quiet()),
                !machine.isStopped(),
                wishes(machine),
                machine.recipes());
    }

    private static List<Wish> wishes(Machine machine) {
        if (machine.wish() != Wish.WORK) {
            return List.of(Wish.WORK);
        }
        return machine.isStopped() ? List.of() : List.of(Wish.DRAIN, Wish.HOLD);
    }

    private static String doing(Machine machine) {
        return switch (machine.wish()) {
            case WORK -> machine.doing();
            case HOLD -> machine.making() > 0 ? "is held still" : "was asked to hold still";
            case DRAIN -> machine.making() > 0 ? "finishes these and begins nothing more" : "begins nothing";
        };
    }

    private static String figures(Machine machine) {
        String made = machine.made() + " made" + (machine.failed() > 0 ? ", " + machine.failed() + " failed" : "");
        return machine.making() == 0
                ? machine.made() + machine.failed() == 0 ? "" : made
                : machine.making() + " of " + machine.workers() + " at a time, "
                        + String.format(Locale.ROOT, "%.0f fps", machine.framesPerSecond()) + ", " + made;
    }

    private static String reads(Machine machine) {
        return machine.reads().stream()
                .map(each -> each.bytesPerSecond() > 0
                        ? String.format(Locale.ROOT, "%s at %.0f MB/s", each.root(), each.bytesPerSecond() / 1e6)
                        : "nothing of " + each.root())
                .collect(Collectors.joining(", ", machine.reads().isEmpty() ? "" : "reads ", ""));
    }

    private static String sign(Duration quiet) {
        long seconds = quiet.toSeconds();
        return seconds < 15
                ? "lives"
                : "last sign of life " + (seconds < 120 ? seconds + " s" : quiet.toMinutes() + " min") + " ago";
    }

    static String words(Wish wish) {
        return switch (wish) {
            case WORK -> "Go on";
            case HOLD -> "Hold still";
            case DRAIN -> "Pause after these";
        };
    }
}
