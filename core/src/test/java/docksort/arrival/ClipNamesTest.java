package docksort.arrival;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.media.ClipSource;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/// Two cards of cameras that both count from one, and a drive with the same name in two folders.
class ClipNamesTest {
    private static Arrival arrival(String id) {
        return new Arrival(new ArrivalId(id), "Card " + id, Path.of("/" + id), Instant.EPOCH);
    }

    private static Clip clip(String name, String arrival, String file) {
        Clip made = Clips.named(name).in(arrival).clip();
        return new Clip(
                ClipId.fresh(),
                made.arrival(),
                new ClipSource.SingleFile(Path.of(file)),
                made.facts(),
                made.fingerprint());
    }

    @Test
    void theArrivalStandsBesideEqualNamesOnlyAndItsFolderWhereItHasBoth() {
        List<Clip> clips = List.of(
                clip("A001", "a", "/a/CLIP/A001.mov"),
                clip("A001", "b", "/b/CLIP/a001.MOV"),
                clip("A002", "a", "/a/CLIP/A002.mov"),
                clip("take", "c", "/c/monday/first/take.mov"),
                clip("take", "c", "/c/tuesday/take.mov"),
                clip("take", "c", "/c/take.mov"),
                clip("take", "a", "/a/take.mov"));
        ClipNames names = ClipNames.of(clips, List.of(arrival("a"), arrival("b"), arrival("c")));
        assertThat(clips.stream().map(names::of))
                .containsExactly(
                        "A001 · Card a",
                        "a001 · Card b",
                        "A002",
                        "take · Card c/monday/first",
                        "take · Card c/tuesday",
                        "take · Card c",
                        "take · Card a");
    }

    /// Cards of one camera often come as folders of one name.
    @Test
    void arrivalsOfOneNameAreToldApartByNumber() {
        var one = new Arrival(new ArrivalId("one"), "CARD", Path.of("/monday/CARD"), Instant.EPOCH);
        var two = new Arrival(new ArrivalId("two"), "CARD", Path.of("/tuesday/CARD"), Instant.EPOCH);
        List<Clip> clips =
                List.of(clip("A001", "one", "/monday/CARD/A001.mov"), clip("A001", "two", "/tuesday/CARD/A001.mov"));
        ClipNames names = ClipNames.of(clips, List.of(one, two));
        assertThat(clips.stream().map(names::of)).containsExactly("A001 · CARD", "A001 · CARD 2");
    }
}
