package docksort.desktop.pair;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.Shown;
import docksort.desktop.pair.PairModel.Mode;
import docksort.desktop.pair.PairModel.Size;
import docksort.desktop.workshop.PairDesk.Likeness;
import docksort.desktop.workshop.PairDesk.Wanted;
import docksort.media.FrameRange;
import docksort.sort.CopyKind;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PairModelTest {
    private final Clip clip = Clips.named("dome").raster("3840x2160").clip(); // 84 frames at 25
    private final PairModel model = new PairModel(clip);

    private static WorkingCopy holding(Clip clip, long first, long count) {
        WorkingCopy whole = Shown.copy(clip, "part", CopyKind.RANGE, CopyState.READY);
        return new WorkingCopy(
                whole.id(),
                whole.clip(),
                whole.kind(),
                whole.recipeId(),
                whole.rootId(),
                whole.file(),
                whole.state(),
                whole.note(),
                whole.source(),
                Optional.of(new FrameRange(first, count)),
                whole.place(),
                whole.service(),
                0);
    }

    @ParameterizedTest
    @CsvSource({
        "0,0",
        "83,83",
        " 12 ,12",
        "84,",
        "-1,",
        "later,",
        "'',",
        "00:00:00:00,0",
        "00:00:03:08,83",
        "00:00:03:09,"
    })
    void aFrameIsNamedByNumberOrTimecode(String text, Long frame) {
        assertThat(model.frameOf(text)).isEqualTo(Optional.ofNullable(frame));
        assertThat(model.fault(text).isPresent()).isEqualTo(frame == null && !text.isBlank());
    }

    @Test
    void aPictureFitsItsPlaceInItsShape() {
        assertThat(model.size(1000, 1000)).isEqualTo(new Size(1000, 563)); // 1000 / (16 / 9) = 562.5
        assertThat(model.size(1000, 450)).isEqualTo(new Size(800, 450));
        model.show(Mode.SIDE);
        assertThat(model.size(1008, 1000)).isEqualTo(new Size(500, 281)); // two of them and 8 between
        assertThat(model.size(1, 1)).isEqualTo(new Size(16, 16));
    }

    @Test
    void aLargerScaleShowsThePartThatHasRoom() {
        Size size = model.size(960, 540);
        assertThat(model.wanted(7, size)).isEqualTo(new Wanted(7, 0, 0, 1, 960, 540));
        model.zoomTo(1);
        assertThat(model.wanted(7, size)).isEqualTo(new Wanted(7, 0.375, 0.375, 0.25, 960, 540));
        model.zoomTo(2);
        assertThat(model.wanted(7, size).share()).isEqualTo(0.125);
    }

    @Test
    void draggingMovesTheWipeWhereAllIsShown() {
        Size size = model.size(960, 540);
        assertThat(model.drag(240, 10, 0, 960, size, false)).isFalse();
        assertThat(model.wipe()).isEqualTo(0.25);
        model.drag(-50, 10, 0, 960, size, false);
        assertThat(model.wipe()).isZero();
        model.drag(5_000, 10, 0, 960, size, false);
        assertThat(model.wipe()).isEqualTo(1);
    }

    @Test
    void draggingMovesThePartWherePixelsAreShownAndStopsAtTheEdge() {
        model.show(Mode.DIFFERENCE);
        model.zoomTo(1);
        Size size = model.size(960, 540);
        assertThat(model.drag(0, 96, 0, 960, size, false)).isTrue(); // a tenth of what is seen, a quarter of the whole
        assertThat(model.wanted(0, size).left()).isCloseTo(0.35, within(1e-9));
        model.drag(0, 100_000, -100_000, 960, size, false);
        assertThat(model.wanted(0, size).left()).isZero();
        assertThat(model.wanted(0, size).top()).isEqualTo(0.75);
    }

    @Test
    void theWipeIsLeftAloneWhereThePartIsMeant() {
        model.zoomTo(4);
        assertThat(model.drag(0, 5, 5, 960, model.size(960, 540), false)).isTrue();
        assertThat(model.wipe()).isEqualTo(0.5);
    }

    @Test
    void onlyJumpsCountAndTheLastThirtyOfThem() {
        for (int i = 0; i < 40; i++) {
            model.took(10L * i, Optional.of(i < 10 ? 5_000.0 : 40.0), Optional.of(2.5));
        }
        assertThat(model.times())
                .isEqualTo("A jump is reached in: original 40 ms, copy 2.5 ms (median of the last 30)");
        model.took(391, Optional.of(9_999.0), Optional.of(9_999.0)); // the next frame is no jump
        assertThat(model.times()).contains("original 40 ms, copy 2.5 ms");
        model.otherCopy();
        assertThat(model.times()).contains("original not shown, copy not shown");
        model.took(391, Optional.empty(), Optional.of(100.0));
        assertThat(model.times()).contains("original not shown, copy 100 ms");
    }

    @Test
    void placesAreThoseThatTheCopyHolds() {
        assertThat(model.places(Shown.copy(clip, "whole", CopyKind.LIGHT, CopyState.READY)))
                .hasSize(PairModel.PLACES)
                .startsWith(0L)
                .endsWith(83L)
                .isSorted();
        WorkingCopy part = holding(clip, 20, 3);
        assertThat(model.places(part)).isEqualTo(List.of(20L, 21L, 22L));
        assertThat(PairModel.lacks(part, 22)).isEmpty();
        assertThat(PairModel.lacks(part, 23))
                .hasValueSatisfying(why -> assertThat(why).startsWith("The copy holds"));
    }

    @Test
    void likenessIsSaidWithWhatIsLowest() {
        assertThat(PairModel.inWords(Optional.of(new Likeness(12, 0.98765, 0.91234, 40, 41.26))))
                .isEqualTo("luma SSIM 0.9877, lowest 0.9123 at frame 40, PSNR 41.3 dB, over 12 places");
        assertThat(PairModel.inWords(Optional.of(new Likeness(1, 1, 1, 3, Double.POSITIVE_INFINITY))))
                .isEqualTo("luma SSIM 1.0000, PSNR infinite, they are equal, at frame 3");
        assertThat(PairModel.inWords(Optional.empty())).startsWith("They could not be compared");
    }
}
