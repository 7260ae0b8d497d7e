package docksort.desktop.arrivals;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.arrival.PairSearch;
import docksort.catalogue.CopyState;
import docksort.desktop.Shown;
import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskLine;
import docksort.sort.CopyKind;
import docksort.stock.CameraPairs;
import docksort.stock.CameraPairs.Kind;
import docksort.strain.Traits;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class PairsModelTest {
    private final Clip dome = Clips.named("dome").clip();
    private final Clip slit = Clips.named("slit").frames(60).clip();
    private final Clip small = Clips.named("domeQ1").raster("960x540").clip();
    private final PairsModel model = new PairsModel(Path.of("/card"));

    private TaskFindings show() {
        return model.show(new CameraPairs(List.of(
                new CameraPairs.Line(
                        Kind.PAIR,
                        dome,
                        Optional.of(Shown.copy(dome, "dome-camera", CopyKind.LIGHT, CopyState.READY)),
                        "timecode",
                        Traits.of(Clips.named("small")
                                .raster("960x540")
                                .codec("h264")
                                .facts())),
                new CameraPairs.Line(Kind.ALONE, small, Optional.empty(), "named like a copy", Optional.empty()),
                new CameraPairs.Line(Kind.WITHOUT, slit, Optional.empty(), "others have one", Optional.empty()))));
    }

    @Test
    void linesSayWhatTheyAre() {
        TaskFindings found = show();
        assertThat(found.words())
                .isEqualTo("1 pair, 1 small file without an original, 1 original without a small file");
        assertThat(found.lines())
                .extracting(TaskLine::word, TaskLine::name, TaskLine::other)
                .containsExactly(
                        tuple("pair", "/copies/dome-camera.mov", "dome"),
                        tuple("no original", "domeQ1.mov", ""),
                        tuple("no small file", "", "slit"));
    }

    @Test
    void byHandAPairMayBeFootageAndAClipACopyOfWhatNothingSpeaksAgainst() {
        show();
        assertThat(model.copy(0)).isPresent();
        assertThat(model.clip(0)).isEmpty();
        assertThat(model.copy(1)).isEmpty();
        assertThat(model.clip(1)).contains(small);
        assertThat(model.originals(1)).containsExactly(dome); // slit has another length
        assertThat(model.originals(2)).isEmpty();
        assertThat(model.copy(-1)).isEmpty();
        assertThat(model.clip(9)).isEmpty();
    }

    @Test
    void whatWasFoundAmongFootageIsToldBeforeItIsMoved() {
        show();
        TaskFindings found = model.show(List.of(new PairSearch.Pair(small, dome, "84 frames at 25")));
        assertThat(found.words()).isEqualTo("1 file is listed as footage and would become a copy");
        assertThat(model.copy(0)).as("lines of before are no longer shown").isEmpty();
        assertThat(model.listed()).hasSize(1);
        assertThat(model.show(List.<PairSearch.Pair>of()).words()).startsWith("No file that is listed");
        assertThat(PairsModel.moved(2).words()).startsWith("2 files are copies now");
    }
}
