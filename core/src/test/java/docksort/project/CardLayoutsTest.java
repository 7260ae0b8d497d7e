package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.Arrival;
import docksort.arrival.ScanListener;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.link.CopyNames;
import docksort.stock.CameraPairs;
import docksort.stock.StockLine;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/// Cards as cameras lay them out, made by rule: every way to name small files with every way to place them
/// (common practice, no source), and on each card something that goes wrong in its own way. Which small
/// file is whose is known from how the card was made.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class CardLayoutsTest {
    /// How small files are named after their originals; cards with a second small file of each have it too.
    private enum Naming {
        SAME("%s.mp4"),
        SIGN("%s_P.mov"),
        CODE("%sQ1.mov"),
        CODE_AND_ENDING("%sS03.mp4"),
        LOWER("%ss03.mp4"),
        LONG_SIGN("%s-proxy.mov");

        private final String form;

        Naming(String form) {
            this.form = form;
        }

        String of(String original) {
            return String.format(Locale.ROOT, form, this == LOWER ? original.toLowerCase(Locale.ROOT) : original);
        }
    }

    /// Where they lie; originals are in CLIP.
    private enum Place {
        BESIDE("CLIP"),
        BELOW("CLIP/SUB"),
        SIBLING("SUB");

        private final String folder;

        Place(String folder) {
            this.folder = folder;
        }
    }

    /// What is special about a card.
    private enum Turn {
        PLAIN,
        /// One original lost its small file.
        MISSING,
        /// A small file lost its original.
        EXTRA,
        /// A take at high speed has none, as with cameras that make none there.
        HIGH_SPEED,
        /// Every original has a second, smaller one.
        TWO_OF_EACH
    }

    private static final List<Integer> LENGTHS = List.of(20, 27, 34);

    private final MediaEngine engine = MediaEngine.locate();
    private Path folder = Path.of("");
    private Project project;

    /// What has to be found: small file, and its original's file or nothing.
    private final Map<Path, Path> truth = new TreeMap<>();

    private final Set<Path> alone = new TreeSet<>();
    private final Set<Path> without = new TreeSet<>();

    @BeforeAll
    void shoot(@TempDir Path temp) throws Exception {
        folder = temp.toRealPath();
        Path film = Files.createDirectories(folder.resolve("film"));
        var footage = new Footage(engine);
        for (int frames : LENGTHS) {
            footage.clip(film.resolve("large" + frames), "128x72", "25", frames, "-c:v", "mjpeg", "-f", "mov");
            footage.clip(film.resolve("small" + frames), "64x36", "25", frames, "-c:v", "mjpeg", "-f", "mov");
            footage.clip(film.resolve("tiny" + frames), "32x18", "25", frames, "-c:v", "mjpeg", "-f", "mov");
        }
        footage.clip(film.resolve("fast"), "128x72", "100", 41, "-c:v", "mjpeg", "-f", "mov");
        footage.clip(film.resolve("lost"), "64x36", "25", 55, "-c:v", "mjpeg", "-f", "mov");
        int card = 0;
        for (Naming naming : Naming.values()) {
            for (Place place : Place.values()) {
                for (Turn turn : Turn.values()) {
                    lay(film, card++, naming, place, turn);
                }
            }
        }
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
        for (int i = 0; i < card; i++) {
            project.arrivals().add(folder.resolve("CARD " + i), ScanListener.none(), new Cancellation());
        }
    }

    @AfterAll
    void close() {
        project.close();
        engine.close();
    }

    /// All cards count from K0041, so that every name is there again and again.
    private void lay(Path film, int number, Naming naming, Place place, Turn turn) throws Exception {
        Path card = folder.resolve("CARD " + number);
        var random = new Random(number);
        int special = random.nextInt(LENGTHS.size());
        for (int i = 0; i < LENGTHS.size(); i++) {
            String name = "K00" + (41 + i);
            Path original = put(film.resolve("large" + LENGTHS.get(i)), card.resolve("CLIP/" + name + ".mov"));
            if (turn == Turn.MISSING && i == special) {
                without.add(original);
                continue;
            }
            Path small = put(
                    film.resolve("small" + LENGTHS.get(i)),
                    card.resolve(place.folder).resolve(naming.of(name)));
            truth.put(small, original);
            if (turn == Turn.TWO_OF_EACH) {
                Path second = put(
                        film.resolve("tiny" + LENGTHS.get(i)),
                        card.resolve(place.folder).resolve(naming.of(name).replace(".", "T2.")));
                truth.put(second, original);
            }
        }
        if (turn == Turn.EXTRA) {
            alone.add(put(film.resolve("lost"), card.resolve(place.folder).resolve(naming.of("K0077"))));
        }
        if (turn == Turn.HIGH_SPEED) {
            without.add(put(film.resolve("fast"), card.resolve("CLIP/K0050.mov")));
        }
    }

    private static Path put(Path film, Path file) throws Exception {
        Files.createDirectories(file.getParent());
        return Files.copy(film, file);
    }

    private Map<Path, Path> found() {
        var found = new TreeMap<Path, Path>();
        for (StockLine line : project.stocktaking().lines()) {
            for (WorkingCopy copy : line.copies()) {
                found.put(copy.file(), line.clip().source().head());
            }
        }
        return found;
    }

    @Test
    void everyPairIsFoundNoneIsWrongAndWhatHasNoPartnerIsNamed() {
        assertThat(project.arrivals().all()).hasSizeGreaterThanOrEqualTo(40);
        Map<Path, Path> wrong = new HashMap<>(found());
        wrong.entrySet().removeAll(truth.entrySet());
        assertThat(wrong).as("found, and wrong").isEmpty();
        Map<Path, Path> missed = new HashMap<>(truth);
        missed.keySet().removeAll(found().keySet());
        assertThat(missed).as("not found").isEmpty();
        assertThat(project.clips())
                .extracting(clip -> clip.source().head())
                .as("small files of which nobody has the original stay footage until a person says otherwise")
                .containsAll(alone);

        var namedAlone = new TreeSet<Path>();
        var namedWithout = new TreeSet<Path>();
        for (Arrival arrival : project.arrivals().all()) {
            for (CameraPairs.Line line : project.pairing().of(arrival).lines()) {
                switch (line.kind()) {
                    case ALONE -> namedAlone.add(line.clip().source().head());
                    case WITHOUT -> namedWithout.add(line.clip().source().head());
                    case PAIR -> {}
                }
            }
        }
        assertThat(namedAlone).as("small files without original").isEqualTo(alone);
        assertThat(namedWithout).as("originals without small file").isEqualTo(without);
    }

    @Test
    void renamingThemTwiceChangesNothingTheSecondTime() {
        var copies = new ArrayList<WorkingCopy>();
        for (StockLine line : project.stocktaking().lines()) {
            copies.addAll(line.copies());
        }
        CopyNames names = project.renaming().names("{clip}_{raster}", copies, true);
        int renamed = project.renaming().rename(names);
        assertThat(renamed).isPositive();
        Map<Path, Path> after = found();
        assertThat(after.keySet()).allMatch(Files::isRegularFile);
        assertThat(project.renaming()
                        .rename(project.renaming()
                                .names(
                                        "{clip}_{raster}",
                                        project.stocktaking().lines().stream()
                                                .flatMap(line -> line.copies().stream())
                                                .toList(),
                                        true)))
                .as("the second time")
                .isZero();
        assertThat(found().equals(after)).as("as after the first time").isTrue();
        project.undo();
        assertThat(found().equals(truth)).as("taken back").isTrue();
    }
}
