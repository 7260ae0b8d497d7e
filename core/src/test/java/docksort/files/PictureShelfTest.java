package docksort.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PictureShelfTest {
    @TempDir
    Path folder = Path.of("");

    private Instant now = Instant.parse("2026-03-01T02:00:00Z");

    private PictureShelf shelf(long limit) {
        return new PictureShelf(folder.resolve("pictures"), limit, () -> {
            now = now.plusSeconds(1);
            return now;
        });
    }

    private long bytes() throws Exception {
        try (Stream<Path> files = Files.list(folder.resolve("pictures"))) {
            return files.mapToLong(file -> file.toFile().length()).sum();
        }
    }

    @Test
    void whatWasNotLookedAtForLongestGoesAndTheLimitHolds() throws Exception {
        PictureShelf shelf = shelf(1_000);
        for (int i = 0; i < 9; i++) {
            shelf.put("p" + i, new byte[100]);
        }
        assertThat(shelf.get("p0")).isPresent(); // looked at: stays longer than p1
        shelf.put("p9", new byte[100]);
        shelf.put("p10", new byte[100]); // one too many: down to 750
        assertThat(bytes()).isLessThanOrEqualTo(750);
        assertThat(shelf.get("p0")).isPresent();
        assertThat(shelf.get("p1")).isEmpty();
        assertThat(shelf.get("p10")).contains(new byte[100]);

        PictureShelf later = shelf(300); // another program, with less room
        later.put("p11", new byte[10]);
        assertThat(bytes()).isLessThanOrEqualTo(225);
        assertThat(later.get("p11")).isPresent();
    }

    @Test
    void aFolderThatCannotBeWrittenIsNoFault() throws Exception {
        Files.writeString(folder.resolve("pictures"), "a file");
        PictureShelf shelf = shelf(1_000);
        shelf.put("p1", new byte[10]);
        assertThat(shelf.get("p1")).isEmpty();
    }

    @Test
    void noNameLeadsOutOfTheFolder() {
        assertThatThrownBy(() -> shelf(10).put("../p1", new byte[1])).isInstanceOf(IllegalArgumentException.class);
        assertThat(folder.resolve("p1.png")).doesNotExist();
    }
}
