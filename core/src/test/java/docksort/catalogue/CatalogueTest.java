package docksort.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.media.CodedFrame;
import docksort.media.FrameStructure;
import docksort.media.Frames;
import docksort.media.Rational;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class CatalogueTest {
    @TempDir
    Path folder = Path.of("");

    private Catalogue open() {
        return Catalogue.open(
                folder.resolve("catalogue.db"),
                InstantSource.fixed(Instant.parse("2026-03-01T02:00:00Z")),
                new Desk("desk", "somebody"));
    }

    @Test
    void settingsRootsAndTheLogSurviveARestart() {
        try (Catalogue catalogue = open()) {
            catalogue.settings().put("serving", "light");
            catalogue.settings().put("serving", "full");
            catalogue.roots().add(new Root("r1", "volume A", Path.of("/volumes/a")));
            catalogue.activity().write("first");
            catalogue.activity().write("second");
        }
        try (Catalogue again = open()) {
            assertThat(again.settings().get("serving")).contains("full");
            assertThat(again.roots().all()).containsExactly(new Root("r1", "volume A", Path.of("/volumes/a")));
            assertThat(again.activity().latest(1)).singleElement().satisfies(last -> {
                assertThat(last.what()).isEqualTo("second");
                assertThat(last.at()).isEqualTo("2026-03-01T02:00:00Z");
            });
            assertThat(again.activity().undo(Optional.empty())).isEmpty();
        }
    }

    @Test
    void writersOfTwoProgramsTakeTurns() throws Exception {
        try (Catalogue one = open();
                Catalogue other = open();
                var pool = Executors.newFixedThreadPool(4)) {
            var work = new ArrayList<Callable<Integer>>();
            for (int i = 0; i < 40; i++) {
                int n = i;
                Catalogue catalogue = i % 2 == 0 ? one : other;
                work.add(() -> {
                    catalogue.activity().write("line " + n);
                    return n;
                });
            }
            for (Future<Integer> done : pool.invokeAll(work)) {
                assertThat(done.get()).isNotNegative();
            }
            assertThat(one.activity().latest(100)).hasSize(40);
        }
    }

    @RepeatedTest(20)
    void frameStructuresReadBackAsTheyWereWritten(RepetitionInfo repetition) {
        var random = new Random(repetition.getCurrentRepetition());
        var frames = new ArrayList<CodedFrame>();
        for (int i = 0; i < random.nextInt(400); i++) {
            frames.add(new CodedFrame(
                    random.nextLong(-1_000_000, 1L << 40), random.nextBoolean(), random.nextInt(Integer.MAX_VALUE)));
        }
        var structure = FrameStructure.of(
                frames,
                random.nextBoolean() ? FrameStructure.Extent.WHOLE : FrameStructure.Extent.STRETCH,
                new Rational(1001, 30000));
        FrameStructure back = StructureBytes.read(StructureBytes.write(structure));
        assertThat(back).isEqualTo(structure);
        assertThat(back.digest()).isEqualTo(structure.digest());
        assertThat(back.frames()).isEqualTo(structure.frames());
    }

    @Test
    void aFrameStructureOfTheFirstCataloguesIsStillRead() {
        byte[] first = HexFormat.of()
                .parseHex("789c6362800046286dc4c4c002a4d8582ef630f23c1062bfc1c2f286e504ffc14e46961de20056f7076e");
        assertThat(StructureBytes.read(first))
                .isEqualTo(new FrameStructure.Builder(FrameStructure.Extent.STRETCH, new Rational(1, 50))
                        .leadingStandAlone(true)
                        .add(2, true, 9000)
                        .add(8, false, 1200)
                        .add(4, false, 300)
                        .add(6, false, 310)
                        .breakHere()
                        .add(1002, true, 8800)
                        .add(1004, false, 1500)
                        .build());
    }

    @Test
    void factsOfACatalogueThatDidNotSayHowFramesAreReachedAreStillRead() {
        assertThat(Json.read("{\"count\": 50, \"origin\": \"COUNTED\"}", Frames.class))
                .isEqualTo(new Frames(50, Frames.Origin.COUNTED));
    }

    @Test
    void aDamagedFrameStructureIsToldAndNeverReadAsAnother() {
        byte[] whole = StructureBytes.write(new FrameStructure.Builder(FrameStructure.Extent.WHOLE, new Rational(1, 25))
                .add(0, true, 100)
                .add(1, false, 10)
                .build());
        for (int length = 0; length < whole.length; length++) {
            byte[] cut = Arrays.copyOf(whole, length);
            assertThatThrownBy(() -> StructureBytes.read(cut).frames())
                    .as("%d of %d bytes", cut.length, whole.length)
                    .isInstanceOf(IllegalStateException.class);
        }
    }

    @Test
    void aFrameOfAStructureCostsAFewBytes() {
        var frames = new ArrayList<CodedFrame>();
        for (int i = 0; i < 3_000; i++) {
            frames.add(new CodedFrame(i * 512L, i % 12 == 0, 20_000 + i % 97));
        }
        byte[] bytes =
                StructureBytes.write(FrameStructure.of(frames, FrameStructure.Extent.WHOLE, new Rational(1, 12800)));
        assertThat(bytes.length).isLessThan(3_000 * 4);
        assertThat(StructureBytes.read(StructureBytes.write(FrameStructure.NONE)))
                .isEqualTo(FrameStructure.NONE);
    }
}
