package docksort.arrival;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.Recorder;
import docksort.WithMedia;
import docksort.engine.Cancellation;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.VideoFacts.RateKind;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

@WithMedia
class ArrivalScanTest {
    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private final Footage footage = new Footage(engine);

    @AfterEach
    void close() {
        engine.close();
    }

    private ScanResult scan(ArrivalScan.Before before) throws InterruptedException {
        return new ArrivalScan(new Inspector(engine), SameScene.UNSEEN, 2)
                .scan(new ArrivalId("a"), folder, before, FrameRate.FPS_25, ScanListener.none(), new Cancellation());
    }

    private ScanResult scan() throws InterruptedException {
        return scan(ArrivalScan.Before.NOTHING);
    }

    private Path clip(String name, int frames, String... more) throws InterruptedException {
        var arguments = new ArrayList<String>(List.of("-c:v", "libx264", "-preset", "ultrafast"));
        arguments.addAll(List.of(more));
        return footage.clip(folder.resolve(name), "64x64", "25", frames, arguments.toArray(String[]::new));
    }

    @Test
    void aRecordingThatSpansFilesIsOneClip() throws Exception {
        Recorder.fillUp(clip("C0001.mov", 50, "-timecode", "10:00:00:00"), (1L << 32) - 20_000_000);
        Recorder.fillUp(clip("C0002.mov", 50, "-timecode", "10:00:02:00"), (1L << 32) - 10_000_000);
        clip("C0003.mov", 25, "-timecode", "10:00:04:00");
        clip("C0004.mov", 25, "-timecode", "10:00:05:00"); // carries on too, but the file before it was not full
        ScanResult result = scan();
        assertThat(result.clips()).hasSize(2);
        Clip spanned = result.clips().getFirst();
        assertThat(spanned.source()).isInstanceOf(ClipSource.Spanned.class);
        assertThat(spanned.source().files()).hasSize(3);
        assertThat(spanned.facts().video().orElseThrow().frames().count()).isEqualTo(125);
        assertThat(spanned.facts().startTimecode().orElseThrow()).hasToString("10:00:00:00");
        assertThat(spanned.facts().video().orElseThrow().structure().count()).isEqualTo(125);
    }

    @Test
    void aFullFileWhoseNextOneDoesNotCarryOnStaysAlone() throws Exception {
        Recorder.fillUp(clip("C0001.mov", 50, "-timecode", "10:00:00:00"), (1L << 32) - 20_000_000);
        clip("C0002.mov", 25, "-timecode", "11:00:00:00");
        assertThat(scan().clips())
                .hasSize(2)
                .allSatisfy(clip -> assertThat(clip.source()).isInstanceOf(ClipSource.SingleFile.class));
    }

    @Test
    void stillsWithGapsAndOtherSizesAreOneClipThatSaysSo() throws Exception {
        footage.clip(folder.resolve("shot.%04d.png"), "64x64", "25", 30, "-start_number", "1001");
        Files.delete(folder.resolve("shot.1013.png"));
        Files.delete(folder.resolve("shot.1014.png"));
        Files.delete(folder.resolve("shot.1020.png"));
        footage.clip(folder.resolve("shot.1025.png"), "32x32", "25", 1, "-update", "1");
        ScanResult result = scan();
        assertThat(result.clips()).hasSize(1);
        ClipFacts facts = result.clips().getFirst().facts();
        assertThat(facts.complaints())
                .anySatisfy(said -> assertThat(said).contains("3 of 30 stills are missing: 1013–1014, 1020"))
                .anySatisfy(said -> assertThat(said)
                        .contains("1 of 27 stills have another size")
                        .contains("32×32"));
        assertThat(facts.video().orElseThrow().frames().count()).isEqualTo(30);
    }

    @Test
    void stillsStateNoRateUntilSomebodySaysHowToReadThem() throws Exception {
        for (String kind : List.of("dpx", "tiff", "exr", "png", "jpg")) {
            footage.clip(folder.resolve("shot_" + kind + ".%04d." + kind), "64x48", "25", 10);
        }
        List<Clip> clips = scan().clips();
        assertThat(clips).hasSize(5).allSatisfy(clip -> {
            assertThat(clip.facts().isRateOpen()).isTrue();
            assertThat(clip.facts().complaints())
                    .as("sizes agree by each header")
                    .isEmpty();
            ClipFacts read = clip.facts().interpretedAt(FrameRate.parse("23.976"));
            assertThat(read.video().orElseThrow().rateKind()).isEqualTo(RateKind.INTERPRETED);
            assertThat(read.seconds()).isEqualTo(FrameRate.parse("23.976").secondsOf(10));
        });
    }

    @Test
    void cameraRawIsAClipOutOfReachAndFakesAreNamed() throws Exception {
        Files.write(folder.resolve("A001.r3d"), new byte[] {1, 2, 3, 4, 5, 6, 7, 8});
        Files.writeString(folder.resolve("notes.mov"), "a letter that calls itself a movie");
        engine.run(List.of("-f", "lavfi", "-i", "sine=duration=1", "file:" + folder.resolve("sound.wav")));
        ScanResult result = scan();
        assertThat(result.clips()).extracting(Clip::name).containsExactly("A001", "sound");
        assertThat(result.clips().getFirst().facts().findings().outOfReach()).isPresent();
        assertThat(result.unreadable())
                .singleElement()
                .satisfies(bad -> assertThat(bad.problem().why()).contains("it is text, not media"));
    }

    @Test
    void aSecondLookOpensOnlyWhatIsNewAndKeepsTheIdOfWhatChanged() throws Exception {
        Path kept = clip("A.mov", 10);
        Path changed = clip("B.mov", 10);
        Path gone = clip("C.mov", 10);
        ScanResult first = scan();
        Map<Path, Clip> clips = Map.of(
                kept,
                first.clips().get(0),
                changed,
                first.clips().get(1),
                gone,
                first.clips().get(2));
        // Whoever opens this one now finds rubbish: it must not be opened, its stamp is the same.
        var stamp = Files.getLastModifiedTime(kept);
        byte[] rubbish = new byte[(int) Files.size(kept)];
        Files.write(kept, rubbish);
        Files.setLastModifiedTime(kept, stamp);
        Files.delete(gone);
        clip("B.mov", 20);
        clip("D.mov", 10);
        ScanResult second = scan(new ArrivalScan.Before(first.stamps(), () -> clips));
        assertThat(second.unchanged()).isEqualTo(1);
        assertThat(second.gone()).containsExactly(gone);
        assertThat(second.clips()).extracting(Clip::name).containsExactly("B", "D");
        assertThat(second.clips().getFirst().id())
                .isEqualTo(first.clips().get(1).id());
        assertThat(second.unreadable()).isEmpty();
    }

    @Test
    void aCardWithoutTheFolderItsSiblingHasIsPointedOut() throws Exception {
        Path small = Path.of("/v/CARD_A/SUB/C1_P.mov");
        Files.createDirectories(folder.resolve("CARD_B/MAIN"));
        List<Path> originals = List.of(Path.of("/v/CARD_A/MAIN/C1.mov"), folder.resolve("CARD_B/MAIN/C1.mov"));
        var hints = MissingCompanions.find(originals, Map.of(originals.getFirst(), small));
        assertThat(hints)
                .singleElement()
                .satisfies(hint ->
                        assertThat(hint.label()).contains("CARD_B came without its folder SUB, which CARD_A has"));
        Files.createDirectories(folder.resolve("CARD_B/SUB"));
        assertThat(MissingCompanions.find(originals, Map.of(originals.getFirst(), small)))
                .isEmpty();
    }

    @Test
    void aFileHasSettledWhenItStoppedGrowing() {
        var settling = new Settling(Duration.ofSeconds(5));
        Path file = Path.of("/v/new.mov");
        Instant start = Instant.parse("2026-03-01T02:00:00Z");
        assertThat(settling.look(Map.of(file, new Stamp(1, 100, 1)), start)).isEmpty();
        assertThat(settling.look(Map.of(file, new Stamp(1, 200, 2)), start.plusSeconds(5)))
                .as("it grew")
                .isEmpty();
        assertThat(settling.look(Map.of(file, new Stamp(1, 200, 2)), start.plusSeconds(9)))
                .isEmpty();
        assertThat(settling.look(Map.of(file, new Stamp(1, 200, 2)), start.plusSeconds(10)))
                .isEqualTo(Set.of(file));
    }
}
