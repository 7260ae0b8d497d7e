package docksort.desktop.dispatch;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskFindings.Deed;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Condition;
import docksort.dispatch.DepartureCheck.Finding;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.dispatch.Evidence;
import docksort.dispatch.Parcel;
import docksort.dispatch.Places;
import docksort.dispatch.PullList;
import docksort.dispatch.TimelineComparison;
import docksort.media.FrameRange;
import docksort.media.Raster;
import docksort.timeline.MediaPath;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DispatchTasksTest {
    private static final Clip DOME = Clips.named("dome").clip();

    private static DepartureCheck check(int blocks, int remarks, boolean complete) {
        var findings = new ArrayList<Finding>();
        for (int i = 0; i < blocks + remarks; i++) {
            findings.add(new Finding(Condition.THERE, i, "dome", "the original is not there", i < blocks));
        }
        return new DepartureCheck(Purpose.FINISHING, findings, List.of(), 3, complete, new Evidence(Map.of()));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        0 | 0 | true  | It may leave: 3 events, 0 files                          | 9
        0 | 2 | true  | It may leave: 3 events, 0 files                          | 11
        1 | 0 | true  | It does not leave: 1 thing is not as it must be          | 9
        2 | 1 | true  | It does not leave: 2 things are not as they must be      | 11
        0 | 0 | false | The check was not finished                               | 9
        """)
    void everyConditionIsToldAsHoldingOrBlocked(int blocks, int remarks, boolean complete, String words, int lines) {
        TaskFindings found = DepartureModel.of(check(blocks, remarks, complete));
        assertThat(found.words()).isEqualTo(words);
        assertThat(found.lines()).hasSize(lines);
        assertThat(found.lines().stream().filter(line -> line.tone() == Tone.STOP))
                .hasSize(blocks);
        assertThat(found.lines().stream().filter(line -> line.tone() == Tone.PLAIN))
                .hasSize(remarks);
    }

    @ParameterizedTest
    @CsvSource({
        "0,true,'','',false",
        "0,true,Ada,'',true",
        "0,true,'  ','',false",
        "1,true,Ada,'',false",
        "1,true,Ada,'  ',false",
        "1,true,Ada,the client wants it,true",
        "1,true,'',the client wants it,false",
        "0,false,Ada,reason,false"
    })
    void itGoesByNameAndWhereItDoesNotPassByReason(
            int blocks, boolean complete, String name, String reason, boolean may) {
        DepartureCheck check = check(blocks, 0, complete);
        assertThat(DepartureModel.mayGo(check, name, reason)).isEqualTo(may);
        assertThat(DepartureModel.deed(check))
                .isEqualTo(blocks == 0 && complete ? "Let it leave…" : "Let it go by name and reason…");
    }

    @ParameterizedTest
    @CsvSource({
        "'',1920x1080,",
        "1920x1080,1920x1080,",
        "3840x2160,1920x1080,3840x2160",
        "1920x1080,,1920x1080",
        "big,,"
    })
    void aDeliveryIsKeptWhereItIsNew(String text, String known, String kept) {
        assertThat(DepartureModel.newDelivery(text, Optional.ofNullable(known).map(Raster::parse)))
                .isEqualTo(Optional.ofNullable(kept).map(Raster::parse));
    }

    private static PullList pull(List<FrameRange> used, String... left) {
        return new PullList(
                PullList.What.ORIGINALS,
                List.of(new PullList.Line(
                        DOME, List.of(DOME.source().head()), Path.of("card/dome.mov"), 4_000_000, used, 1_000_000)),
                List.of(left));
    }

    @Test
    void aPullListSaysWhichFramesAreUsedAndWhatIsLeftOut() {
        TaskFindings found = PullModel.of(pull(List.of(new FrameRange(10, 20)), "title"));
        assertThat(found.words())
                .isEqualTo(
                        "1 files of 1 recordings, 4.0 MB; the frames used of them are about 1.0 MB; 1 events are left"
                                + " out");
        assertThat(found.lines()).extracting(TaskLine::word).containsExactly("left out", "pulled");
        assertThat(found.lines().getLast().words()).isEqualTo("4.0 MB; frames 10–29 are about 1.0 MB");
        assertThat(PullModel.of(pull(List.of())).lines().getFirst().words()).isEqualTo("4.0 MB");
    }

    @Test
    void nothingIsPackedWhereNothingIsNeeded() {
        var none = new PullList(PullList.What.ORIGINALS, List.of(), List.of());
        assertThat(PullModel.of(none).deeds()).noneMatch(Deed::possible);
        assertThat(PullModel.of(pull(List.of())).deeds()).allMatch(Deed::possible);
        assertThat(PullModel.packed(none, new Parcel(Path.of("/out"), Path.of("/out/cut.otio"), 3, 2_000_000))
                        .words())
                .isEqualTo("Packed: 3 files, 2.0 MB, in /out");
        assertThat(PullModel.written(none, Path.of("/list.csv")).words()).isEqualTo("Written: /list.csv");
    }

    @Test
    void versionsThatAreTheSameSayHowMuchIs() {
        assertThat(VersionsModel.of(new TimelineComparison(List.of(), 12)).words())
                .isEqualTo("nothing is otherwise; 12 the same");
    }

    @ParameterizedTest
    @CsvSource({"V1,1 track of picture", "V1;V2,2 tracks of picture"})
    void eachTrackOfPictureHasADeed(String tracks, String words) {
        List<String> names = List.of(tracks.split(";", -1));
        TaskFindings found = EditListsModel.of(names);
        assertThat(found.words()).isEqualTo(words);
        assertThat(found.deeds()).extracting(Deed::id).isEqualTo(names);
        assertThat(found.deeds().getFirst().text()).isEqualTo("Write V1…");
    }

    @Test
    void whatAListCannotHoldIsTold() {
        assertThat(EditListsModel.written(Path.of("/a.edl"), List.of()).words()).isEqualTo("Written: /a.edl");
        TaskFindings found = EditListsModel.written(Path.of("/a.edl"), List.of("title", "shape"));
        assertThat(found.words()).isEqualTo("Written: /a.edl; 2 events are left out");
        assertThat(found.lines()).extracting(TaskLine::name).containsExactly("title", "shape");
    }

    @Test
    void workstationsStandBelowTheRootTheySee() {
        MediaPath here = MediaPath.of(Path.of("/media/footage"));
        MediaPath there = MediaPath.ofWorkstation("E:\\Footage").orElseThrow();
        var one = new Places(List.of(new Places.Place("footage", here, Map.of("suite-2", there))));
        assertThat(WorkstationsModel.of(one).words()).isEqualTo("1 other workstation");
        assertThat(WorkstationsModel.of(one).lines())
                .extracting(TaskLine::other)
                .containsExactly("this workstation", "suite-2");
        var none = new Places(List.of(new Places.Place("footage", here, Map.of())));
        assertThat(WorkstationsModel.of(none).words()).isEqualTo("No other workstation is known yet");
        assertThat(DepartureModel.workstations(Optional.empty())).containsExactly("this workstation");
    }
}
