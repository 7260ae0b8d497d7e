package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Footage;
import docksort.RawStills;
import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.Addressing;
import docksort.dispatch.Conform;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Condition;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.link.Adoption;
import docksort.link.Adoption.Level;
import docksort.media.ClipFacts;
import docksort.media.Described;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.problem.CoreException.InputRefused;
import docksort.run.Terms;
import docksort.sort.Recipe;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.timeline.TimelineDocument;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Camera raw: what can be opened is opened, and what cannot is shown by what is said of it and served by
/// copies made elsewhere.
@WithMedia
class RawTest {
    /// A maker's own kind, which nobody here reads.
    private static final byte[] RAW = {0x00, 0x01, 0x44, (byte) 0xFE, 0x07, 0x08, 0x00, 0x7F, 0x10, (byte) 0x99};

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Project project;
    private Path card = Path.of("");
    private Path elsewhere = Path.of("");

    @BeforeEach
    void open() throws Exception {
        folder = folder.toRealPath();
        card = Files.createDirectories(folder.resolve("Card"));
        elsewhere = Files.createDirectories(folder.resolve("elsewhere"));
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
    }

    @AfterEach
    void close() {
        project.close();
        engine.close();
    }

    private List<Clip> comeIn() throws Exception {
        project.arrivals().add(card, ScanListener.none(), new Cancellation());
        return project.clips();
    }

    /// A file of the maker's own kind, another one each time.
    private Path raw(String name) throws Exception {
        Path file = Files.write(card.resolve(name), RAW);
        return Files.write(file, name.getBytes(StandardCharsets.UTF_8), StandardOpenOption.APPEND);
    }

    private Path copy(String name, int frames, String... more) throws Exception {
        return new Footage(engine).clip(elsewhere.resolve(name), "192x108", "24", frames, more);
    }

    private Adoption look() throws Exception {
        return project.adoptions().look(elsewhere, List.of(), (_, _) -> {}, new Cancellation());
    }

    private StockLine line() {
        return project.stocktaking().lines().getFirst();
    }

    @Test
    void rawStillsAreOneClipThatStatesItsRateAndACopyOfThemIsMade() throws Exception {
        byte[] code = {0x05, 0x42, 0x17, 0x21, 0, 0, 0, 0}; // 21:17:42:05
        var stills = new RawStills(320, 180).stating(23_976, 1_000, code, "B007");
        for (int number = 0; number < 12; number++) {
            stills.write(card.resolve("K0042_%06d.dng".formatted(number)), number);
        }
        assertThat(comeIn()).singleElement().satisfies(clip -> {
            ClipFacts facts = clip.facts();
            VideoFacts picture = facts.video().orElseThrow();
            assertThat(picture.raster()).isEqualTo(new Raster(320, 180));
            assertThat(picture.frames().count()).isEqualTo(12);
            assertThat(picture.rate()).isEqualTo(FrameRate.parse("24000/1001"));
            assertThat(facts.isRateOpen()).isFalse();
            assertThat(facts.startTimecode()).contains(Timecode.parse("21:17:42:05", FrameRate.parse("24000/1001")));
            assertThat(facts.reel()).contains("B007");
            assertThat(facts.tags()).containsEntry("camera", "Model Seven");
            assertThat(facts.complaints())
                    .as("the thumbnail's raster is not the picture's")
                    .isEmpty();
        });
        project.plans().choose(project.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF)));
        project.queue().enqueue(project.plans().loadSheet());
        try (var run = project.runs().start(Terms.fixed(1), () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(2))).isTrue();
        }
        assertThat(line().copies()).singleElement().satisfies(copy -> {
            assertThat(copy.state().serves()).as(copy.note()).isTrue();
            assertThat(copy.place().width()).isEqualTo(160);
        });
    }

    @Test
    void rawStillsThatStateNoRateAskForIt() throws Exception {
        for (int number = 0; number < 12; number++) {
            new RawStills(64, 48).write(card.resolve("shot.%04d.dng".formatted(number)), number);
        }
        assertThat(comeIn())
                .singleElement()
                .satisfies(clip -> assertThat(clip.facts().isRateOpen()).isTrue());
    }

    @Test
    void aSidecarSaysWhatTheRawFileDoesNotAndWhatIsLackingIsAskedFor() throws Exception {
        raw("A001.r3d");
        raw("A002.r3d");
        // The namespaces are those that ISO 16684 (XMP) gives: readers know properties by them alone.
        Files.writeString(card.resolve("A001.xmp"), """
            <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
            <rdf:Description xmlns:xmpDM="http://ns.adobe.com/xmp/1.0/DynamicMedia/"
                xmlns:stDim="http://ns.adobe.com/xap/1.0/sType/Dimensions#" xmpDM:videoFrameRate="24.000000"
                xmpDM:tapeName="A001C003">
              <xmpDM:videoFrameSize stDim:w="6144" stDim:h="3240" stDim:unit="pixel"/>
              <xmpDM:startTimecode xmpDM:timeFormat="24Timecode" xmpDM:timeValue="10:00:00:00"/>
              <xmpDM:duration xmpDM:value="50" xmpDM:scale="1/24"/>
            </rdf:Description></rdf:RDF>
            """);
        Files.writeString(card.resolve("A002.xmp"), """
            <!DOCTYPE x [<!ENTITY a SYSTEM "file:///etc/hostname">]>
            <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
            <rdf:Description xmlns:xmpDM="http://ns.adobe.com/xmp/1.0/DynamicMedia/" xmpDM:tapeName="&a;"/>
            </rdf:RDF>
            """);
        List<Clip> clips = comeIn();
        assertThat(clips.get(0).facts().video()).hasValueSatisfying(picture -> {
            assertThat(picture.raster()).isEqualTo(new Raster(6144, 3240));
            assertThat(picture.frames().count()).isEqualTo(50);
        });
        assertThat(clips.get(0).facts().startTimecode()).contains(Timecode.parse("10:00:00:00", FrameRate.parse("24")));
        assertThat(clips.get(0).facts().reel()).contains("A001C003");
        ClipFacts silent = clips.get(1).facts();
        assertThat(silent.tags())
                .as("a sidecar that leads elsewhere is not read")
                .isEmpty();
        assertThat(silent.lacking()).containsExactly("raster", "rate", "number of frames");

        project.arrivals()
                .describe(
                        List.of(clips.get(1)),
                        new Described(
                                Optional.of(new Raster(6144, 3240)),
                                Optional.empty(),
                                Optional.empty(),
                                Optional.empty(),
                                Optional.empty()));
        assertThat(project.clips().get(1).facts().lacking()).containsExactly("rate", "number of frames");
        project.arrivals()
                .describe(
                        List.of(clips.get(1)),
                        new Described(
                                Optional.empty(),
                                Optional.of(FrameRate.parse("24")),
                                Optional.of(48L),
                                Optional.of("11:00:00:00"),
                                Optional.empty()));
        ClipFacts said = project.clips().get(1).facts();
        assertThat(said.lacking()).isEmpty();
        assertThat(said.video().orElseThrow().seconds())
                .isEqualTo(FrameRate.parse("24").secondsOf(48));
        assertThat(said.startTimecode()).contains(Timecode.parse("11:00:00:00", FrameRate.parse("24")));
        project.undo();
        assertThat(project.clips().get(1).facts().lacking()).containsExactly("rate", "number of frames");
        project.undo();
        assertThat(project.clips().get(1).facts()).isEqualTo(silent);
    }

    @Test
    void whatIsDecodedIsNotDescribed() throws Exception {
        new Footage(engine).clip(card.resolve("A001.mov"), "192x108", "25", 10, "-c:v", "mjpeg");
        List<Clip> clips = comeIn();
        assertThatThrownBy(() -> project.arrivals()
                        .describe(
                                clips,
                                new Described(
                                        Optional.empty(),
                                        Optional.of(FrameRate.FPS_25),
                                        Optional.empty(),
                                        Optional.empty(),
                                        Optional.empty())))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("can be decoded");
    }

    @Test
    void aContainerOfAKnownKindTellsOfRawInIt() throws Exception {
        Path movie = copy("movie.mov", 30, "-c:v", "prores_ks", "-timecode", "09:00:00:00");
        byte[] bytes = Files.readAllBytes(movie);
        patched(bytes, "apch", "aprn");
        Files.write(card.resolve("P001.mov"), bytes);
        patched(bytes, "aprn", "brxq");
        Files.write(card.resolve("Q001.braw"), bytes);
        assertThat(comeIn()).hasSize(2).allSatisfy(clip -> {
            VideoFacts picture = clip.facts().video().orElseThrow();
            assertThat(picture.raster()).isEqualTo(new Raster(192, 108));
            assertThat(picture.frames().count()).isEqualTo(30);
            assertThat(clip.facts().startTimecode()).isPresent();
        });
        assertThat(project.clips().get(0).facts().video().orElseThrow().codec().label())
                .isEqualTo("ProRes RAW");
        assertThat(project.clips().get(0).facts().isDecodable())
                .as("the engine has a decoder for it")
                .isTrue();
        assertThat(project.clips().get(1).facts().isDecodable()).isFalse();
    }

    private static void patched(byte[] bytes, String from, String to) {
        byte[] old = from.getBytes(StandardCharsets.US_ASCII);
        for (int at = 0; at + 4 <= bytes.length; at++) {
            int here = at;
            if (IntStream.range(0, 4).allMatch(i -> bytes[here + i] == old[i])) {
                System.arraycopy(to.getBytes(StandardCharsets.US_ASCII), 0, bytes, at, 4);
            }
        }
    }

    @Test
    void copiesOfRawAreTakenByNameTimecodeAndLengthOrByReelAndWhatOnlyBearsTheNameIsDoubtful() throws Exception {
        raw("A001.r3d");
        raw("A002.r3d");
        raw("A003.r3d");
        List<Clip> clips = comeIn();
        describe(clips.get(0), 24, "10:00:00:00", "A001C003");
        describe(clips.get(1), 36, "11:00:00:00", "A002C001");
        copy("A001_p.mov", 24, "-c:v", "mjpeg", "-timecode", "10:00:00:00");
        copy(
                "other name.mov",
                36,
                "-c:v",
                "mjpeg",
                "-timecode",
                "11:00:00:00",
                "-metadata",
                "reel_name=A002-C001",
                "-movflags",
                "use_metadata_tags");
        copy("A003_p.mov", 30, "-c:v", "mjpeg");
        Adoption adoption = look();
        assertThat(adoption.pairs())
                .extracting(
                        pair -> pair.file().getFileName() + " " + pair.clip().name() + " " + pair.level())
                .containsExactlyInAnyOrder(
                        "A001_p.mov A001 SURE", "other name.mov A002 SURE", "A003_p.mov A003 DOUBTFUL");
        assertThat(adoption.pairs(Level.DOUBTFUL).getFirst().reason()).startsWith("only the name agrees");
    }

    private void describe(Clip clip, long frames, String timecode, String reel) {
        project.arrivals()
                .describe(
                        List.of(clip),
                        new Described(
                                Optional.of(new Raster(1920, 1080)),
                                Optional.of(FrameRate.parse("24")),
                                Optional.of(frames),
                                Optional.of(timecode),
                                Optional.of(reel)));
    }

    @Test
    void aSaidCopyIsRefusedWhenFactsSpeakAgainstIt() throws Exception {
        raw("A001.r3d");
        Clip clip = comeIn().getFirst();
        project.arrivals()
                .describe(
                        List.of(clip),
                        new Described(
                                Optional.empty(),
                                Optional.of(FrameRate.FPS_25),
                                Optional.empty(),
                                Optional.empty(),
                                Optional.empty()));
        assertThat(project.adoptions()
                        .look(
                                copy("slower.mov", 24, "-c:v", "mjpeg"),
                                project.clips().getFirst(),
                                new Cancellation()))
                .as("what is known already refuses, too")
                .returns(Level.REFUSED, Adoption.Pair::level)
                .returns("other rate: 24 fps, not 25", Adoption.Pair::reason);
        project.undo();
        describe(clip, 24, "10:00:00:00", "A001C003");
        clip = project.clips().getFirst();
        Path longer = copy("longer.mov", 25, "-c:v", "mjpeg");
        Path fits = copy("fits.mov", 24, "-c:v", "mjpeg");
        assertThat(project.adoptions().look(longer, clip, new Cancellation()))
                .returns(Level.REFUSED, Adoption.Pair::level)
                .returns("other length: 25 frames, not 24", Adoption.Pair::reason);
        assertThat(project.adoptions().look(fits, clip, new Cancellation()))
                .returns(Level.DOUBTFUL, Adoption.Pair::level);
    }

    @Test
    void aCopyOnTrustGoesThroughPlanStockSwitchDepartureAndBack() throws Exception {
        Path original = raw("A001.r3d");
        Clip clip = comeIn().getFirst();
        project.plans().choose(List.of(clip), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF)));
        assertThat(project.plans().loadSheet().warnings())
                .extracting(warning -> warning.text())
                .anySatisfy(text -> assertThat(text).contains("out of reach"));
        describe(clip, 24, "10:00:00:00", "A001C003");
        copy("A001_p.mov", 24, "-c:v", "mjpeg");
        Adoption adoption = look();
        project.adoptions().adopt(elsewhere, adoption.pairs(Level.DOUBTFUL));
        WorkingCopy copy = line().copies().getFirst();
        assertThat(copy.isOnTrust()).isTrue();
        assertThat(copy.note()).startsWith("taken over on trust: ");
        assertThat(project.plans().loadSheet().warnings())
                .extracting(warning -> warning.text())
                .noneSatisfy(text -> assertThat(text).contains("out of reach"));

        Path cut = Files.writeString(folder.resolve("cut.otio"), """
            {"OTIO_SCHEMA": "Timeline.1", "name": "cut", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [
              {"OTIO_SCHEMA": "Track.1", "kind": "Video", "name": "V1", "children": [
                {"OTIO_SCHEMA": "Clip.1", "name": "A001", "media_reference":
                  {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "%s"}}]}]}}
            """.formatted(original.toUri()));
        project.settings().deliver(project.settings().timelineFormat().raster());
        TimelineDocument document = project.timelines().open(cut);
        project.serving().switchTo(conform(document), ServingOrder.LIGHT_FIRST);
        assertThat(new String(document.bytes(), StandardCharsets.UTF_8)).contains("A001_p.mov");
        DepartureCheck review = check(document, Purpose.REVIEW);
        assertThat(review.passes()).isTrue();
        assertThat(onTrust(review)).isTrue();
        project.serving().switchTo(conform(document), ServingOrder.ORIGINALS);
        assertThat(new String(document.bytes(), StandardCharsets.UTF_8)).contains("A001.r3d");
        DepartureCheck finishing = check(document, Purpose.FINISHING);
        assertThat(finishing.passes()).as(finishing.findings().toString()).isTrue();
        assertThat(onTrust(finishing)).isTrue();
        assertThat(project.departures()
                        .depart(
                                document,
                                finishing,
                                new Departures.Departure(
                                        folder.resolve("out/cut.otio"),
                                        Addressing.AS_IT_STANDS,
                                        "the keeper",
                                        Optional.empty()))
                        .html())
                .contains("on trust");
        project.undo();
        project.undo();
    }

    private Conform conform(TimelineDocument document) {
        return project.timelines().conform(document, project.stocktaking().lines());
    }

    private DepartureCheck check(TimelineDocument document, Purpose purpose) {
        return project.departures().check(conform(document), purpose, false, (_, _) -> {}, () -> false);
    }

    private static boolean onTrust(DepartureCheck check) {
        return check.findings().stream()
                .anyMatch(finding -> finding.condition() == Condition.KNOWN
                        && !finding.blocks()
                        && finding.words().startsWith("on trust"));
    }
}
