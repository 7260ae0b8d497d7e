package docksort.sort;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.media.BurnIn;
import docksort.media.BurnIns;
import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.media.FrameLines;
import docksort.media.FrameRate;
import docksort.media.KeptFile;
import docksort.media.KeptImage;
import docksort.media.Look;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.SoundForm;
import docksort.media.SoundMix;
import docksort.media.Watermark;
import docksort.media.Wrapper;
import docksort.sort.Fact.Is;
import docksort.sort.SortBook.Same;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class SortBookFileTest {
    private static final Recipe OWN = new Recipe(
            "dailies",
            "Dailies, \"quiet\"",
            CopyKind.LIGHT,
            Encoding.H264_LONG,
            Wrapper.MP4,
            new Scaling.FitLines(List.of(720, 540)),
            false,
            true,
            Optional.of(new FrameRate(30000, 1001)),
            true,
            new Look(
                    false,
                    Optional.of(new ColourDecision(
                            new Channels(1.1, 1, 0.9),
                            new Channels(0, -0.02, 0.03),
                            new Channels(1, 1.2, 0.8),
                            /* saturation= */ 0.75)),
                    Optional.of(new KeptFile("0123456789abcdef".repeat(4), "Night optics.cube"))),
            new SoundForm(0, 48_000, List.of(3, 4)),
            new BurnIns(
                    List.of(
                            new BurnIn(BurnIn.What.TEXT, BurnIn.At.TOP, "Night: \\optics' 100 %"),
                            new BurnIn(BurnIn.What.FRAME, BurnIn.At.BOTTOM_RIGHT, "")),
                    Optional.of(new FrameLines(new Rational(239, 100), FrameLines.Outside.DIMMED)),
                    Optional.of(new Watermark(
                            new KeptImage(
                                    new KeptFile("fedcba9876543210".repeat(4), "Night optics.png"),
                                    new Raster(640, 200)),
                            BurnIn.At.CENTRE,
                            /* high= */ 20,
                            /* seen= */ 40))),
            "{clip}_{arrival}_{reel}",
            Placing.MIRRORED,
            true);

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    /// A rule of every fact with each of its comparisons, and a recipe of every codec and scaling.
    private static SortBook everything() {
        var recipes = new ArrayList<Recipe>(List.of(OWN));
        for (Encoding encoding : Encoding.values()) {
            boolean sound = encoding.isSoundOnly();
            boolean whole = sound || encoding.isRewrap();
            Scaling scaling = recipes.size() % 2 == 0 ? new Scaling.PerSide(4) : new Scaling.FitTimeline();
            recipes.add(Recipe.of(
                            "r" + recipes.size(),
                            encoding.label(),
                            sound ? CopyKind.SOUND : whole ? CopyKind.FULL : CopyKind.LIGHT,
                            encoding,
                            sound ? Wrapper.WAV : encoding == Encoding.AV1_LONG ? Wrapper.MP4 : Wrapper.MOV,
                            whole ? new Scaling.Full() : scaling)
                    .placed(Recipe.USUAL_NAMING, Placing.BESIDE));
        }
        var rules = new ArrayList<SortRule>();
        for (Fact fact : Fact.values()) {
            for (Is is : fact.comparisons()) {
                String value = fact.choices().isEmpty()
                        ? (fact.example().isEmpty() ? "words" : fact.example())
                        : fact.choices().getLast();
                rules.add(new SortRule(List.of(new Condition(fact, is, value)), List.of("dailies", "full-vc3")));
            }
        }
        rules.add(new SortRule(List.of(), List.of()));
        return new SortBook(recipes, rules, true);
    }

    @Test
    void whatOneInstallationWritesAnotherReadsTheSame() {
        SortBook book = everything();
        assertThat(SortBookFile.read(SortBookFile.write(book), "file")).isEqualTo(book);
        assertThat(SortBookFile.read(SortBookFile.write(SortBook.BUILT_IN), "file"))
                .isEqualTo(SortBook.BUILT_IN);
    }

    @ParameterizedTest
    @ValueSource(strings = {"all", "1+2, 3", "2; 1+3, all", "each", ""})
    void whatBecomesOfChannelsIsReadAsItWasWritten(String mix) {
        var recipe = new Recipe(
                "mixed",
                "Mixed",
                CopyKind.LIGHT,
                Encoding.PRORES_PROXY,
                Wrapper.MOV,
                new Scaling.Full(),
                true,
                false,
                Optional.empty(),
                false,
                Look.NONE,
                new SoundForm(0, 0, List.of(), SoundMix.parse(mix)),
                BurnIns.NONE,
                Recipe.USUAL_NAMING,
                Placing.BESIDE,
                false);
        var book = new SortBook(List.of(recipe), List.of(), false);
        assertThat(SortBookFile.read(SortBookFile.write(book), "file")).isEqualTo(book);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "\"perSide\" : 4 | \"perSide\" : 40 | raster",
                "\"kind\" : \"light\" | \"kind\" : \"lite\" | recipes[0].kind",
                "\"codec\" : \"h264-long\" | \"codec\" : \"prores-lt\" | MP4 does not take ProRes LT",
                "\"id\" : \"dailies\" | \"id\" : \"Dailies!\" | recipes[0].id",
                "\"id\" : \"dailies\" | \"id\" : \"full-vc3\" | two recipes with the id full-vc3",
                "\"value\" : \"1920x1080\" | \"value\" : \"wide\" | rules[0]: raster cannot be compared with \"wide\"",
                "\"version\" : 1 | \"version\" : 2 | version",
                "\"deinterlaces\" | \"deinterlace\" | recipes[0]",
                "\"dailies\", \"full-vc3\" | \"nobody\", \"full-vc3\" | names a recipe that is not there: nobody"
            })
    void aDamagedFileSaysWhereItIsWrong(String part, String damage, String told) {
        String text = new String(SortBookFile.write(everything()), StandardCharsets.UTF_8);
        String damaged = text.replaceFirst(Pattern.quote(part), Matcher.quoteReplacement(damage));
        assertThat(damaged).isNotEqualTo(text);
        assertThatThrownBy(() -> SortBookFile.read(bytes(damaged), "/media/set.json"))
                .hasMessageContaining("/media/set.json")
                .hasMessageContaining(told)
                .hasMessageContaining("as they were");
    }

    @Test
    void textThatIsNoJsonSaysTheLine() {
        assertThatThrownBy(() -> SortBookFile.read(bytes("{\n  \"format\": \n"), "f"))
                .hasMessageContaining("line 3");
        assertThatThrownBy(() -> SortBookFile.read(bytes("[".repeat(5_000)), "f"))
                .hasMessageContaining("nesting");
        assertThatThrownBy(() -> SortBookFile.read(new byte[0], "f")).hasMessageContaining("f has no recipes");
    }

    /// Rules alone are passed on between projects that have the same recipes.
    @Test
    void rulesMayNameRecipesThatAreHereAlready() {
        byte[] rules = bytes("""
            {"format": "dock-sort recipes and rules", "version": 1, "recipes": [],
             "rules": [{"when": [], "make": ["dailies"]}]}\
            """);
        assertThatThrownBy(() -> SortBookFile.read(rules, "f")).hasMessageContaining("not there: dailies");
        SortBook read = SortBookFile.read(rules, "f", List.of(OWN));
        assertThat(SortBook.BUILT_IN.with(OWN).takingIn(read, true, Same.BESIDE).rules())
                .containsExactly(new SortRule(List.of(), List.of("dailies")));
    }

    @Test
    void takingInKeepsWhatIsThereAndRulesFollowTheirRecipes() {
        SortBook mine = SortBook.BUILT_IN.with(OWN);
        Recipe other = Recipe.LIGHT_PRORES_HALF.renamed("dailies", "Other dailies");
        var theirs = new SortBook(List.of(other), List.of(new SortRule(List.of(), List.of("dailies"))), false);
        SortBook both = mine.takingIn(theirs, true, Same.BESIDE);
        assertThat(both.own()).extracting(Recipe::id).containsExactly("dailies", "dailies-2");
        assertThat(both.byId("dailies")).contains(OWN);
        assertThat(both.rules()).containsExactly(new SortRule(List.of(), List.of("dailies-2")));
        assertThat(mine.takingIn(mine, false, Same.BESIDE))
                .as("the same again changes nothing")
                .isEqualTo(mine);
        SortBook replaced = mine.takingIn(theirs, false, Same.REPLACE);
        assertThat(replaced.byId("dailies")).contains(other);
        assertThat(replaced.byId("dailies").orElseThrow().mark())
                .as("copies of the one before become stale")
                .isNotEqualTo(OWN.mark());
        SortBook left = mine.takingIn(theirs, true, Same.LEAVE);
        assertThat(left.own()).containsExactly(OWN);
        assertThat(left.rules()).isEqualTo(theirs.rules());
        assertThat(both.without("dailies-2").rules().getFirst().make()).isEmpty();
        assertThatThrownBy(() -> mine.with(Recipe.FULL_VC3)).hasMessageContaining("two recipes with the id full-vc3");
    }
}
