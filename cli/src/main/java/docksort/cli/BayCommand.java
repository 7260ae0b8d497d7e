package docksort.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.project.BayMeasure;
import docksort.strain.BayProfile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/// Measures what this machine can play, for playback budgets made elsewhere.
@Command(name = "bay", description = "Measures what this machine decodes and reads, and keeps it as a bay profile.")
final class BayCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(names = "--write", paramLabel = "FILE", required = true, description = "Where the profile goes.")
    private Path file = Path.of("bay.json");

    @Option(names = "--media", paramLabel = "FOLDER", description = "Also read media of this folder, for its volume.")
    private Optional<Path> media = Optional.empty();

    @Override
    public Integer call() throws InterruptedException, IOException {
        Path scratch = Files.createTempDirectory("dock-sort-bay");
        try (MediaEngine engine = MediaEngine.locate()) {
            common.note("This takes about " + BayMeasure.seconds(engine) + " s where nothing else is going on.");
            BayProfile profile = new BayMeasure(engine)
                    .run(
                            BayMeasure.available(engine),
                            scratch,
                            media,
                            what -> common.say("  %s", what),
                            new Cancellation());
            Documents.replace(file, profile.bytes());
            profile.pixelsPerSecond()
                    .forEach((target, pixels) -> common.say(
                            "  %-24s %s fps at 1920×1080",
                            target.label(), String.format(Locale.ROOT, "%.0f", pixels / (1920 * 1080))));
            common.say("%s: written to %s", profile.machine(), file);
            if (common.json()) {
                ObjectNode answer =
                        Common.object().put("machine", profile.machine()).put("file", file.toString());
                ObjectNode rates = answer.putObject("pixelsPerSecond");
                profile.pixelsPerSecond().forEach((target, pixels) -> rates.put(target.name(), pixels));
                common.print(answer);
            }
            return ExitCodes.GOOD;
        } finally {
            Files.deleteIfExists(scratch);
        }
    }
}
