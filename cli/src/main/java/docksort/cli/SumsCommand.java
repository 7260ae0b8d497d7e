package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Arrival;
import docksort.dispatch.AscMhl;
import docksort.dispatch.ChecksumCheck;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.project.Checksums;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "sums",
        description = "Verifies files against a list of checksums (ASC MHL, media hash list, md5sum, sha1sum, xxhsum),"
                + " or writes an ASC MHL generation for an arrival or for copies.")
final class SumsCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(index = "0", paramLabel = "PLACE", description = "The list; with --write, a folder.")
    private Path place = Path.of("");

    @Option(names = "--write", description = "Write a generation into the folder.")
    private boolean write;

    @Override
    public Integer call() {
        return write ? written() : verified();
    }

    private int written() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            Path folder = place.toAbsolutePath().normalize();
            Optional<Arrival> arrival = project.arrivals().all().stream()
                    .filter(each -> each.folder().equals(folder))
                    .findFirst();
            AscMhl.Generation generation = (arrival.isPresent()
                            ? project.checksums().write(arrival.get(), new Cancellation())
                            : project.checksums().write(folder, new Cancellation()))
                    .orElseThrow();
            if (common.json()) {
                ObjectNode answer = Common.object()
                        .put("generation", generation.number())
                        .put("files", generation.files())
                        .put("manifest", generation.manifest().toString());
                ArrayNode changed = answer.putArray("changed");
                generation.changed().forEach(file -> changed.add(file.toString()));
                common.print(answer);
            }
            generation.changed().forEach(file -> common.say("  changed since an earlier generation: %s", file));
            common.say(
                    "Generation %d with %d files: %s", generation.number(), generation.files(), generation.manifest());
            return generation.changed().isEmpty() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
        }
    }

    private int verified() {
        ChecksumCheck check = Checksums.verify(place, (_, _) -> {}, new Cancellation());
        check.lines().stream()
                .filter(line -> line.result() != ChecksumCheck.Result.SAME)
                .forEach(line -> common.say("  %-14s %s: %s", line.result().label(), line.file(), line.words()));
        if (common.json()) {
            ObjectNode answer =
                    Common.object().put("passes", check.passes()).put("same", check.count(ChecksumCheck.Result.SAME));
            ArrayNode files = answer.putArray("files");
            check.lines()
                    .forEach(line -> files.addObject()
                            .put("file", line.file().toString())
                            .put("result", line.result().label())
                            .put("words", line.words()));
            ArrayNode unlisted = answer.putArray("unlisted");
            check.unlisted().forEach(file -> unlisted.add(file.toString()));
            common.print(answer);
        }
        check.unlisted().forEach(file -> common.say("  not in the list %s", file));
        common.say(
                "%d of %d files are the same",
                check.count(ChecksumCheck.Result.SAME), check.lines().size());
        return check.passes() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
    }
}
