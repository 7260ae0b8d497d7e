package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.WithMedia;
import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.OutputReader;
import java.io.RandomAccessFile;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Real engines that stand still, that are slow, and that work without a word.
@WithMedia
class SignsOfLifeTest {
    private static final Duration LONGEST = Duration.ofSeconds(1);
    private static final List<String> REPORTING = List.of("-progress", "pipe:1", "-stats_period", "0.25");
    /// Decodes for eight seconds, whatever the machine, and shows only the first frame of it.
    private static final List<String> BUSY = List.of(
            "-readrate",
            "1",
            "-f",
            "lavfi",
            "-i",
            "testsrc2=size=1920x1080:rate=50:duration=8",
            "-vf",
            "select=lt(n\\,1)",
            "-f",
            "null",
            "-");

    private final MediaEngine engine = MediaEngine.locate();
    private final List<String> reports = new ArrayList<>();
    private final ChildProcesses children =
            new ChildProcesses(Objects.requireNonNull(engine.ffmpegProgram().getParent()));

    /// Its first start reads it from the disk.
    @BeforeEach
    void warm() throws InterruptedException {
        assertThat(engine.version()).isNotBlank();
    }

    @AfterEach
    void close() {
        children.close();
        engine.close();
    }

    private Cut run(SignsOfLife signs, List<String> reporting, List<String> arguments) throws Exception {
        var line = new ArrayList<String>(
                List.of(engine.ffmpegProgram().toString(), "-nostdin", "-nostats", "-v", "error"));
        line.addAll(reporting);
        line.addAll(arguments);
        OutputReader reader = OutputReader.lines(said -> {
            reports.add(said);
            signs.report(said);
        });
        var ending = children.run(line, signs, reader, new Cancellation());
        assertThat(ending.lastLines()).isEmpty();
        return ending.cut();
    }

    /// A volume that gives the first bytes of a file and then no more.
    private Cut starved(Path folder, List<String> reporting) throws Exception {
        Path pipe = folder.resolve("sound.pcm");
        assertThat(new ProcessBuilder("mkfifo", pipe.toString()).start().waitFor())
                .isZero();
        try (var given = new RandomAccessFile(pipe.toFile(), "rw")) {
            given.write(new byte[48_000]);
            List<String> sound =
                    List.of("-probesize", "32", "-f", "s16le", "-ar", "48000", "-ac", "1", "-i", "file:" + pipe);
            var arguments = new ArrayList<>(sound);
            arguments.addAll(List.of("-f", "null", "-"));
            return run(SignsOfLife.ofReports(LONGEST), reporting, arguments);
        }
    }

    @Test
    void anEngineThatReportsAndDoesNothingIsEnded(@TempDir Path folder) throws Exception {
        assertThat(starved(folder, REPORTING)).isEqualTo(Cut.STILL);
        assertThat(reports).filteredOn("progress=continue"::equals).hasSizeGreaterThan(10);
    }

    @Test
    void oneThatSaysNothingEither(@TempDir Path folder) throws Exception {
        assertThat(starved(folder, List.of())).isEqualTo(Cut.SILENT);
    }

    /// One frame in two seconds, next to no work, for longer than an engine may stand still.
    @Test
    void aSlowOneIsNot() throws Exception {
        List<String> slow = List.of("-readrate", "1", "-f", "lavfi", "-i", "color=size=16x16:rate=1/2:duration=10");
        var arguments = new ArrayList<>(slow);
        arguments.addAll(List.of("-f", "null", "-"));
        assertThat(run(SignsOfLife.ofReports(LONGEST), REPORTING, arguments)).isEqualTo(Cut.NONE);
        assertThat(reports).endsWith("progress=end");
    }

    @Test
    void oneThatWorksIsNotWhateverItSays() throws Exception {
        assertThat(run(SignsOfLife.ofReports(LONGEST), REPORTING, BUSY)).isEqualTo(Cut.NONE);
        assertThat(reports).filteredOn("frame=1"::equals).hasSizeGreaterThan(20);
        assertThat(run(SignsOfLife.ofReports(LONGEST), List.of(), BUSY)).isEqualTo(Cut.NONE);
        assertThat(run(SignsOfLife.ofOutput(LONGEST), List.of(), BUSY)).isEqualTo(Cut.NONE);
    }

    /// A file that keeps the inspection busy without end is not waited for.
    @Test
    void anAnswerIsWaitedForHoweverHardItWorks() throws Exception {
        assertThat(run(SignsOfLife.ofAnswers(LONGEST), List.of(), BUSY)).isEqualTo(Cut.SILENT);
    }
}
