package docksort.dispatch;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class MediaUrlTest {
    private static final Path FOLDER = Path.of("/cuts/night");

    @ParameterizedTest
    @CsvSource({
        "file:///a/b%20c.mov, /a/b c.mov",
        "file://localhost/a/b.mov, /a/b.mov",
        "file:/a/b.mov, /a/b.mov",
        "FILE:///a/%C3%A9.mov, /a/é.mov",
        "file:///a/b c.mov, /a/b c.mov", // not escaped, as some programs write it
        "/a/b.mov, /a/b.mov",
        "../media/b%20c.mov, /cuts/media/b c.mov",
        "media/100% real.mov, /cuts/night/media/100% real.mov"
    })
    void addressesOfFilesAreRead(String url, String path) {
        assertThat(MediaUrl.toPath(url, FOLDER)).contains(Path.of(path));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", " ", "https://elsewhere.example/x.mov", "file://server/share/x.mov", "rtsp://x/y"})
    void othersAreNoFilesOfThisMachine(String url) {
        assertThat(MediaUrl.toPath(url, FOLDER)).isEqualTo(Optional.empty());
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "/a/plain.mov",
                "/a/with space & (brackets).mov",
                "/a/Ночь 夜.mov",
                "/a/per%cent#hash?.mov",
                "/a/new\nline.mov"
            })
    void whatIsWrittenReadsBackInBothManners(String file) {
        Path path = Path.of(file);
        String absolute = MediaUrl.write(path, FOLDER, "file:///somewhere.mov");
        assertThat(absolute).startsWith("file:///").doesNotContain(" ").doesNotContain("\n");
        assertThat(MediaUrl.toPath(absolute, FOLDER)).contains(path);
        String relative = MediaUrl.write(path, FOLDER, "old/place.mov");
        assertThat(relative).startsWith("../../a/");
        assertThat(MediaUrl.toPath(relative, FOLDER)).contains(path);
    }

    @Test
    void theMannerOfTheNeighbourIsKept() {
        assertThat(MediaUrl.write(Path.of("/cuts/night/b.mov"), FOLDER, "a.mov"))
                .isEqualTo("b.mov");
        assertThat(MediaUrl.write(Path.of("/cuts/night/b.mov"), FOLDER, "/x/a.mov"))
                .isEqualTo("file:///cuts/night/b.mov");
        assertThat(MediaUrl.write(Path.of("/cuts/night/b.mov"), FOLDER, "")).isEqualTo("file:///cuts/night/b.mov");
    }
}
