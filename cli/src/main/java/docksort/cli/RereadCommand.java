package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.ByteSize;
import docksort.project.Project;
import docksort.stock.Reread;
import docksort.stock.Reread.Found;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "reread",
        description =
                "Reads copies whole from their disks and holds every byte against the checksum that was taken when"
                    + " they were checked. What was not read for the longest time comes first; ended early, it goes on"
                    + " there the next time.")
final class RereadCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(
            names = "--days",
            paramLabel = "DAYS",
            description = "Read what was not read whole for so many days; 0 for everything. Default: ${DEFAULT-VALUE}")
    private int days = 30;

    @Option(
            names = "--most",
            paramLabel = "MB",
            description =
                    "Read at most so many megabytes a second; 0 for as fast as it goes. Default: ${DEFAULT-VALUE}")
    private int most = 50;

    @Option(names = "--minutes", paramLabel = "MINUTES", description = "End after so many minutes; 0 for no end.")
    private int minutes;

    @Override
    public Integer call() {
        common.refuse(days < 0 || days > 3_650, "--days wants a number from 0 to 3650");
        common.refuse(most < 0 || most > 100_000, "--most wants a number from 0 to 100000");
        common.refuse(minutes < 0 || minutes > 100_000, "--minutes wants a number from 0 to 100000");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            List<WorkingCopy> due = project.rereading().due(Duration.ofDays(days));
            common.note(due.size() + " copies to read, "
                    + new ByteSize(
                            due.stream().mapToLong(copy -> copy.place().bytes()).sum()));
            var cancellation = new Cancellation();
            long end = System.nanoTime() + TimeUnit.MINUTES.toNanos(minutes);
            Reread read = project.rereading()
                    .read(
                            due,
                            most,
                            (_, _) -> {
                                if (minutes > 0 && System.nanoTime() - end > 0) {
                                    cancellation.cancel();
                                }
                            },
                            cancellation);
            tell(read);
            return read.needingALook().isEmpty() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
        }
    }

    private void tell(Reread read) {
        read.lines().stream()
                .filter(line -> line.found() != Found.SAME && line.found() != Found.FIRST)
                .forEach(line -> common.say(
                        "  %-22s %s: %s", line.found().label(), line.copy().file(), line.words()));
        if (common.json()) {
            ObjectNode answer = Common.object()
                    .put("read", read.lines().size())
                    .put("bytes", read.bytes())
                    .put("same", read.count(Found.SAME))
                    .put("left", read.left());
            ArrayNode files = answer.putArray("files");
            read.lines().stream()
                    .filter(line -> line.found() != Found.SAME)
                    .forEach(line -> files.addObject()
                            .put("file", line.copy().file().toString())
                            .put("found", line.found().label())
                            .put("words", line.words()));
            common.print(answer);
        }
        common.say("%s", read.inWords());
    }
}
