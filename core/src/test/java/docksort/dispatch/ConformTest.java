package docksort.dispatch;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.CopyState;
import docksort.catalogue.Pin;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Timecode;
import docksort.sort.CopyKind;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.timeline.MediaPath;
import docksort.timeline.TimelineDocument;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ConformTest {
    @TempDir
    Path folder = Path.of("");

    private final List<StockLine> stock = new ArrayList<>();

    private Clip clip(String path, String start, String reel, String rate) {
        Path file = Path.of(path);
        ClipFacts plain = Clips.named(path).rate(rate).frames(100).facts();
        var facts = new ClipFacts(
                plain.container(),
                plain.video(),
                plain.audio(),
                plain.seconds(),
                Optional.of(start)
                        .filter(text -> !text.isEmpty())
                        .map(text -> Timecode.parse(text, FrameRate.parse(rate))),
                Optional.of(reel).filter(text -> !text.isEmpty()),
                plain.recordedAt(),
                plain.size(),
                plain.findings(),
                plain.tags());
        return Clips.named(path).in(file.getParent() + "").of(facts, new ClipSource.SingleFile(file));
    }

    private Clip add(Clip clip, WorkingCopy... copies) {
        stock.add(new StockLine(
                clip,
                Presence.ONLINE,
                List.of(copies),
                ServingOrder.LIGHT_FIRST.serve(clip, List.of(copies), Presence.ONLINE)));
        return clip;
    }

    private static WorkingCopy copy(Clip clip, CopyKind kind, String file, Optional<FrameRange> range) {
        return new WorkingCopy(
                kind + file,
                clip.id(),
                kind,
                "r",
                "copies",
                Path.of(file),
                CopyState.READY,
                "",
                clip.fingerprint(),
                range,
                new WorkingCopy.Place(1, 1, 10, 10, "x", "", ""),
                WorkingCopy.Service.USUAL,
                0);
    }

    private TimelineDocument list(String rows) throws IOException {
        return TimelineDocument.open(Files.writeString(folder.resolve("list.edl"), rows), FrameRate.FPS_25);
    }

    private TimelineDocument otio(String address, String more) throws IOException {
        return TimelineDocument.open(
                Files.writeString(folder.resolve("cut.otio"), """
                    {"OTIO_SCHEMA": "Timeline.1", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [
                      {"OTIO_SCHEMA": "Track.1", "kind": "Video", "name": "V1", "children": [
                        {"OTIO_SCHEMA": "Clip.1", "name": "x", %s "media_reference":
                          {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "%s"}}]}]}}
                    """.formatted(more, address.replace("\\", "\\\\"))),
                FrameRate.FPS_25);
    }

    private ConformedEvent first(TimelineDocument document) {
        return Conform.of(document, stock, Places.NONE, Map.of()).events().getFirst();
    }

    private List<ConformedEvent> events(String... rows) throws IOException {
        var text = new StringBuilder();
        for (int i = 0; i < rows.length; i++) {
            text.append(rows[i].replaceFirst("001", "00" + (i + 1))).append('\n');
        }
        return Conform.of(list(text.toString()), stock, Places.NONE, Map.of()).events();
    }

    /// Copies are deleted, timelines keep their names.
    @Test
    void aReferenceToADeletedCopyIsTold() throws Exception {
        add(clip("card/A001.mov", "", "", "25"));
        ConformedEvent event = first(otio("copies/full/A001.mov", ""));
        assertThat(event.standing()).isInstanceOf(Standing.OnOriginal.class);
        assertThat(event.needsALook()).isTrue();
        assertThat(event.inWords()).contains("copies/full/A001.mov, which is not there");
    }

    @Test
    void aReelThatAListCutToEightLettersIsFound() throws Exception {
        add(clip("card/A001C003_260101_R7QZ.mov", "10:00:00:00", "A001C003_260101_R7QZ", "25"));
        add(clip("card/B002C001_260101_R7QZ.mov", "10:00:00:00", "", "25"));
        assertThat(events(row("A001C003", "10:00:00:05", "10:00:01:05"), row("B002C001", "10:00:00:05", "10:00:01:05")))
                .allSatisfy(event -> assertThat(event.standing()).isInstanceOf(Standing.OnOriginal.class));
    }

    private static String row(String reel, String in, String out, String... comments) {
        return "001  %s V C %s %s 01:00:00:00 01:00:01:00\n%s".formatted(reel, in, out, String.join("\n", comments));
    }

    @Test
    void anEventIsFoundByReferenceByNameByReelAndWhatIsDoubtfulIsNotGuessed() throws IOException {
        Clip one = add(clip("/card/A/C001.mov", "10:00:00:00", "N01", "25"));
        add(clip("/card/B/C001.mov", "12:00:00:00", "N02", "25"));
        add(clip("/card/B/C002.mov", "10:00:00:00", "N03", "25"));
        ConformedEvent byReference =
                first(list(row("X", "10:00:00:05", "10:00:01:05", "* SOURCE FILE: /card/A/C001.mov")));
        assertThat(byReference.clip()).contains(one);
        assertThat(byReference.used()).contains(new FrameRange(5, 25));
        ConformedEvent byName = first(list(row("N01", "10:00:00:05", "10:00:01:05", "* FROM CLIP NAME: c001.MOV")));
        assertThat(byName.clip()).as("two have its name, one its frames").contains(one);
        assertThat(byName.how()).isEqualTo("name and frames fit");
        assertThat(first(list(row("n_01", "10:00:00:05", "10:00:01:05"))).how()).isEqualTo("reel and timecode fit");
        ConformedEvent otherReel = first(list(row("N09", "10:00:00:05", "10:00:01:05", "* FROM CLIP NAME: C001")));
        assertThat(otherReel.standing()).isInstanceOf(Standing.Doubtful.class);
        assertThat(otherReel.candidates()).hasSize(2);
        assertThat(first(list(row("N07", "10:00:00:05", "10:00:01:05"))).standing())
                .isInstanceOf(Standing.Foreign.class);
        add(clip("/card/D/C001.mov", "10:00:00:00", "N01", "25"));
        ConformedEvent twice = first(list(row("N01", "10:00:00:05", "10:00:01:05", "* FROM CLIP NAME: C001")));
        assertThat(twice.standing()).isInstanceOf(Standing.Doubtful.class);
        assertThat(twice.how()).isEqualTo("2 recordings have its name and frames");
    }

    @Test
    void whatSomebodySaidHolds() throws IOException {
        add(clip("/card/A/C001.mov", "10:00:00:00", "N01", "25"));
        Clip two = add(clip("/card/D/C001.mov", "10:00:00:00", "N01", "25"));
        TimelineDocument document = list(row("N01", "10:00:00:05", "10:00:01:05", "* FROM CLIP NAME: C001"));
        String key = document.events().getFirst().media().key();
        Conform conform = Conform.of(document, stock, Places.NONE, Map.of(key, two.id()));
        assertThat(conform.events().getFirst().clip()).contains(two);
        assertThat(Conform.of(document, stock, Places.NONE, Map.of(key, new ClipId("gone")))
                        .events()
                        .getFirst()
                        .standing())
                .isInstanceOf(Standing.Doubtful.class);
    }

    /// A list at 25 may count the source in frames of the list or of the recording, and does not say which.
    @Test
    void sourceTimecodeThatCouldBeCountedTwoWaysIsSaid() throws IOException {
        add(clip("/c/N01_C003.MOV", "02:10:00:00", "N01", "50"));
        String file = "* SOURCE FILE: /c/N01_C003.MOV";
        ConformedEvent either = first(list(row("N01", "02:10:00:06", "02:10:01:06", file)));
        assertThat(either.inWords()).isEqualTo("its source timecode could count 50 or 25 frames a second");
        ConformedEvent own = first(list(row("N01", "02:10:00:30", "02:10:01:30", file)));
        assertThat(own.inWords()).as("25 frames a second have no label 30").isEmpty();
        assertThat(own.used()).contains(new FrameRange(30, 50));
        ConformedEvent ofList =
                first(list(row("N01", "02:10:00:06", "02:10:01:05", file).replace("01:00:01:00", "01:00:00:24")));
        assertThat(ofList.used())
                .as("24 frames of the list are 48 of the recording")
                .contains(new FrameRange(12, 48));
        assertThat(first(list(row("N01", "02:10:00:00", "02:10:01:00", file))).inWords())
                .as("at whole seconds both are the same frames")
                .isEmpty();
    }

    /// One event of a list that shows how it counts settles those that do not; two that differ settle
    /// nothing.
    @Test
    void theRestOfAListTellsHowItCounts() throws IOException {
        add(clip("/c/N01_C003.MOV", "02:10:00:00", "N01", "50"));
        String file = "* SOURCE FILE: /c/N01_C003.MOV";
        String either = row("N01", "02:10:00:06", "02:10:01:06", file);
        String own = row("N01", "02:10:00:30", "02:10:01:30", file);
        String ofList = row("N01", "02:10:00:06", "02:10:01:05", file).replace("01:00:01:00", "01:00:00:24");
        assertThat(events(either, ofList).getFirst().used()).contains(new FrameRange(12, 50));
        assertThat(events(own, either).getLast().used()).contains(new FrameRange(6, 50));
        assertThat(events(own, either, ofList).get(1).inWords())
                .isEqualTo("its source timecode could count 50 or 25 frames a second");
    }

    @Test
    void framesThatTheRecordingLacksAreTold() throws IOException {
        add(clip("/c/A.mov", "10:00:00:00", "", "25"));
        ConformedEvent event = first(list(row("AX", "10:00:03:20", "10:00:04:20", "* SOURCE FILE: /c/A.mov")));
        assertThat(event.has(ConformedEvent.Doubt.Kind.OUTSIDE)).isTrue();
        assertThat(event.inWords()).isEqualTo("it uses 20 frames after it ends");
        assertThat(event.used()).contains(new FrameRange(95, 5));
    }

    @Test
    void aTimelineOfAnotherWorkstationIsReadByItsPlaces() throws IOException {
        Clip one = add(clip("/mnt/f/Card/C001.mov", "", "", "25"));
        var places = new Places(List.of(new Places.Place(
                "Footage",
                MediaPath.of(Path.of("/mnt/f")),
                Map.of("edit 2", MediaPath.ofWorkstation("E:\\Footage").orElseThrow()))));
        for (String address : List.of("file:///E:/Footage/Card/C001.mov", "e:\\footage\\Card\\C001.mov")) {
            Conform conform = Conform.of(otio(address, ""), stock, places, Map.of());
            assertThat(conform.events().getFirst().clip()).contains(one);
            Addressing back = Addressing.forWorkstation(places, "edit 2", Addressing.Manner.ABSOLUTE);
            Switching.Outcome outcome = Switching.readdress(conform, back, folder);
            assertThat(outcome.unreachable()).isEmpty();
            assertThat(conform.document().events().getFirst().media().address())
                    .isEqualTo("file:///E:/Footage/Card/C001.mov");
        }
        Conform here = Conform.of(otio("file:///elsewhere/Card/C001.mov", ""), stock, places, Map.of());
        assertThat(here.events().getFirst().how()).isEqualTo("folder and file name are the same");
        assertThat(Switching.readdress(
                                here, Addressing.forWorkstation(places, "edit 3", Addressing.Manner.ABSOLUTE), folder)
                        .unreachable())
                .containsExactly("/mnt/f/Card/C001.mov");
    }

    @Test
    void aFileThatIsThereAndAnotherIsNotTakenForItsName() throws IOException {
        add(clip("/mnt/f/Card/C001.mov", "", "", "25"));
        Path other = Files.createDirectories(folder.resolve("Card")).resolve("C001.mov");
        Files.writeString(other, "another recording of this name");
        assertThat(first(otio("Card/C001.mov", "")).standing()).isInstanceOf(Standing.Foreign.class);
        Files.delete(other);
        assertThat(first(otio("Card/C001.mov", "")).standing()).isInstanceOf(Standing.OnOriginal.class);
    }

    @Test
    void pinsRangesAndFallbacksServe() throws IOException {
        Clip one = clip("/c/A.mov", "", "", "25");
        WorkingCopy light = copy(one, CopyKind.LIGHT, "/k/A light.mov", Optional.empty());
        WorkingCopy range = copy(one, CopyKind.RANGE, "/k/A range.mov", Optional.of(new FrameRange(10, 30)));
        add(one, light, range);
        add(clip("/c/B.mov", "", "", "25"));
        ConformedEvent inside = first(otio("/c/A.mov", source(12, 20)));
        ConformedEvent outside = first(otio("/c/A.mov", source(5, 20)));
        StockLine line = stock.getFirst();
        assertThat(Switching.serving(inside, line, ServingOrder.FULL_FIRST, List.of()))
                .contains(range);
        assertThat(Switching.serving(outside, line, ServingOrder.FULL_FIRST, List.of()))
                .contains(light);
        assertThat(Switching.serving(inside, line, ServingOrder.LIGHT_FIRST, List.of()))
                .contains(light);
        Pin use = new Pin(one.id(), Optional.of(new FrameRange(30, 5)), "full");
        Pin all = new Pin(one.id(), Optional.empty(), "originals");
        assertThat(Switching.serving(inside, line, ServingOrder.LIGHT_FIRST, List.of(all, use)))
                .contains(range);
        assertThat(Switching.serving(outside, line, ServingOrder.LIGHT_FIRST, List.of(all, use)))
                .isEmpty();
        assertThat(Switching.serving(inside, line, ServingOrder.ORIGINALS, List.of(use)))
                .as("no pin keeps a timeline for finishing on a copy")
                .isEmpty();
        Conform conform = Conform.of(otio("/c/A.mov", source(12, 20)), stock, Places.NONE, Map.of());
        Switching.carryOut(conform, ServingOrder.FULL_FIRST, List.of(), Addressing.AS_IT_STANDS, folder);
        ConformedEvent after = conform.with(conform.document()).events().getFirst();
        assertThat(after.copy()).contains(range);
        assertThat(after.used())
                .as("the same frames, though the copy begins at 10")
                .contains(new FrameRange(12, 20));
    }

    private static String source(int start, int count) {
        return """
            "source_range": {"OTIO_SCHEMA": "TimeRange.1",
              "start_time": {"OTIO_SCHEMA": "RationalTime.1", "rate": 25, "value": %d},
              "duration": {"OTIO_SCHEMA": "RationalTime.1", "rate": 25, "value": %d}},\
            """.formatted(start, count);
    }

    @Test
    void whatChangedBetweenTwoVersionsIsTold() throws IOException {
        add(clip("/c/A.mov", "", "", "25"));
        add(clip("/c/B.mov", "", "", "25"));
        add(clip("/c/C.mov", "", "", "25"));
        String head = "001 A V C 00:00:00:10 00:00:01:10 01:00:00:00 01:00:01:00\n* SOURCE FILE: /c/A.mov\n";
        String older = head
                + "002 B V C 00:00:00:10 00:00:01:10 01:00:01:00 01:00:02:00\n* SOURCE FILE: /c/B.mov\n"
                + "003 C V C 00:00:00:00 00:00:01:00 01:00:02:00 01:00:03:00\n* SOURCE FILE: /c/C.mov\n"
                + "004 A V C 00:00:02:00 00:00:03:00 01:00:03:00 01:00:04:00\n* SOURCE FILE: /c/A.mov\n";
        String newer = head
                + "002 B V C 00:00:00:05 00:00:01:10 01:00:01:00 01:00:02:05\n* SOURCE FILE: /c/B.mov\n"
                + "003 B V C 00:00:02:00 00:00:03:00 01:00:02:00 01:00:03:00\n* SOURCE FILE: /c/B.mov\n"
                + "004 A V C 00:00:02:10 00:00:03:00 01:00:03:00 01:00:03:15\n* SOURCE FILE: /c/A.mov\n"
                + "005 C V C 00:00:01:00 00:00:02:00 01:00:05:00 01:00:06:00\n* SOURCE FILE: /c/C.mov\n";
        Conform before = Conform.of(list(older), stock, Places.NONE, Map.of());
        TimelineComparison comparison =
                TimelineComparison.of(before.events(), before.with(list(newer)).events());
        assertThat(comparison.same()).isEqualTo(1);
        assertThat(comparison.changes())
                .extracting(
                        change -> change.kind().label() + " " + change.event().number())
                .containsExactly("extended 2", "replaced 3", "shortened 4", "added 5");
        TimelineComparison back = TimelineComparison.of(
                before.with(list(newer)).events(), before.with(list(older)).events());
        assertThat(back.changes())
                .extracting(
                        change -> change.kind().label() + " " + change.event().number())
                .containsExactly("shortened 2", "replaced 3", "extended 4", "dropped 5");
    }

    /// Both the project's media and that of others lead on to the same files from another folder.
    @Test
    void relativeAddressesAreWrittenAnewForAnotherFolder() throws IOException {
        add(clip(folder.resolve("media/A.mov").toString(), "", "", "25"));
        for (String address : List.of("media/A.mov", "media/foreign%20one.mov")) {
            Conform conform = Conform.of(otio(address, ""), stock, Places.NONE, Map.of());
            Switching.readdress(conform, Addressing.ELSEWHERE, folder.resolve("out/deep"));
            assertThat(conform.document().events().getFirst().media().address()).isEqualTo("../../" + address);
        }
        Conform absolute = Conform.of(otio("file:/elsewhere/x.mov", ""), stock, Places.NONE, Map.of());
        Switching.readdress(absolute, Addressing.ELSEWHERE, folder.resolve("out/deep"));
        assertThat(absolute.document().events().getFirst().media().address()).isEqualTo("file:/elsewhere/x.mov");
    }

    /// Switched to the original it is already on, an event that is known only by folder and name leads
    /// there.
    @Test
    void anAddressThatMediaMovedAwayFromIsMended() throws IOException {
        Clip one = add(clip("/mnt/f/Card/C001.mov", "", "", "25"));
        Conform conform = Conform.of(otio("file:///elsewhere/Card/C001.mov", ""), stock, Places.NONE, Map.of());
        Switching.carryOut(conform, ServingOrder.ORIGINALS, List.of(), Addressing.AS_IT_STANDS, folder);
        ConformedEvent mended = conform.with(conform.document()).events().getFirst();
        assertThat(mended.clip()).contains(one);
        assertThat(mended.way()).isEqualTo(ConformedEvent.Way.REFERENCE);
    }
}
