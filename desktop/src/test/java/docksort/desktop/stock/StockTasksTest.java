package docksort.desktop.stock;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import docksort.Clips;
import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.Shown;
import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskFindings.Deed;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.desktop.stock.CleanUpModel.Which;
import docksort.desktop.stock.CleanUpModel.Written;
import docksort.dispatch.AscMhl;
import docksort.dispatch.ChecksumCheck;
import docksort.dispatch.ChecksumList;
import docksort.files.CopyRemoval;
import docksort.link.Adoption;
import docksort.link.Adoption.Level;
import docksort.link.CopyNames;
import docksort.link.MediaSearch.Result;
import docksort.link.MediaSearch.Wanted;
import docksort.link.NamePattern;
import docksort.media.ByteSize;
import docksort.media.ClipSource;
import docksort.sort.CopyKind;
import docksort.stock.CleanUp;
import docksort.stock.CopySelection;
import docksort.stock.Limits;
import docksort.stock.Reread;
import docksort.stock.StockLine;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StockTasksTest {
    private static final Clip DOME = Clips.named("dome").clip();

    /// "use-found!" for a main one, "use-found-" for one that cannot be pressed.
    private static String deeds(TaskFindings found) {
        return found.deeds().stream()
                .map(deed -> deed.id() + (deed.main() ? "!" : "") + (deed.possible() ? "" : "-"))
                .collect(Collectors.joining(" "));
    }

    private static String tones(TaskFindings found) {
        return found.lines().stream()
                .map(line -> line.tone() + ":" + line.word())
                .collect(Collectors.joining(" "));
    }

    // Taking over

    private static Adoption adoption(String levels, int unpaired, int without) {
        var pairs = new ArrayList<Adoption.Pair>();
        for (String level : levels.isEmpty() ? new String[0] : levels.split(" ", -1)) {
            pairs.add(new Adoption.Pair(
                    DOME,
                    Path.of("/proxies/sub/" + level + pairs.size() + ".mov"),
                    DOME.facts(),
                    CopyKind.LIGHT,
                    Level.valueOf(level),
                    "because",
                    Adoption.Own.NOTHING));
        }
        return new Adoption(
                Path.of("/proxies"),
                List.of(NamePattern.parse("*_P")),
                pairs,
                IntStream.range(0, unpaired)
                        .mapToObj(i -> new Adoption.Unpaired(Path.of("/proxies/x" + i), "nothing like it"))
                        .toList(),
                IntStream.range(0, without).mapToObj(_ -> DOME).toList());
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        SURE SURE DOUBTFUL REFUSED | 1 | 2 | adopt-sure! adopt-doubtful | 2 sure, 1 doubtful, 1 refused, 1 without a clip; 2 clips without a copy here
        SURE                       | 0 | 0 | adopt-sure!                | 1 sure, 0 doubtful, 0 refused, 0 without a clip; 0 clips without a copy here
        DOUBTFUL                   | 0 | 0 | adopt-sure!- adopt-doubtful | 0 sure, 1 doubtful, 0 refused, 0 without a clip; 0 clips without a copy here
        ''                         | 3 | 1 | adopt-sure!-               | 0 sure, 0 doubtful, 0 refused, 3 without a clip; 1 clips without a copy here
        """)
    void onlySurePairsAreTakenOverAtOnce(String levels, int unpaired, int without, String deeds, String words) {
        TaskFindings found = TakeOverModel.of(adoption(levels, unpaired, without));
        assertThat(deeds(found)).isEqualTo(deeds);
        assertThat(found.words()).isEqualTo(words);
        assertThat(found.lines()).hasSize((levels.isEmpty() ? 0 : levels.split(" ", -1).length) + unpaired + without);
    }

    @Test
    void linesOfATakeOverStandAsTheirPairs() {
        TaskFindings found = TakeOverModel.of(adoption("SURE DOUBTFUL REFUSED", 1, 1));
        assertThat(tones(found)).isEqualTo("GOOD:sure LOOK:doubtful STOP:refused PLAIN:no clip PLAIN:no copy");
        assertThat(found.lines().getFirst().name()).isEqualTo("sub/SURE0.mov");
    }

    @Test
    void doubtfulPairsAreTakenWithTheSureOnesAndRefusedOnesNever() {
        Adoption adoption = adoption("REFUSED DOUBTFUL SURE", 0, 0);
        assertThat(TakeOverModel.taken(adoption, TakeOverModel.SURE))
                .extracting(Adoption.Pair::level)
                .containsExactly(Level.SURE);
        assertThat(TakeOverModel.taken(adoption, TakeOverModel.DOUBTFUL_TOO))
                .extracting(Adoption.Pair::level)
                .containsExactlyInAnyOrder(Level.SURE, Level.DOUBTFUL);
    }

    @ParameterizedTest
    @CsvSource({"'',0", "*_P,1", "'  *_P   proxy_* ',2"})
    void patternsStandBetweenBlanks(String text, int count) {
        assertThat(TakeOverModel.patterns(text)).hasSize(count);
    }

    @Test
    void whatWasLearnedIsSaid() {
        assertThat(TakeOverModel.learned(adoption("SURE", 0, 0)))
                .startsWith("Found: ")
                .contains("_P");
        assertThat(TakeOverModel.learned(new Adoption(Path.of("/p"), List.of(), List.of(), List.of(), List.of())))
                .isEqualTo("No pattern was found: write one, for instance *_P");
        assertThat(TakeOverModel.done(1).words()).isEqualTo("1 copy taken over. Undo takes it back.");
        assertThat(TakeOverModel.done(3).words()).isEqualTo("3 copies taken over. Undo takes them back.");
    }

    // Searching

    private static Result result(String kind) {
        var wanted = Wanted.of(DOME);
        var source = new ClipSource.SingleFile(Path.of("/there/dome.mov"));
        return switch (kind) {
            case "found" -> new Result.Found(wanted, source, "same content");
            case "several" -> new Result.Several(wanted, List.of(source, source));
            case "likely" -> new Result.ByHeader(wanted, source, "same header");
            case "another" -> new Result.Another(wanted, Path.of("/there/dome.mov"), "other content");
            default -> new Result.NotThere(wanted);
        };
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        found found none | use-found!             | 2 of 3 found | GOOD:found GOOD:found PLAIN:not there
        likely           | use-found!- use-likely | 0 of 1 found | LOOK:likely
        several another  | use-found!-            | 0 of 2 found | LOOK:several STOP:refused
        found likely     | use-found! use-likely  | 1 of 2 found | GOOD:found LOOK:likely
        """)
    void onlyWhatWasFoundForCertainIsUsedAtOnce(String kinds, String deeds, String words, String tones) {
        TaskFindings found = SearchModel.of(
                Arrays.stream(kinds.split(" ", -1)).map(StockTasksTest::result).toList());
        assertThat(deeds(found)).isEqualTo(deeds);
        assertThat(found.words()).isEqualTo(words);
        assertThat(tones(found)).isEqualTo(tones);
    }

    @Test
    void nothingMissingLeavesNothingToDo() {
        TaskFindings found = SearchModel.of(List.of());
        assertThat(found.words()).isEqualTo("Everything is in its place; there is nothing to search for");
        assertThat(found.deeds()).isEmpty();
        assertThat(SearchModel.done(1).words()).startsWith("1 file is in its place");
        assertThat(SearchModel.of(List.of(result("none"))).lines().getFirst().words())
                .isEqualTo("was at " + DOME.source().head());
    }

    // Names

    private static CopyNames.Line renamed(String name, String fault) {
        WorkingCopy copy = Shown.copy(DOME, "old", CopyKind.LIGHT, CopyState.READY);
        return new CopyNames.Line(
                copy, copy.file().resolveSibling(name), Optional.of(fault).filter(text -> !text.isEmpty()));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        new.mov | ''            | rename-copies!  | 1 would be renamed                           | GOOD:changes
        old.mov | ''            | rename-copies!- | All copies have these names already          | PLAIN:stays
        new.mov | taken already | rename-copies!- | 1 cannot have their name, so none is renamed | STOP:cannot
        """)
    void copiesAreRenamedTogetherOrNotAtAll(String name, String fault, String deeds, String words, String tones) {
        TaskFindings found = NamesModel.of(new CopyNames("{clip}", List.of(renamed(name, fault))), List.of());
        assertThat(deeds(found)).isEqualTo(deeds);
        assertThat(found.words()).isEqualTo(words);
        assertThat(tones(found)).isEqualTo(tones);
    }

    @Test
    void aPatternIsForThisProjectsOwnCopiesThatAreThere() {
        var shown = new Shown();
        shown.add(
                DOME,
                Shown.copy(DOME, "ready", CopyKind.LIGHT, CopyState.READY),
                Shown.copy(DOME, "x-camera", CopyKind.LIGHT, CopyState.READY),
                Shown.copy(DOME, "failed", CopyKind.FULL, CopyState.FAILED));
        shown.show();
        List<StockLine> stock = shown.view().get().orElseThrow().stock();
        assertThat(NamesModel.meant(stock, false)).extracting(WorkingCopy::id).containsExactly("ready");
        assertThat(NamesModel.meant(stock, true))
                .extracting(WorkingCopy::id)
                .containsExactlyInAnyOrder("ready", "x-camera");
        List<WorkingCopy> aside = NamesModel.aside(stock, false);
        assertThat(NamesModel.aside(stock, true)).isEmpty();
        TaskFindings none = NamesModel.of(new CopyNames("{clip}", List.of()), aside);
        assertThat(none.deeds()).isEmpty();
        assertThat(none.lines()).extracting(TaskLine::name).containsExactly("x-camera.mov");
    }

    // Room

    private static CleanUp plan(int may, int stay) {
        var lines = new ArrayList<CleanUp.Line>();
        for (int i = 0; i < may + stay; i++) {
            WorkingCopy copy = Shown.copy(DOME, "c" + i, CopyKind.LIGHT, CopyState.READY);
            lines.add(new CleanUp.Line(
                    copy,
                    List.of(copy.file()),
                    new ByteSize(1_000_000),
                    i < may ? Optional.empty() : Optional.of("it is pinned")));
        }
        return new CleanUp(lines);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        2 | 1 | stop-using forget to-trash delete-for-good   | 3 copies meant; deleting 2 of them frees 2.0 MB
        0 | 1 | stop-using forget to-trash- delete-for-good- | 1 copy meant; deleting 0 of them frees 0 B
        0 | 0 | ''                                           | No copy is meant by this
        """)
    void onlyWhatMayGoCanBeDeleted(int may, int stay, String deeds, String words) {
        TaskFindings found = CleanUpModel.of(plan(may, stay), Which.ALL);
        assertThat(deeds(found)).isEqualTo(deeds);
        assertThat(found.words()).isEqualTo(words);
        assertThat(found.deeds().stream().filter(Deed::main)).isEmpty(); // nothing of it is what one came for
    }

    @Test
    void whatStaysSaysWhy() {
        List<TaskLine> lines = CleanUpModel.of(plan(1, 1), Which.ALL).lines();
        assertThat(lines).extracting(TaskLine::words).containsExactly("/copies/c0.mov", "it is pinned");
        assertThat(lines).extracting(TaskLine::tone).containsExactly(Tone.GOOD, Tone.STOP);
        assertThat(CleanUpModel.of(plan(0, 0), Which.PAST).words()).isEqualTo("No copy is past the limits");
    }

    @Test
    void whatCouldNotBeDeletedIsToldByFile() {
        var outcome =
                new CopyRemoval.Outcome(List.of(Path.of("/copies/a.mov")), Map.of(Path.of("/copies/b.mov"), "in use"));
        assertThat(CleanUpModel.deleted(outcome, true).words()).isEqualTo("1 copies are in the trash; 1 stayed");
        assertThat(CleanUpModel.deleted(outcome, false).lines())
                .extracting(TaskLine::inFull)
                .containsExactly("b.mov  ·  in use");
    }

    @Test
    void aSelectionIsOfOneArrivalOrOfAll() {
        var arrival = new Arrival(new ArrivalId("card"), "Card", Path.of("/card"), Instant.EPOCH);
        assertThat(Which.UNUSED.selection(Optional.empty()))
                .isEqualTo(CopySelection.ALL.unusedFor(CopySelection.USUAL_AGE));
        assertThat(Which.OLD.selection(Optional.of(arrival)))
                .isEqualTo(CopySelection.ALL.olderThan(Duration.ofDays(30)).of(arrival.id()));
        assertThat(Which.first(Limits.NONE)).isEqualTo(Which.UNUSED);
        assertThat(Which.first(new Limits(Optional.of(Duration.ofDays(9)), Optional.empty())))
                .isEqualTo(Which.PAST);
    }

    @ParameterizedTest
    @CsvSource({
        "'','',true",
        "7,'',true",
        "'',500,true",
        " 7 , 500 ,true",
        "0,'',false",
        "-1,'',false",
        "seven,'',false",
        "1.5,'',false",
        "'',12345678,false"
    })
    void limitsAreWholeNumbersOrNothing(String days, String gigabytes, boolean sound) {
        var written = new Written(days, gigabytes);
        assertThat(written.isSound()).isEqualTo(sound);
        assertThat(written.deed()).isEqualTo(sound ? "Set as limits" : "Whole numbers, or nothing");
    }

    @Test
    void limitsComeOutAsTheyWereWritten() {
        var written = new Written("7", "500");
        assertThat(written.limits())
                .isEqualTo(new Limits(Optional.of(Duration.ofDays(7)), Optional.of(new ByteSize(500_000_000_000L))));
        assertThat(Written.of(written.limits())).isEqualTo(written);
        assertThat(new Written("", " ").limits().isNone()).isTrue();
    }

    // Checksums

    @Test
    void filesThatAreTheSameAreCountedAndAllOthersListed() {
        var list = new ChecksumList(
                Path.of("/card/list.md5"),
                Path.of("/card"),
                IntStream.range(0, 4)
                        .mapToObj(i -> new ChecksumList.Entry("f" + i, Map.of(), 1))
                        .toList());
        var results = ChecksumCheck.Result.values();
        var lines = IntStream.range(0, results.length)
                .mapToObj(i -> new ChecksumCheck.Line(Path.of("/card/f" + i), results[i], "why"))
                .toList();
        TaskFindings found = ChecksumsModel.of(new ChecksumCheck(list, lines, List.of(Path.of("/card/new")), true));
        assertThat(found.words()).isEqualTo("1 of 4 files are the same, 1 are not in the list");
        assertThat(found.lines()).hasSize(results.length); // all but the one that is the same, and the one not listed
        assertThat(found.lines()).extracting(TaskLine::name).contains("new").doesNotContain("f0");
        assertThat(found.lines().getLast().tone()).isEqualTo(Tone.PLAIN);
    }

    @Test
    void aGenerationNamesFilesThatChangedSinceAnEarlierOne() {
        TaskFindings found = ChecksumsModel.written(
                new AscMhl.Generation(Path.of("/card/ascmhl/0002.mhl"), 2, 12, List.of(Path.of("/card/a.mov"))));
        assertThat(found.words()).isEqualTo("Generation 2 of 12 files: /card/ascmhl/0002.mhl");
        assertThat(tones(found)).isEqualTo("STOP:changed");
    }

    // Reading again

    private static WorkingCopy sized(String name, long bytes, WorkingCopy.Whole whole) {
        return Shown.copy(DOME, name, CopyKind.LIGHT, CopyState.READY)
                .withFile("copies", Path.of("/copies/" + name))
                .withPlace(new WorkingCopy.Place(
                        bytes, 86_400_000, 960, 540, "x", "", "", false, Optional.empty(), whole));
    }

    @Test
    void whatIsDueSaysHowLongReadingItTakesAndWhenItWasReadLast() {
        WorkingCopy checked = sized("a.mov", 30_000_000_000L, WorkingCopy.Whole.checked("1234"));
        WorkingCopy never = sized("b.mov", 6_000_000_000L, WorkingCopy.Whole.NONE);
        TaskFindings found =
                ReadAgainModel.due(List.of(never, checked), new ReadAgainModel.Wish("30", "50"), ZoneOffset.UTC);
        // 36,000 MB at 50 MB a second are 720 seconds.
        assertThat(found.words()).isEqualTo("2 copies of 36.0 GB to read, about 12 min at 50 MB a second");
        assertThat(deeds(found)).isEqualTo("read-them-again!");
        assertThat(found.lines())
                .extracting(TaskLine::word, TaskLine::words)
                .containsExactly(
                        tuple("never", "nothing is known of all its bytes yet"),
                        tuple("due", "last read whole on 1970-01-02"));
        assertThat(ReadAgainModel.due(List.of(checked), new ReadAgainModel.Wish("", ""), ZoneOffset.UTC)
                        .words())
                .isEqualTo("1 copy of 30.0 GB to read, as fast as it goes");
        assertThat(deeds(ReadAgainModel.due(List.of(), new ReadAgainModel.Wish("7", ""), ZoneOffset.UTC)))
                .isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"30,50,true", "'','',true", "' 7 ',0,true", "-1,50,false", "30,fast,false", "4000,5,false"})
    void daysAndSpeedAreNumbersOrNothing(String days, String most, boolean sound) {
        assertThat(new ReadAgainModel.Wish(days, most).isSound()).isEqualTo(sound);
    }

    @Test
    void whatWasReadBeginsWithWhatNeedsALook() {
        WorkingCopy copy = sized("a.mov", 1, new WorkingCopy.Whole("1234", 172_800_000, true));
        TaskFindings found = ReadAgainModel.read(new Reread(
                List.of(
                        new Reread.Line(copy, Reread.Found.SAME, ""),
                        new Reread.Line(copy, Reread.Found.FIRST, "first"),
                        new Reread.Line(copy, Reread.Found.DAMAGED, "damaged")),
                3,
                1));
        assertThat(tones(found)).isEqualTo("STOP:damaged PLAIN:read for the first time");
        assertThat(found.words())
                .isEqualTo("1 of 3 copies are as they were checked, 1 read for the first time, 1 damaged;"
                        + " 1 is left to be read. Read again goes on with them.");
        assertThat(ReadAgainModel.words(copy, ZoneOffset.UTC))
                .contains("all of it read again on 1970-01-03: not as it was checked");
    }
}
