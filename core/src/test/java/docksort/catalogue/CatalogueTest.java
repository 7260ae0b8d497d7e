package docksort.catalogue;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.media.CodedFrame;
import docksort.media.FrameStructure;
import docksort.media.Rational;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
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
                folder.resolve("catalogue.db"), InstantSource.fixed(Instant.parse("2026-03-01T02:00:00Z")), "desk");
    }

    @Test
    void settingsRootsAndTheLogSurviveARestart() {
        try (Catalogue catalogue = open()) {
            catalogue.set("serving", "light");
            catalogue.set("serving", "full");
            catalogue.addRoot(new Root("r1", "volume A", Path.of("/volumes/a")));
            catalogue.log("first");
            catalogue.log("second");
        }
        try (Catalogue again = open()) {
            assertThat(again.setting("serving")).contains("full");
            assertThat(again.roots()).containsExactly(new Root("r1", "volume A", Path.of("/volumes/a")));
            assertThat(again.activity(1)).singleElement().satisfies(last -> {
                assertThat(last.what()).isEqualTo("second");
                assertThat(last.at()).isEqualTo("2026-03-01T02:00:00Z");
            });
            assertThat(again.undo()).isEmpty();
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
                    catalogue.log("line " + n);
                    return n;
                });
            }
            for (Future<Integer> done : pool.invokeAll(work)) {
                assertThat(done.get()).isNotNegative();
            }
            assertThat(one.activity(100)).hasSize(40);
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
        assertThat(StructureBytes.read(StructureBytes.write(structure))).isEqualTo(structure);
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
