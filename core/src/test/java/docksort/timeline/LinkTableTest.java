package docksort.timeline;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.media.FrameRate;
import docksort.media.Timecode;
import docksort.problem.CoreException.InputRefused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LinkTableTest {
    @TempDir
    Path folder = Path.of("");

    private LinkTable table(String text) throws IOException {
        return LinkTable.open(Files.writeString(folder.resolve("links.csv"), text), FrameRate.FPS_25);
    }

    @Test
    void rowsAreEventsAndOnlyPointedRowsChange() throws IOException {
        String text = """
            Note;Clip;File;Source In;Source Out;Reel;Rate;Start Timecode
            "a; b";A001;/m/A001.mov;01:00:00:00;01:00:02:00;N01;25;
            x ; A002 ;"/m/A 2.mov";;;;;
            """.replace("\n", "\r\n");
        LinkTable table = table(text);
        assertThat(table.events()).hasSize(2);
        TimelineEvent first = table.events().getFirst();
        assertThat(first.media()).isEqualTo(new Mention("/m/A001.mov", List.of(), "N01", "A001", ""));
        assertThat(first.frames()).isEqualTo(50);
        assertThat(table.events().get(1).use()).isEqualTo(new SourceUse.Whole());
        assertThat(table.bytes()).asString().isEqualTo(text);
        var held = new MediaTarget.Held(
                90_000, 100, FrameRate.FPS_25, true, Optional.of(Timecode.parse("01:00:00:00", FrameRate.FPS_25)));
        var copy = new MediaTarget("light", "/c/A;1.mov", "", "A;1.mov", Optional.of(held), Map.of(), false);
        assertThat(table.point(1, copy, _ -> false)).isTrue();
        table.markReview("on copies");
        assertThat(table.bytes())
                .asString()
                .isEqualTo(text.replace("/m/A001.mov", "\"/c/A;1.mov\"").replace("N01;25;\r", "N01;25;01:00:00:00\r")
                        + "docksort review: on copies;;;;;;;\r\n");
        assertThat(table.copy().events()).hasSize(2);
        assertThat(table.reviewMark()).isEqualTo("on copies");
    }

    @Test
    void aTableWithoutFilesIsRefused() {
        assertThatThrownBy(() -> table("a,b\n1,2\n"))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("no column named file");
    }
}
