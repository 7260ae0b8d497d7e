package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.ScanListener;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Brought;
import docksort.files.SimulatedCard;
import docksort.files.TreeCopy;
import docksort.files.TreeCopy.Fate;
import docksort.project.BringingIn;
import docksort.project.Project;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.function.BiConsumer;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "bring",
        description = "Copies a card, or any folder, to one place or several: every file is read once, written to all,"
                + " read back and compared, and listed with its checksum (ASC MHL). Nothing is written over; begun"
                + " again, it goes on. It says whether the card is safe to clear.")
final class BringCommand implements Callable<Integer> {
    private static final long TOLD_EVERY_NANOS = 5_000_000_000L;

    @Mixin
    private Common common = new Common();

    @Parameters(arity = "1", paramLabel = "CARD", description = "The card's folder.")
    private Path card = Path.of("");

    @Option(
            names = "--into",
            required = true,
            paramLabel = "FOLDER",
            description = "Where a folder of the card's name is made; may be given several times.")
    private List<Path> places = List.of();

    @Option(names = "--add", description = "Take the first copy into the project as an arrival, when all is well.")
    private boolean add;

    @Option(
            names = "--simulate",
            paramLabel = "KIND",
            description = "Try out what happens with a card that misbehaves: read-fault, pulled-out or changed. The"
                    + " folder is only read.")
    private Optional<String> simulated = Optional.empty();

    @Option(
            names = "--read-twice",
            description = "Read the card a second time at the end: what it or its reader gave wrong is found so.")
    private boolean twice;

    @Override
    public Integer call() throws InterruptedException {
        common.refuse(
                simulated.filter(kind -> SimulatedCard.named(kind).isEmpty()).isPresent(),
                "--simulate wants one of read-fault, pulled-out, changed, was \"" + simulated.orElse("") + "\"");
        TreeCopy.Source source = simulated
                .flatMap(SimulatedCard::named)
                .map(SimulatedCard::source)
                .orElse(TreeCopy.Source.DISK);
        if (!add && !common.hasProject()) {
            return tell(BringingIn.copy(
                    card, places, source, twice, progress(), new Cancellation(), InstantSource.system()));
        }
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.openOrBegin(engine)) {
            Brought brought = project.bringingIn().bring(card, places, source, twice, progress(), new Cancellation());
            int code = tell(brought);
            if (add && brought.outcome().isSafeToClear()) {
                project.arrivals().add(brought.folders().getFirst(), ScanListener.none(), new Cancellation());
                common.say("added to the project: %s", brought.folders().getFirst());
            }
            return code;
        }
    }

    private BiConsumer<Long, Long> progress() {
        long begun = System.nanoTime();
        long[] told = {begun};
        return (read, all) -> {
            long now = System.nanoTime();
            if (now - told[0] > TOLD_EVERY_NANOS) {
                told[0] = now;
                common.note(BringingIn.pace(read, all, (now - begun) / 1e9));
            }
        };
    }

    private int tell(Brought brought) {
        TreeCopy.Outcome outcome = brought.outcome();
        ObjectNode answer = Common.object();
        answer.put("safe", outcome.isSafeToClear());
        answer.put("copied", outcome.count(Fate.COPIED));
        answer.put("there", outcome.count(Fate.THERE));
        ArrayNode folders = answer.putArray("folders");
        brought.folders().forEach(folder -> folders.add(folder.toString()));
        ArrayNode lists = answer.putArray("lists");
        brought.lists().forEach(list -> lists.add(list.toString()));
        ArrayNode faults = answer.putArray("faults");
        for (TreeCopy.Line line : outcome.lines()) {
            if (line.fate() != Fate.COPIED && line.fate() != Fate.THERE) {
                faults.addObject()
                        .put("file", line.path())
                        .put("place", line.place().toString())
                        .put("fate", line.fate().label())
                        .put("why", line.why());
                common.say("  %-20s %s at %s: %s", line.fate().label(), line.path(), line.place(), line.why());
            }
        }
        ArrayNode changes = answer.putArray("changes");
        outcome.changes().forEach(change -> {
            changes.add(change);
            common.say("  the card itself: %s", change);
        });
        common.say("%d copied, %d were there and are the same", outcome.count(Fate.COPIED), outcome.count(Fate.THERE));
        brought.lists().forEach(list -> common.say("checksums: %s", list));
        common.say(
                "%s",
                outcome.isSafeToClear()
                        ? "Safe to clear: every file of the card was read back at every place."
                        : "NOT safe to clear. Begun again, it goes on where it is.");
        if (common.json()) {
            common.print(answer);
        }
        return outcome.isSafeToClear() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
    }
}
