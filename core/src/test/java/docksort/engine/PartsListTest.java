package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Footage;
import docksort.WithMedia;
import docksort.media.ClipSource;
import docksort.problem.CoreException;
import docksort.problem.CoreException.InputRefused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Parts of a recording that try to have other files read.
@WithMedia
class PartsListTest {
    @TempDir
    Path folder = Path.of("");

    /// Frames that the engine reads of some parts before it ends or refuses.
    private long frames(MediaEngine engine, Path... parts) throws Exception {
        Path list = folder.resolve("frames.md5");
        Files.deleteIfExists(list);
        var line = new ArrayList<String>(
                MediaEngine.input(new ClipSource.Spanned(List.of(parts), List.of()), Optional.empty()));
        line.addAll(List.of("-map", "0:v", "-f", "framemd5", "file:" + list));
        try {
            engine.run(line);
        } catch (CoreException e) {
            assertThat(e.problem().sentence()).isNotEmpty();
        }
        return Files.exists(list)
                ? Files.readAllLines(list).stream()
                        .filter(each -> !each.startsWith("#"))
                        .count()
                : 0;
    }

    @Test
    void aPartThatIsItselfAListIsNotFollowed() throws Exception {
        try (MediaEngine engine = MediaEngine.locate()) {
            Path one = new Footage(engine).clip(folder.resolve("A_1.mov"), "64x64", "25", 5, "-c:v", "mjpeg");
            Path two = new Footage(engine).clip(folder.resolve("A 'two'.mov"), "64x64", "25", 7, "-c:v", "mjpeg");
            assertThat(frames(engine, one, two)).isEqualTo(12);

            Path list = folder.resolve("A_2.mov");
            Files.writeString(
                    list, "ffconcat version 1.0\nfile 'file:" + two.toString().replace("'", "'\\''") + "'\n");
            assertThat(frames(engine, one, list)).isLessThanOrEqualTo(5);
            assertThatThrownBy(() -> FrameDecoder.open(list.toString())).isInstanceOf(IOException.class);
            assertThatThrownBy(() -> FrameDecoder.open(
                            PartsList.address(new ClipSource.Spanned(List.of(list, list), List.of()))))
                    .isInstanceOf(IOException.class);
        }
    }

    @Test
    void aLineBreakInANameAddsNoLineToTheList() {
        Path name = folder.resolve("A\nfile 'file:/etc/passwd'\n.mov");
        assertThatThrownBy(() -> PartsList.address(new ClipSource.Spanned(List.of(name, name), List.of())))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("line break");
    }
}
