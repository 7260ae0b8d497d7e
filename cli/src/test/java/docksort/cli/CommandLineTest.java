package docksort.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.Footage;
import docksort.WithMedia;
import docksort.engine.MediaEngine;
import java.awt.image.BufferedImage;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.List;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

@WithMedia
class CommandLineTest {
    @TempDir
    Path folder = Path.of("");

    private record Answer(int code, String out, String err) {
        JsonNode json() throws Exception {
            return new ObjectMapper().readTree(out);
        }
    }

    private Answer run(String... args) {
        var out = new StringWriter();
        var err = new StringWriter();
        var line = new ArrayList<>(List.of(args));
        line.addAll(List.of("--project", folder.resolve("project").toString()));
        int code = Main.run(line.toArray(String[]::new), new PrintWriter(out), new PrintWriter(err));
        return new Answer(code, out.toString(), err.toString());
    }

    @Test
    void theLauncherHandsOverEveryCommand() throws Exception {
        String launcher = Files.readString(Path.of("..", "dock-sort"));
        String handed = launcher.lines()
                .filter(line -> line.strip().startsWith("inspect|"))
                .findFirst()
                .orElseThrow();
        assertThat(handed.strip().replace(")", "").split("\\|"))
                .containsAll(
                        new picocli.CommandLine(new Main()).getSubcommands().keySet());
    }

    @Test
    void theWholeJobGoesByCommandLine() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/Card"));
        try (MediaEngine engine = MediaEngine.locate()) {
            new Footage(engine)
                    .clip(
                            card.resolve("A1.mov"),
                            "640x360",
                            "25",
                            30,
                            "-c:v",
                            "libx264",
                            "-g",
                            "30",
                            "-timecode",
                            "10:00:00:00");
        }
        Answer inspected = run("inspect", "--add", "--json", card.toString());
        assertThat(inspected.code).as(inspected.err).isEqualTo(ExitCodes.GOOD);
        assertThat(inspected
                        .json()
                        .at("/arrivals/0/clips/0/video/keyframeIntervalFrames")
                        .asDouble())
                .isEqualTo(30);
        assertThat(run("plan", "--set", "A1=full-vc3+light-prores-half").out)
                .contains("VC-3 HQ 640×360")
                .contains("exactly");
        Answer made = run("make", "--json");
        assertThat(made.json().path("ready").asInt()).as(made.out + made.err).isEqualTo(2);
        JsonNode clip = run("stock", "--json").json().at("/clips/0");
        assertThat(clip.path("servedBy").asText()).isEqualTo("light");
        assertThat(Path.of(clip.path("servedFile").asText())).exists();
        Path cut = folder.resolve("cut.otio");
        Files.writeString(cut, """
            {"OTIO_SCHEMA": "Timeline.1", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [{"OTIO_SCHEMA": "Clip.2", "name": "A1",
             "active_media_reference_key": "DEFAULT_MEDIA", "media_references": {"DEFAULT_MEDIA":
             {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "volume/Card/A1.mov"}}}]}}
            """);
        Path light = folder.resolve("light.otio");
        assertThat(run("switch", cut.toString(), "--to", "full", "--output", light.toString()).code)
                .isEqualTo(ExitCodes.GOOD);
        assertThat(light).content().contains("\"target_url\" : \"project/copies/full/Card/A1_full.mov\"");
        timelinesLeave(cut, light);
        bytesThatADiskLostAreFound(Path.of(clip.path("servedFile").asText()));
        Files.move(folder.resolve("volume"), folder.resolve("elsewhere"));
        assertThat(run("stock").code).isEqualTo(ExitCodes.NEEDS_A_LOOK);
        assertThat(run("relink", "volume", folder.resolve("elsewhere").toString()).out)
                .contains("1 of 1 clips are online");
        assertThat(run("stock").code).isEqualTo(ExitCodes.GOOD);
    }

    @Test
    void looksComeInAreNamedAndGoWhereNoRecipeUsesThem() throws Exception {
        Path cube = Files.writeString(folder.resolve("Night.cube"), "LUT_3D_SIZE 2\n" + "0 0.5 1\n".repeat(8));
        assertThat(run("begin").code).isEqualTo(ExitCodes.GOOD);
        assertThat(run("looks").out).contains("No lookup tables or images yet");
        Answer added = run("looks", "--add", cube.toString(), "--json");
        assertThat(added.code).as(added.err).isEqualTo(ExitCodes.GOOD);
        String digest = added.json().at("/tables/0/digest").asText();
        Path recipes = Files.writeString(folder.resolve("recipes.json"), """
            {"format": "dock-sort recipes and rules", "version": 1, "rules": [], "recipes": [{"id": "flat", "name": "Flat",
             "kind": "light", "codec": "prores-proxy", "raster": {"perSide": 2},
             "look": {"saturation": 0.5, "table": {"digest": "%s", "name": "Night.cube"}}}]}
            """.formatted(digest));
        Answer taken = run("recipes", "--take-in", recipes.toString());
        assertThat(taken.code).as(taken.err).isEqualTo(ExitCodes.GOOD);
        assertThat(run("recipes").out).contains("saturation 0.5, Night.cube");
        assertThat(run("looks").out).contains("Night.cube  in flat");
        Answer used = run("looks", "--remove", "Night.cube");
        assertThat(used.code).isEqualTo(ExitCodes.INPUT);
        assertThat(used.err).contains("used by: Flat");
        Files.writeString(cube, "LUT_3D_SIZE 2\n0 0 0\n");
        Answer bad = run("looks", "--add", cube.toString());
        assertThat(bad.code).isEqualTo(ExitCodes.INPUT);
        assertThat(bad.err).contains("Night.cube").contains("1 lines of values in place of the 8");
        assertThat(run("looks", "--remove", "Day.cube").err).contains("there is no lookup table or image Day.cube");
        Path mark = folder.resolve("Mark.png");
        ImageIO.write(new BufferedImage(60, 20, BufferedImage.TYPE_INT_ARGB), "png", mark.toFile());
        Answer image = run("looks", "--add", mark.toString(), "--json");
        assertThat(image.code).as(image.err).isEqualTo(ExitCodes.GOOD);
        assertThat(image.json().at("/images/0/name").asText()).isEqualTo("Mark.png");
        assertThat(image.json().path("tables")).hasSize(1);
        assertThat(run("looks").out).contains("Mark.png, 60×20  in no recipe");
        assertThat(run("looks", "--remove", "Mark.png").out).doesNotContain("Mark.png");
    }

    private void bytesThatADiskLostAreFound(Path copy) throws Exception {
        assertThat(run("reread").out).contains("0 of 0 copies are as they were checked");
        assertThat(run("reread", "--days", "0", "--most", "0").out).contains("2 of 2 copies are as they were checked");
        byte[] good = Files.readAllBytes(copy);
        FileTime time = Files.getLastModifiedTime(copy);
        byte[] bad = good.clone();
        bad[good.length / 2] ^= 8;
        Files.write(copy, bad);
        Files.setLastModifiedTime(copy, time);
        Answer answer = run("reread", "--days", "0", "--json");
        assertThat(answer.code).isEqualTo(ExitCodes.NEEDS_A_LOOK);
        assertThat(answer.json().path("same").asInt()).isEqualTo(1);
        assertThat(answer.json().at("/files/0/file").asText()).isEqualTo(copy.toString());
        assertThat(answer.json().at("/files/0/found").asText()).isEqualTo("damaged");
        assertThat(run("stock").code).isEqualTo(ExitCodes.NEEDS_A_LOOK);
        assertThat(run("make").out).contains("1 made and checked, 0 failed");
        assertThat(Files.readAllBytes(copy)).isEqualTo(good);
        assertThat(run("reread", "--days", "0").code).isEqualTo(ExitCodes.GOOD);
    }

    /// @param cut on its original
    /// @param full the same on its full copy
    private void timelinesLeave(Path cut, Path full) {
        assertThat(run("conform", full.toString(), "--against", cut.toString()).out)
                .contains("full")
                .contains("0 changes, 1 the same");
        assertThat(run("place", "volume", "--on", "edit 2", "--is", "E:\\Footage").out)
                .contains("E:\\Footage");
        Path out = folder.resolve("out.otio");
        Answer blocked = run("depart", full.toString(), "--to", out.toString(), "--signed", "the keeper");
        assertThat(blocked.code).isEqualTo(ExitCodes.INPUT);
        assertThat(blocked.err).contains("it leads to its full copy");
        assertThat(run("depart", cut.toString()).out).contains("nobody has said yet which raster is delivered");
        assertThat(run("settings", "--delivery", "1920x1080").out).contains("1920×1080");
        assertThat(out).doesNotExist();
        assertThat(run("depart", cut.toString(), "--to", out.toString(), "--signed", "the keeper", "--for", "edit 2")
                        .code)
                .isEqualTo(ExitCodes.GOOD);
        assertThat(out).content().contains("file:///E:/Footage/Card/A1.mov");
        assertThat(folder.resolve("out.otio.departure.json")).content().contains("the keeper");
        Path packed = folder.resolve("packed");
        assertThat(run("pull", cut.toString(), "--into", packed.toString()).code)
                .isEqualTo(ExitCodes.GOOD);
        assertThat(packed.resolve("media/Card/A1.mov")).exists();
        assertThat(packed.resolve("cut.otio")).content().contains("\"target_url\" : \"media/Card/A1.mov\"");
    }

    /// A raster made smaller for cutting, and a review's own words, must not slip into a master.
    @Test
    void aSoftMasterDoesNotLeave() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/Card"));
        try (MediaEngine engine = MediaEngine.locate()) {
            new Footage(engine).clip(card.resolve("A1.mov"), "640x360", "25", 20, "-c:v", "libx264");
        }
        run("inspect", "--add", card.toString());
        run("settings", "--timeline", "3840x2160", "--delivery", "3840x2160");
        Path cut = folder.resolve("cut.otio");
        Files.writeString(cut, """
            {"OTIO_SCHEMA": "Timeline.1", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [{"OTIO_SCHEMA": "Clip.2", "name": "A1",
             "active_media_reference_key": "DEFAULT_MEDIA", "media_references": {"DEFAULT_MEDIA":
             {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "volume/Card/A1.mov"}}}]}}
            """);
        assertThat(run("depart", cut.toString()).code).isEqualTo(ExitCodes.GOOD);
        run("settings", "--timeline", "960x540");
        assertThat(run("depart", cut.toString()).out).contains("has 960×540, the delivery 3840×2160");
        run("settings", "--timeline", "3840x2160");
        Path out = folder.resolve("out.otio");
        run("depart", cut.toString(), "--review", "--to", out.toString(), "--signed", "the keeper");
        Path review = folder.resolve("out-review.otio");
        assertThat(run("depart", review.toString()).out).contains("it says of itself", "not for finishing");
        run("switch", review.toString(), "--to", "originals");
        assertThat(review).content().doesNotContain("not for finishing");
        assertThat(run("depart", review.toString()).code).isEqualTo(ExitCodes.GOOD);
    }

    @Test
    void clipsOfOneNameAreToldApartAndWhatCannotBeMadeIsSaid() throws Exception {
        try (MediaEngine engine = MediaEngine.locate()) {
            for (String name : List.of("Card A", "Card B")) {
                Path card = Files.createDirectories(folder.resolve("volume").resolve(name));
                new Footage(engine).clip(card.resolve("A1.mov"), "160x90", "25", 10, "-c:v", "libx264");
                run("inspect", "--add", card.toString());
            }
        }
        Answer several = run("plan", "--set", "A1=full-vc3");
        assertThat(several.code).isEqualTo(ExitCodes.INPUT);
        assertThat(several.err).contains("2 clips are named A1", "Card A/A1", "Card B/A1");
        run("plan", "--set", "Card A/A1=full-vc3", "--set", "Card B/A1=light-prores-half");
        Answer made = run("make");
        assertThat(made.code).as(made.out + made.err).isEqualTo(ExitCodes.NEEDS_A_LOOK);
        assertThat(made.out).contains("cannot be made: VC-3 HQ has no raster as small as", "1 made and checked");
        assertThat(run("make", "--json").json().at("/cannotBeMade/0/recipe").asText())
                .isEqualTo("full-vc3");
    }

    @Test
    void wrongInputHasItsOwnExitCodeAndNamesTheFile() throws Exception {
        Answer missing = run("inspect", folder.resolve("no\nwhere").toString());
        assertThat(missing.code).isEqualTo(ExitCodes.INPUT);
        assertThat(missing.err)
                .contains("no\\nwhere")
                .contains("Nothing was changed")
                .doesNotContain("\tat ");
        Path broken = Files.writeString(folder.resolve("broken.otio"), "{");
        assertThat(run(
                                "inspect",
                                "--add",
                                Files.createDirectories(folder.resolve("nothing in it"))
                                        .toString())
                        .code)
                .isEqualTo(ExitCodes.GOOD);
        assertThat(run("plan", "--set", "X=full-vc3").err).contains("No clip is named X");
        assertThat(run("switch", broken.toString(), "--to", "light").code).isEqualTo(ExitCodes.INPUT);
        assertThat(run("relink", "nothing", folder.toString()).err).contains("The project has: Copies (");
        assertThat(run("fly").code).isEqualTo(ExitCodes.USAGE);
        Files.writeString(folder.resolve("empty.mov"), "");
        Answer look = run("inspect", folder.toString());
        assertThat(look.code).isEqualTo(ExitCodes.NEEDS_A_LOOK);
        assertThat(look.out).contains("empty.mov").contains("the file is empty");
    }
}
