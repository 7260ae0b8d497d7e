package docksort.stock;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.sort.CopyKind;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class CoverageTest {
    private final List<StockLine> stock = new ArrayList<>();

    private static WorkingCopy copy(Clip clip, CopyKind kind, CopyState state, int width, int height, boolean stopped) {
        return new WorkingCopy(
                clip.name() + kind + state,
                clip.id(),
                kind,
                "r",
                "copies",
                Path.of("/copies/" + clip.name() + kind + state + ".mov"),
                state,
                "",
                clip.fingerprint(),
                Optional.empty(),
                new WorkingCopy.Place(1, 1, width, height, "ProRes Proxy", "", ""),
                new WorkingCopy.Service(stopped, 0),
                0);
    }

    private static WorkingCopy light(Clip clip, int width, int height) {
        return copy(clip, CopyKind.LIGHT, CopyState.READY, width, height, false);
    }

    private Clip add(Clip clip, WorkingCopy... copies) {
        stock.add(new StockLine(
                clip,
                Presence.ONLINE,
                List.of(copies),
                ServingOrder.LIGHT_FIRST.serve(clip, List.of(copies), Presence.ONLINE)));
        return clip;
    }

    private List<String> oddities(Clip clip) {
        return Coverage.of(stock).rows().stream()
                .filter(row -> row.line().clip().equals(clip))
                .findFirst()
                .orElseThrow()
                .oddities();
    }

    @Test
    void whatMostClipsOfACameraHaveIsUsualAndTheRestIsToldWithBoth() {
        for (int i = 0; i < 3; i++) {
            Clip clip = Clips.named("c" + i).clip();
            add(clip, light(clip, 960, 540));
        }
        Clip odd = Clips.named("odd").clip();
        add(odd, light(odd, 480, 270));
        assertThat(oddities(odd))
                .containsExactly(
                        "light copy is ProRes Proxy 480×270 (1/4), the rest of its camera has ProRes Proxy 960×540"
                                + " (1/2)");
        assertThat(oddities(stock.getFirst().clip())).isEmpty();
    }

    @Test
    void whereAsManyHaveOneAsTheOtherNoneIsOdd() {
        Clip one = Clips.named("one").clip();
        Clip two = Clips.named("two").clip();
        add(one, light(one, 960, 540));
        add(two, light(two, 480, 270));
        assertThat(oddities(one)).isEmpty();
        assertThat(oddities(two)).isEmpty();
    }

    /// Another arrival, codec, raster or rate is another camera's setting, and copies that do not serve
    /// set no usage.
    @Test
    void onlyClipsOfOneSettingAreHeldAgainstOneAnother() {
        for (int i = 0; i < 3; i++) {
            Clip clip = Clips.named("c" + i).clip();
            add(clip, light(clip, 960, 540));
        }
        Clip elsewhere = Clips.named("x").in("other card").clip();
        Clip faster = Clips.named("y").rate("50").clip();
        Clip larger = Clips.named("z").raster("3840x2160").clip();
        Clip stopped = Clips.named("s").clip();
        Clip full = Clips.named("f").clip();
        add(elsewhere, light(elsewhere, 480, 270));
        add(faster, light(faster, 480, 270));
        add(larger, light(larger, 480, 270));
        add(stopped, copy(stopped, CopyKind.LIGHT, CopyState.READY, 480, 270, true));
        add(full, copy(full, CopyKind.FULL, CopyState.READY, 1920, 1080, false));
        assertThat(Coverage.of(stock).rows())
                .allSatisfy(row -> assertThat(row.oddities()).isEmpty());
    }

    @Test
    void aClipLacksAKindUntilACopyOfItServes() {
        Clip clip = Clips.named("c").clip();
        add(clip, copy(clip, CopyKind.LIGHT, CopyState.WAITING, 960, 540, false));
        Clip stopped = Clips.named("s").clip();
        add(stopped, copy(stopped, CopyKind.LIGHT, CopyState.READY, 960, 540, true));
        Clip made = Clips.named("m").clip();
        add(made, light(made, 960, 540), copy(made, CopyKind.FULL, CopyState.READY, 1920, 1080, false));
        Coverage coverage = Coverage.of(stock);
        assertThat(coverage.lacking(CopyKind.LIGHT))
                .extracting(row -> row.line().clip())
                .containsExactly(clip, stopped);
        assertThat(coverage.lacking(CopyKind.FULL)).hasSize(2);
        assertThat(coverage.rows()).extracting(Coverage.Row::hasUnused).containsExactly(false, true, true);
    }

    @Test
    void theTableHasALineForEachClipAndSaysWhatIsNotInUse() {
        Clip stopped = Clips.named("s").clip();
        WorkingCopy copy = copy(stopped, CopyKind.LIGHT, CopyState.READY, 960, 540, true);
        add(stopped, copy);
        Clip bare = Clips.named("bare").clip();
        stock.add(new StockLine(
                bare,
                new Presence(Presence.State.OFFLINE, "away"),
                List.of(),
                new Served.ByOriginal(Path.of("/away/bare.mov"), false)));
        List<List<String>> table = Coverage.of(stock).table();
        assertThat(table).hasSize(3).allSatisfy(row -> assertThat(row).hasSize(13));
        assertThat(table.get(1))
                .containsExactly(
                        "s",
                        "/card/s.mov",
                        "online",
                        "ready, not in use",
                        copy.file().toString(),
                        "none",
                        "",
                        "none",
                        "",
                        "original",
                        "/card/s.mov",
                        "yes",
                        "");
        assertThat(table.get(2)).contains("offline", "original, offline", "no");
        String html = Coverage.of(stock).html("Night Optics", Instant.parse("2030-05-06T07:08:09.5Z"));
        assertThat(html).contains("Night Optics", "2030-05-06T07:08:09Z", "ready, not in use");
        assertThat(Coverage.of(stock).csv().lines()).hasSize(3);
    }

    @Test
    void ofSeveralCopiesOfAKindTheOneThatServesIsTold() {
        Clip clip = Clips.named("c").clip();
        WorkingCopy ready = light(clip, 960, 540);
        add(clip, copy(clip, CopyKind.LIGHT, CopyState.STALE, 960, 540, false), ready);
        assertThat(Coverage.of(stock).rows().getFirst().copy(CopyKind.LIGHT)).contains(ready);
        assertThat(Coverage.of(stock).rows().getFirst().copy(CopyKind.RANGE)).isEmpty();
    }
}
