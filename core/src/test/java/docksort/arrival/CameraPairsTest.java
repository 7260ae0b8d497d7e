package docksort.arrival;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.FootageWalk.Listed;
import docksort.engine.Cancellation;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Small files as cameras name and place them (common practice, no source), beside originals of other
/// lengths.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class CameraPairsTest {
    private Path made = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private final Footage footage = new Footage(engine);
    private final List<String> compared = new ArrayList<>();

    /// A large and a small one of 30, 40 and 50 frames, with and without timecode.
    @BeforeAll
    void shoot(@TempDir Path place) throws Exception {
        made = place;
        for (int frames : List.of(30, 40, 50)) {
            footage.clip(made.resolve("large" + frames + ".mov"), "128x72", "25", frames, codec());
            footage.clip(made.resolve("small" + frames + ".mov"), "64x36", "25", frames, codec());
            footage.clip(made.resolve("tiny" + frames + ".mov"), "32x18", "25", frames, codec());
        }
        footage.clip(made.resolve("largeTc30.mov"), "128x72", "25", 30, codec("-timecode", "10:00:00:00"));
        footage.clip(made.resolve("smallTc30.mov"), "64x36", "25", 30, codec("-timecode", "10:00:00:00"));
        footage.clip(made.resolve("smallLate30.mov"), "64x36", "25", 30, codec("-timecode", "11:00:00:00"));
        footage.clip(made.resolve("smallFast30.mov"), "64x36", "50", 30, codec());
        footage.clip(made.resolve("smallSquare30.mov"), "36x36", "25", 30, codec());
    }

    private static String[] codec(String... more) {
        var all = new ArrayList<>(List.of("-c:v", "mjpeg", "-q:v", "5"));
        all.addAll(List.of(more));
        return all.toArray(String[]::new);
    }

    @AfterAll
    void close() {
        engine.close();
    }

    @BeforeEach
    void forget() {
        compared.clear();
    }

    /// @param files "what it is:where it lies" each
    private ScanResult scan(Path card, SameScene scene, String files) throws Exception {
        for (String file : files.strip().split(" +", -1)) {
            Path to = card.resolve(file.substring(file.indexOf(':') + 1));
            Files.createDirectories(to.getParent());
            Files.copy(made.resolve(file.substring(0, file.indexOf(':')) + ".mov"), to);
        }
        return new ArrivalScan(new Inspector(engine), scene, 2)
                .scan(
                        new ArrivalId("card"),
                        card,
                        ArrivalScan.Before.NOTHING,
                        FrameRate.FPS_25,
                        ScanListener.none(),
                        new Cancellation());
    }

    private boolean compare(String small, boolean answer) {
        compared.add(small);
        return answer;
    }

    /// "proxy/K0042.mov>K0042"
    private static String pairs(ScanResult result, Path card) {
        return result.companions().stream()
                .map(pair -> card.relativize(pair.file()) + ">"
                        + result.clips().stream()
                                .filter(clip -> clip.id().equals(pair.original()))
                                .map(Clip::name)
                                .findFirst()
                                .orElse("nobody"))
                .sorted()
                .collect(Collectors.joining(" "));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        large30:K0042.mov small30:K0042Q1.mov                                  | K0042Q1.mov>K0042
        large30:K0042.mov small30:K0042_P.mov                                  | K0042_P.mov>K0042
        large30:K0042.mov small30:K0042.mp4                                    | K0042.mp4>K0042
        large30:K0042.mov small30:proxy/K0042.mov                              | proxy/K0042.mov>K0042
        large30:CLIP/K0042.mov small30:SUB/K0042S03.mp4                        | SUB/K0042S03.mp4>K0042
        large30:CLIP/K0042.mov small30:SUB/k0042s03.mp4                        | SUB/k0042s03.mp4>K0042
        large30:K0042.mov small30:K0042Q1.mov tiny30:K0042Q2.mov               | K0042Q1.mov>K0042 K0042Q2.mov>K0042
        large30:K0042.mov small30:K0042_P.mov tiny30:K0042_P_T.mov             | K0042_P.mov>K0042 K0042_P_T.mov>K0042
        large30:K0042.mov large40:K0043.mov small30:K0042Q1.mov small40:K0043Q1.mov | K0042Q1.mov>K0042 K0043Q1.mov>K0043
        large30:one/C01.mov large30:two/C01.mov small30:one/sub/C01.mov small30:two/sub/C01.mov | one/sub/C01.mov>C01 two/sub/C01.mov>C01
        large30:take1.mov small30:take10.mov                                   | ''
        large30:K0042.mov small40:K0042Q1.mov                                  | ''
        largeTc30:K0042.mov smallTc30:K0042Q1.mov                              | K0042Q1.mov>K0042
        largeTc30:K0042.mov smallLate30:K0042Q1.mov                            | ''
        large30:K0042.mov smallFast30:K0042Q1.mov                              | ''
        large30:K0042.mov smallSquare30:K0042Q1.mov                            | ''
        small30:K0042.mov large30:K0042Q1.mov                                  | ''
        large30:K0042.mov small30:dome.mov                                     | ''
        """)
    void namesSuggestAndFactsDecide(String files, String pairs, @TempDir Path card) throws Exception {
        ScanResult result = scan(card, (_, _, small, _) -> compare(small.name(), false), files);
        assertThat(pairs(result, card)).isEqualTo(pairs);
        assertThat(result.clips())
                .hasSize(files.strip().split(" +", -1).length
                        - result.companions().size());
        assertThat(compared).as("nothing was in doubt").isEmpty();
    }

    /// Each card's own: two cards that count alike lie in one arrival.
    @Test
    void aSmallFileBelongsToTheOriginalOfItsOwnCard(@TempDir Path card) throws Exception {
        ScanResult result = scan(
                card,
                SameScene.UNSEEN,
                "large30:one/C01.mov large30:two/C01.mov small30:two/sub/C01.mov large40:one/sub/other.mov");
        assertThat(result.companions())
                .singleElement()
                .satisfies(pair -> assertThat(result.clips().stream()
                                .filter(clip -> clip.id().equals(pair.original()))
                                .map(clip ->
                                        card.relativize(clip.source().head()).toString()))
                        .containsExactly("two/C01.mov"));
    }

    /// Without timecode, of one length, and beside each other, nothing but pictures tells.
    @Test
    void inDoubtPicturesDecide(@TempDir Path card) throws Exception {
        String files = "large30:K0041.mov large30:K0042.mov small30:K0041Q1.mov small30:K0042Q1.mov";
        ScanResult result = scan(
                card, (_, _, small, _) -> compare(small.name(), small.name().equals("K0042Q1")), files);
        assertThat(pairs(result, card)).isEqualTo("K0042Q1.mov>K0042");
        assertThat(compared).containsExactlyInAnyOrder("K0041Q1", "K0042Q1");
        assertThat(result.companions().getFirst().proof()).contains("pictures");
        assertThat(result.clips())
                .filteredOn(clip -> clip.name().equals("K0041Q1"))
                .singleElement()
                .satisfies(clip -> assertThat(clip.facts().complaints())
                        .containsExactly("it is named like a copy of K0041, but its pictures are not the same"));
    }

    @Test
    void whatIsNamedLikeTheSetAndIsNoneOfItSaysWhy(@TempDir Path card) throws Exception {
        ScanResult result = scan(
                card,
                SameScene.UNSEEN,
                "large30:CLIP/K1.mov small30:SUB/K1_P.mov large40:CLIP/K2.mov small50:SUB/K2_P.mov"
                        + " small50:SUB/K3_P.mov");
        assertThat(pairs(result, card)).isEqualTo("SUB/K1_P.mov>K1");
        assertThat(result.clips().stream()
                        .filter(clip -> !clip.facts().complaints().isEmpty())
                        .collect(Collectors.toMap(
                                Clip::name, clip -> clip.facts().complaints().getFirst())))
                .hasEntrySatisfying(
                        "K2_P",
                        why -> assertThat(why).isEqualTo("it is named like a copy of K2, but it has 50 frames, not 40"))
                .hasEntrySatisfying("K3_P", why -> assertThat(why).contains("its original is missing"))
                .hasSize(2);
    }

    /// The same search over clips that are listed already, by what is known of them.
    @Test
    void whatWasListedAsFootageIsFoundAmongClips(@TempDir Path card) throws Exception {
        List<Clip> listed = new ArrayList<>();
        for (String name : List.of("large30:K0042", "small30:K0042Q1", "large40:K0043", "small50:K0043Q1")) {
            listed.addAll(scan(card.resolve(name.substring(0, 6) + name.length()), SameScene.UNSEEN, name + ".mov")
                    .clips());
        }
        assertThat(PairSearch.among(listed, SameScene.UNSEEN)).singleElement().satisfies(pair -> {
            assertThat(pair.small().name()).isEqualTo("K0042Q1");
            assertThat(pair.original().name()).isEqualTo("K0042");
            assertThat(pair.proof()).contains("30 frames at 25");
        });
    }

    /// A recorder cut a recording at the largest file of its card, and wrote a small file of each part.
    @Test
    void smallFilesOfARecordingInPartsAreNamedAndNotTakenForFootage() throws Exception {
        var whole = new ClipSource.Spanned(List.of(Path.of("/card/K0001.mov"), Path.of("/card/K0002.mov")));
        Clips large = Clips.named("K0001").raster("1920x1080").frames(900);
        var files = new LinkedHashMap<ClipSource, ClipFacts>();
        files.put(whole, large.clip().facts());
        for (var part : Map.of("K0001_S", 500, "K0002_S", 400, "K0002Q9", 30).entrySet()) {
            boolean small = part.getKey().endsWith("_S");
            files.put(
                    new ClipSource.SingleFile(Path.of("/card/SUB/" + part.getKey() + ".mov")),
                    Clips.named(part.getKey())
                            .raster(small ? "960x540" : "1920x1080")
                            .frames(part.getValue())
                            .clip()
                            .facts());
        }
        List<Listed> listed = files.keySet().stream()
                .map(source -> new Listed(source, Stamp.NONE.plus(1000, 0)))
                .toList();
        var names = new CompanionPairs(listed);
        List<PairSearch.Small> held = listed.stream()
                .filter(names::mayBeOne)
                .map(one -> new PairSearch.Small(one, Objects.requireNonNull(files.get(one.source()))))
                .toList();
        PairSearch.Outcome outcome =
                PairSearch.of(names, held, Map.of(whole, large.clip().facts()), SameScene.UNSEEN);
        assertThat(outcome.pairs()).isEmpty();
        assertThat(outcome.alone().entrySet().stream()
                        .filter(entry -> entry.getValue().isPresent())
                        .map(entry ->
                                entry.getKey().name() + ": " + entry.getValue().get()))
                .containsExactlyInAnyOrder(
                        "K0001_S: it is named like a copy of K0001 (2 parts), but that goes on over 2 files, and a copy"
                                + " that stands in for it is one: put it aside",
                        "K0002_S: it is named like a copy of K0001 (2 parts), but that goes on over 2 files, and a copy"
                                + " that stands in for it is one: put it aside");
    }
}
