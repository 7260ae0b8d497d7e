package docksort.timeline;

import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.media.FrameRate;
import docksort.problem.CoreException.InputRefused;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@Isolated("looks at memory")
class LargeTimelineTest {
    @TempDir
    Path folder = Path.of("");

    private Path sparse(String name, long bytes) throws Exception {
        Path file = folder.resolve(name);
        try (var hollow = new RandomAccessFile(file.toFile(), "rw")) {
            hollow.setLength(bytes);
        }
        return file;
    }

    @ParameterizedTest
    @ValueSource(strings = {"cut.otio", "cut.edl", "cut.csv"})
    void whatIsTooLargeForTheMemoryIsNotEvenBegun(String name) throws Exception {
        Path file = sparse(name, 256L << 20);
        assertThatThrownBy(() -> TimelineDocument.refuseTooLarge(file, 2_000_000_000))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("2.1 GB of memory are needed");
        assertThatCode(() -> TimelineDocument.refuseTooLarge(file, 2_200_000_000L))
                .doesNotThrowAnyException();
    }

    /// Twice the memory that this virtual machine may have at most.
    @Test
    void theMemoryOfThisMachineIsAsked() throws Exception {
        Path file = sparse("cut.otio", Runtime.getRuntime().maxMemory() / 4);
        assertThatThrownBy(() -> TimelineDocument.open(file, FrameRate.FPS_25))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("of memory are needed");
        Files.delete(file);
    }
}
