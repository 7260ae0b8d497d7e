package docksort.link;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.WithMedia;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.link.Adoption.Level;
import docksort.problem.CoreException.InputRefused;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.sort.CopyKind;
import docksort.sort.Recipe;
import docksort.stock.ServingOrder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInfo;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Copies that another program made, with the names such programs and cameras give. Every clip shows
/// another picture; two of them have the same length and no timecode, so that names and facts alone
/// cannot tell them apart.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class AdoptionTest {
    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Path card = Path.of("");
    private Path copies = Path.of("");
    private Project project;

    /// A clip: what it shows, how long it is, where it starts.
    private record Take(String name, int hue, int frames, String timecode) {}

    private static final List<Take> TAKES = List.of(
            new Take("A001_C001", 0, 30, "10:00:00:00"),
            new Take("A001_C002", 40, 31, "10:00:10:00"),
            new Take("A001_C003", 80, 32, "10:00:20:00"),
            new Take("A001_C004", 120, 30, ""),
            new Take("A001_C005", 200, 30, ""));

    @BeforeAll
    void shoot() throws Exception {
        for (Take take : TAKES) {
            paint(folder.resolve("painted/" + take.name + ".mov"), take, "320x180", "25");
            paint(folder.resolve("small/" + take.name + ".mov"), take, "160x90", "25");
        }
    }

    private void paint(Path file, Take take, String size, String rate) throws Exception {
        Files.createDirectories(file.getParent());
        var line = new ArrayList<String>(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=320x180:rate=" + rate + ",hue=h=" + take.hue + ",drawbox=x=" + take.hue
                        + ":y=40:w=60:h=60:c=white:t=fill,scale=" + size.replace('x', ':') + ",setsar=1",
                "-frames:v",
                Integer.toString(take.frames),
                "-c:v",
                "mjpeg",
                "-q:v",
                "3"));
        if (!take.timecode.isEmpty()) {
            line.addAll(List.of("-timecode", take.timecode));
        }
        line.add("file:" + file);
        engine.run(line);
    }

    @BeforeEach
    void open(TestInfo test) throws Exception {
        Path place =
                folder.resolve("t" + Integer.toHexString((test.getDisplayName() + test.getTestMethod()).hashCode()));
        card = Files.createDirectories(place.resolve("volume/Card A"));
        copies = Files.createDirectories(place.resolve("elsewhere/Copies"));
        project = Project.open(place.resolve("project"), engine, InstantSource.system());
    }

    @org.junit.jupiter.api.AfterEach
    void closeProject() {
        project.close();
    }

    @AfterAll
    void close() {
        engine.close();
    }

    private void arrive(String... names) throws Exception {
        for (String name : names.length == 0 ? TAKES.stream().map(Take::name).toArray(String[]::new) : names) {
            Files.copy(folder.resolve("painted/" + name + ".mov"), card.resolve(name + ".mov"));
        }
        project.arrivals().add(card, ScanListener.none(), new Cancellation());
    }

    private Path folderOfCards() {
        return Objects.requireNonNull(card.getParent());
    }

    private Path small(String take, String as) throws IOException {
        Path target = copies.resolve(as);
        Files.createDirectories(target.getParent());
        return Files.copy(folder.resolve("small/" + take + ".mov"), target);
    }

    private Adoption look(NamePattern... patterns) throws Exception {
        return project.adoptions().look(copies, List.of(patterns), (_, _) -> {}, new Cancellation());
    }

    private static Map<String, String> sure(Adoption adoption) {
        return adoption.pairs(Level.SURE).stream()
                .collect(Collectors.toMap(
                        pair -> String.valueOf(pair.file().getFileName()),
                        pair -> pair.clip().name(),
                        (one, _) -> one,
                        TreeMap::new));
    }

    /// Schemes as cameras and programs use them (common practice, no source); `*` is the original's name.
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "*_Proxy.mov",
                "*_proxy.MOV",
                "*S03.mov",
                "*_540p.mov",
                "*.proxy.mov",
                "proxy_*.mov",
                "PX-*-lo.mov",
                "*.mov",
                "Proxies/*.mov",
                "SUB/deep/*_s.mov",
                "* (small).mov",
                "*-1.mov",
                "LR_*_v01.mov"
            })
    void everyCopyOfASchemeIsPairedWithItsOriginal(String scheme) throws Exception {
        arrive();
        for (Take take : TAKES) {
            small(take.name, scheme.replace("*", take.name));
        }
        Adoption adoption = look();
        assertThat(adoption.unpaired()).isEmpty();
        assertThat(adoption.pairs()).allMatch(pair -> pair.level() == Level.SURE);
        assertThat(sure(adoption))
                .hasSize(TAKES.size())
                .allSatisfy((file, clip) -> assertThat(file).contains(clip));
        assertThat(adoption.without()).isEmpty();
    }

    @Test
    void aNameThatHasTheSuffixAlreadyIsNotCutTwice() throws Exception {
        Files.copy(folder.resolve("painted/A001_C001.mov"), card.resolve("Dome.mov"));
        Files.copy(folder.resolve("painted/A001_C004.mov"), card.resolve("Dome_Proxy.mov"));
        Files.copy(folder.resolve("painted/A001_C005.mov"), card.resolve("Mirror.mov"));
        project.arrivals().add(card, ScanListener.none(), new Cancellation());
        small("A001_C001", "Dome_Proxy.mov");
        small("A001_C004", "Dome_Proxy_Proxy.mov");
        small("A001_C005", "Mirror_Proxy.mov");
        assertThat(sure(look()))
                .containsExactlyInAnyOrderEntriesOf(Map.of(
                        "Dome_Proxy.mov", "Dome",
                        "Dome_Proxy_Proxy.mov", "Dome_Proxy",
                        "Mirror_Proxy.mov", "Mirror"));
    }

    @Test
    void mixedCardsMissingExtraAndHalfRenamedFilesGiveNoWrongPair() throws Exception {
        // A second card with the same names and lengths as two of the first, but other pictures.
        Path second = Files.createDirectories(card.resolveSibling("Card B"));
        Files.copy(folder.resolve("painted/A001_C005.mov"), second.resolve("A001_C004.mov"));
        project.arrivals().add(second, ScanListener.none(), new Cancellation());
        arrive("A001_C001", "A001_C003", "A001_C004");
        small("A001_C004", "Card A/A001_C004_P.mov"); // of the first card
        small("A001_C005", "Card B/A001_C004_P.mov"); // of the second, same name and length
        small("A001_C001", "renamed/Opening.mov"); // renamed by hand: its name says nothing
        small("A001_C003", "A001_C003_P.mov");
        small("A001_C002", "A001_C002_P.mov"); // its original did not arrive
        small("A001_C002", "A001_C001_P.mov"); // another clip under the name of one
        Files.writeString(copies.resolve("notes_P.mov"), "no film");
        Adoption adoption = look();
        assertThat(adoption.pairs(Level.SURE))
                .extracting(pair -> copies.relativize(pair.file()) + " = "
                        + folderOfCards().relativize(pair.clip().source().head()))
                .containsExactlyInAnyOrder(
                        "Card A/A001_C004_P.mov = Card A/A001_C004.mov",
                        "Card B/A001_C004_P.mov = Card B/A001_C004.mov",
                        "A001_C003_P.mov = Card A/A001_C003.mov");
        assertThat(adoption.pairs(Level.REFUSED))
                .singleElement()
                .satisfies(pair -> assertThat(pair.reason()).isEqualTo("other length: 31 frames, not 30"));
        assertThat(adoption.unpaired())
                .extracting(file -> String.valueOf(file.file().getFileName()))
                .containsExactlyInAnyOrder("Opening.mov", "A001_C002_P.mov", "notes_P.mov");
        assertThat(adoption.without()).extracting(clip -> clip.name()).containsExactly("A001_C001");
    }

    @Test
    void whatCannotBeACopyIsRefusedWithItsReason() throws Exception {
        arrive();
        Take take = TAKES.getFirst();
        Files.copy(card.resolve("A001_C001.mov"), copies.resolve("A001_C001_P.mov"));
        paint(copies.resolve("A001_C002_P.mov"), new Take("", 40, 31, "10:00:10:00"), "160x90", "50");
        paint(copies.resolve("A001_C003_P.mov"), new Take("", 80, 32, "10:00:21:00"), "160x90", "25");
        paint(copies.resolve("A001_C004_P.mov"), new Take("", 120, 30, ""), "640x360", "25");
        paint(copies.resolve("A001_C005_P.mov"), TAKES.get(3), "160x90", "25");
        paint(copies.resolve("side/A001_C001_P.mov"), take, "90x160", "25");
        Adoption adoption = look();
        assertThat(adoption.pairs(Level.SURE)).isEmpty();
        assertThat(adoption.pairs(Level.REFUSED))
                .extracting(Adoption.Pair::reason)
                .containsExactlyInAnyOrder(
                        "it is the original itself, or a twin of it",
                        "other rate: 50 fps, not 25",
                        "another clip: it starts at 10:00:21:00, not at 10:00:20:00",
                        "it is larger than its original: 640×360, the original is 320×180; perhaps they are the wrong"
                                + " way round",
                        "another clip: its pictures are not the original's",
                        "it is turned on its side: 90×160, the original is 320×180");
    }

    @Test
    void aPatternGivenByHandIsGoneByAndABadOneRefused() throws Exception {
        arrive();
        small("A001_C001", "lo-A001_C001.mov");
        assertThat(sure(look(NamePattern.parse("lo-*")))).hasSize(1);
        assertThat(look(NamePattern.parse("*_P")).unpaired()).hasSize(1);
        assertThatThrownBy(() -> NamePattern.parse("no star")).isInstanceOf(InputRefused.class);
        assertThatThrownBy(() -> NamePattern.parse("*/*")).isInstanceOf(InputRefused.class);
    }

    @Test
    void allPairsComeInAsOneChangeServeAndGoAgainAlsoAfterARestart() throws Exception {
        arrive();
        for (Take take : TAKES) {
            small(take.name, take.name + "_P.mov");
        }
        Adoption adoption = look();
        assertThat(project.adoptions().adopt(copies, adoption.pairs(Level.SURE)))
                .isEqualTo(5);
        assertThat(project.stocktaking().lines(ServingOrder.LIGHT_FIRST))
                .allSatisfy(line -> assertThat(line.served().label()).isEqualTo(CopyKind.LIGHT.label()));
        assertThat(look().pairs())
                .as("what is in the stock is not offered again")
                .isEmpty();
        Path place = project.folder();
        project.close();
        project = Project.open(place, engine, InstantSource.system());
        assertThat(project.undo()).hasValueSatisfying(what -> assertThat(what).startsWith("Took over 5 copies"));
        assertThat(project.stocktaking().lines())
                .allSatisfy(line -> assertThat(line.copies()).isEmpty());
    }

    @Test
    void aLostCatalogueIsRebuiltFromOriginalsAndCopies() throws Exception {
        arrive();
        project.plans().choose(project.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_VC3)));
        project.queue().enqueue(project.plans().loadSheet());
        try (LockedRun run = project.runs().start(2, () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
        }
        List<String> before = stock(project);
        assertThat(before).hasSize(10).allMatch(line -> line.endsWith("READY"));
        Path made = project.roots().copies().path();
        project.close();

        Path fresh = project.folder().resolveSibling("rebuilt");
        project = Project.open(fresh, engine, InstantSource.system());
        project.copyFolders().copiesInto(made);
        project.arrivals().add(card, ScanListener.none(), new Cancellation());
        Adoption adoption = project.adoptions().look(made, List.of(), (_, _) -> {}, new Cancellation());
        assertThat(adoption.pairs())
                .allSatisfy(pair -> assertThat(pair.reason()).isEqualTo("its own metadata name this original"));
        project.adoptions().adopt(made, adoption.pairs(Level.SURE));
        assertThat(stock(project)).isEqualTo(before);
        project.plans().choose(project.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_VC3)));
        assertThat(project.plans().loadSheet().wanted())
                .as("nothing is made again")
                .isEmpty();
    }

    private static List<String> stock(Project project) {
        return project.stocktaking().lines().stream()
                .flatMap(line -> line.copies().stream()
                        .map(copy -> line.clip().name() + " " + copy.kind() + " " + copy.recipeId() + " " + copy.file()
                                + " " + (copy.state() == CopyState.READY ? "READY" : copy.note())))
                .sorted()
                .toList();
    }
}
