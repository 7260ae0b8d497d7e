package docksort.arrival;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.OtherEngine;
import docksort.Strangers;
import docksort.WithMedia;
import docksort.engine.Cancellation;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.media.ClipFacts;
import docksort.media.FrameRate;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Folders and files as other people's machines leave them, made by another build of the media engine.
@WithMedia
class StrangeArrivalsTest {
    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterEach
    void close() {
        engine.close();
    }

    private ScanResult look(Path place) throws InterruptedException {
        return new ArrivalScan(new Inspector(engine), SameScene.UNSEEN, 2)
                .scan(
                        ArrivalId.fresh(),
                        place,
                        ArrivalScan.Before.NOTHING,
                        FrameRate.FPS_25,
                        ScanListener.none(),
                        new Cancellation());
    }

    private static Path shoot(Path file, String size, int frames, String... more) throws Exception {
        Files.createDirectories(file.getParent());
        var line = new ArrayList<String>(List.of(Strangers.OTHER_ENGINE, "-nostdin", "-v", "error", "-f", "lavfi"));
        line.addAll(List.of("-i", "testsrc2=size=" + size + ":rate=25", "-frames:v", Integer.toString(frames)));
        line.addAll(List.of(more));
        line.add("file:" + file);
        Strangers.run(line);
        return file;
    }

    private ClipFacts facts(Path file) throws InterruptedException {
        ScanResult result = look(Objects.requireNonNull(file.getParent()));
        assertThat(result.unreadable()).isEmpty();
        return result.clips().getFirst().facts();
    }

    @Test
    void aFolderThatIsALinkIsLookedIntoAndLinksInItAreTold() throws Exception {
        shoot(folder.resolve("real/card/a.mov"), "160x90", 5, "-c:v", "mjpeg");
        shoot(folder.resolve("other/b.mov"), "160x90", 5, "-c:v", "mjpeg");
        Path link = Files.createSymbolicLink(folder.resolve("link"), folder.resolve("real/card"));
        Files.createSymbolicLink(folder.resolve("real/card/more"), folder.resolve("other"));
        for (Path place : List.of(link, folder.resolve("real/card"))) {
            ScanResult result = look(place);
            assertThat(result.clips()).hasSize(1);
            assertThat(result.unreadable()).singleElement().satisfies(bad -> {
                assertThat(bad.file()).hasFileName("more");
                assertThat(bad.problem().why()).contains("links are not followed");
            });
        }
    }

    @Test
    void aFileWhoseEndIsMissingSaysSo() throws Exception {
        for (String name : List.of("a.mxf", "b.avi")) {
            Path file = shoot(folder.resolve(name + "-card").resolve(name), "320x180", 30, "-c:v", "mpeg2video");
            assertThat(facts(file).complaints()).as(name).noneMatch(words -> words.contains("its end is missing"));
            byte[] all = Files.readAllBytes(file);
            Files.write(file, Arrays.copyOf(all, all.length * 6 / 10));
            assertThat(facts(file).complaints()).as(name).anyMatch(words -> words.contains("its end is missing"));
        }
    }

    /// 172,800,000 samples at 48,000 a second are one hour.
    @Test
    void timecodeStandsInSoundAndInGroupsOfPicturesToo() throws Exception {
        Path wave = Files.createDirectories(folder.resolve("sound")).resolve("boom.wav");
        Strangers.run(List.of(
                Strangers.OTHER_ENGINE,
                "-nostdin",
                "-v",
                "error",
                "-f",
                "lavfi",
                "-i",
                "sine=sample_rate=48000:duration=1",
                "-write_bext",
                "1",
                "-metadata",
                "time_reference=172800000",
                "file:" + wave));
        assertThat(facts(wave).startTimecode().orElseThrow()).hasToString("01:00:00:00");
        Path tape = shoot(
                folder.resolve("tape/hdv.m2t").resolveSibling("hdv.ts"),
                "320x180",
                30,
                "-c:v",
                "mpeg2video",
                "-timecode",
                "10:11:12:13",
                "-f",
                "mpegts");
        assertThat(facts(tape).startTimecode().orElseThrow()).hasToString("10:11:12:13");
    }

    @Test
    void aMovieThatLeadsToOtherFilesIsNotTakenForFootage() throws Exception {
        Path file = shoot(folder.resolve("card/ref.mov"), "160x90", 5, "-c:v", "mjpeg");
        byte[] bytes = Files.readAllBytes(file);
        int at = new String(bytes, StandardCharsets.ISO_8859_1).indexOf("dref") + 4 + 8 + 8;
        assertThat(bytes[at + 3]).as("the flag: in this file").isEqualTo((byte) 1);
        bytes[at + 3] = 0;
        Files.write(file, bytes);
        assertThat(look(Objects.requireNonNull(file.getParent())).unreadable())
                .singleElement()
                .satisfies(bad -> assertThat(bad.problem().why()).contains("lie in other files"));
    }

    /// The other build knows no option for it, so the matrix is written by hand (ISO/IEC 14496-12,
    /// 8.3.2): a is -1.
    @Test
    void mirroringIsNoTurning() throws Exception {
        Path file = shoot(folder.resolve("card/selfie.mov"), "160x90", 5, "-c:v", "mjpeg");
        byte[] bytes = Files.readAllBytes(file);
        int header = new String(bytes, StandardCharsets.ISO_8859_1).indexOf("tkhd") + 4;
        int matrix = header + 4 + 20 + 8 + 8; // version and flags, times and track, reserved, layer to volume
        assertThat(List.of(bytes[matrix], bytes[matrix + 1])).containsExactly((byte) 0, (byte) 1);
        bytes[matrix] = (byte) 0xFF;
        bytes[matrix + 1] = (byte) 0xFF;
        Files.write(file, bytes);
        ClipFacts facts = facts(file);
        assertThat(facts.video().orElseThrow().rotationDegrees()).isZero();
        assertThat(facts.complaints()).anyMatch(words -> words.contains("mirrored"));
    }

    @Test
    void aSmallCopyWhoseOriginalIsMissingIsTold() throws Exception {
        for (int i = 1; i <= 3; i++) {
            if (i < 3) {
                shoot(folder.resolve("card/clips/A00" + i + ".mov"), "320x180", 10 + i, "-c:v", "mjpeg");
            }
            shoot(folder.resolve("card/sub/A00" + i + "_S.mov"), "160x90", 10 + i, "-c:v", "mjpeg");
        }
        ScanResult result = look(folder.resolve("card"));
        assertThat(result.companions()).hasSize(2);
        assertThat(result.clips()).hasSize(3).anySatisfy(clip -> {
            assertThat(clip.name()).isEqualTo("A003_S");
            assertThat(clip.facts().complaints()).anyMatch(words -> words.contains("its original is missing"));
        });
        assertThat(OtherEngine.picture(folder.resolve("card/sub/A003_S.mov"))).containsEntry("width", "160");
    }
}
