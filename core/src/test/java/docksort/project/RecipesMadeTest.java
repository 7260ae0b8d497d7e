package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.media.BurnIn;
import docksort.media.BurnIns;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CodedFrame;
import docksort.media.FrameLines;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Look;
import docksort.media.SoundForm;
import docksort.media.VideoFacts;
import docksort.media.Wrapper;
import docksort.run.CopyTags;
import docksort.sort.CopyKind;
import docksort.sort.Encoding;
import docksort.sort.LoadSheet;
import docksort.sort.Placing;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.Scaling;
import docksort.sort.SortBook;
import docksort.sort.SortRule;
import docksort.sort.Warning;
import java.awt.image.BufferedImage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.imageio.ImageIO;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Recipes made by the real engine through the real queue, each copy checked against its original before it
/// counts, and looked at again from outside.
@WithMedia
class RecipesMadeTest {
    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private final Footage footage = new Footage(engine);
    private Path card = Path.of("");

    @BeforeEach
    void shoot() throws Exception {
        card = folder.resolve("volume/card");
        Files.createDirectories(card.resolve("CLIPS"));
    }

    @AfterEach
    void close() {
        engine.close();
    }

    private Project open() {
        return Project.open(folder.resolve("project"), engine, InstantSource.system());
    }

    private static Recipe recipe(String id, CopyKind kind, Encoding encoding, Wrapper wrapper, Scaling scaling) {
        return Recipe.of(id, id, kind, encoding, wrapper, scaling).placed("{clip}_{recipe}", Placing.ONE_FOLDER);
    }

    /// Makes every clip by recipes chosen by hand and gives back what became of each copy, by recipe.
    private List<WorkingCopy> made(Project project, List<Recipe> recipes) throws InterruptedException {
        project.book().change(new SortBook(recipes, List.of(), false), "test");
        if (project.clips().isEmpty()) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
        }
        for (Recipe recipe : recipes) {
            project.plans().choose(project.clips(), Optional.of(List.of(recipe)));
            project.queue().enqueue(project.plans().loadSheet());
        }
        try (var run = project.runs().start(2, () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
        }
        List<WorkingCopy> copies = project.stocktaking().lines().stream()
                .flatMap(line -> line.copies().stream())
                .toList();
        assertThat(copies)
                .allSatisfy(copy -> assertThat(copy.state()).as(copy.note()).isEqualTo(CopyState.READY));
        return copies;
    }

    private ClipFacts facts(Path file) throws InterruptedException {
        return ((Inspection.Known) new Inspector(engine)
                        .inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation()))
                .facts();
    }

    @Test
    void everyCodecInEveryContainerThatTakesItBecomesATrueStandIn() throws Exception {
        footage.clipWithSound(
                card.resolve("CLIPS/A.mov"),
                "640x360",
                "30000/1001",
                20,
                "-c:v",
                "libx264",
                "-timecode",
                "01:00:00;02",
                "-c:a",
                "pcm_s24le");
        footage.clip(
                card.resolve("CLIPS/T.mov"),
                "320x240",
                "25",
                6,
                "-c:v",
                "prores_ks",
                "-profile:v",
                "4",
                "-pix_fmt",
                "yuva444p10le");
        var recipes = new ArrayList<Recipe>();
        for (Encoding encoding : Encoding.values()) {
            for (Wrapper wrapper : Wrapper.values()) {
                boolean takes = encoding.usual().map(wrapper::takes).orElse(false);
                if (takes) {
                    String id = "r" + recipes.size() + "-" + wrapper.ending();
                    recipes.add(recipe(id, CopyKind.FULL, encoding, wrapper, new Scaling.Full()));
                }
            }
        }
        try (Project project = open()) {
            List<WorkingCopy> copies = made(project, recipes);
            assertThat(copies).hasSize(2 * recipes.size()).hasSizeGreaterThan(60);
            for (WorkingCopy copy : copies) {
                ClipFacts facts = facts(copy.file());
                boolean self = !facts.tags().isEmpty();
                assertThat(self || Files.exists(CopyTags.besides(copy.file())))
                        .as("%s tells of itself", copy.file())
                        .isTrue();
                if (copy.file().getFileName().toString().startsWith("A_")) {
                    assertThat(facts.startTimecode().orElseThrow()).hasToString("01:00:00;02");
                }
            }
            assertThat(copies.stream().filter(copy -> copy.place().codec().contains("4444")))
                    .as("every ProRes of the clip with alpha")
                    .hasSizeGreaterThanOrEqualTo(5);
        }
    }

    @Test
    void rangesHoldExactlyTheirFramesAndSound() throws Exception {
        footage.clipWithSound(
                card.resolve("CLIPS/L.mov"),
                "320x180",
                "25",
                150,
                "-c:v",
                "libx264",
                "-g",
                "50",
                "-bf",
                "2",
                "-timecode",
                "10:00:00:00",
                "-c:a",
                "pcm_s16le");
        Recipe range = recipe("range", CopyKind.RANGE, Encoding.VC3_LB, Wrapper.MOV, new Scaling.Full());
        Recipe whole = recipe("whole", CopyKind.FULL, Encoding.VC3_LB, Wrapper.MOV, new Scaling.Full());
        try (Project project = open()) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            Clip clip = project.clips().getFirst();
            project.plans()
                    .use(
                            Map.of(
                                    clip.id(),
                                    List.of(new FrameRange(60, 10), new FrameRange(75, 5), new FrameRange(140, 10))),
                            5);
            List<WorkingCopy> copies = made(project, List.of(whole, range));
            List<WorkingCopy> ranges = copies.stream()
                    .filter(copy -> copy.kind() == CopyKind.RANGE)
                    .toList();
            assertThat(ranges.stream().map(copy -> copy.range().orElseThrow()))
                    .as("with handles of 5; the first two overlap then")
                    .containsExactlyInAnyOrder(new FrameRange(55, 30), new FrameRange(135, 15));
            Path all = copies.stream()
                    .filter(copy -> copy.kind() == CopyKind.FULL)
                    .findFirst()
                    .orElseThrow()
                    .file();
            for (WorkingCopy copy : ranges) {
                FrameRange frames = copy.range().orElseThrow();
                assertThat(hashes(copy.file(), 0, (int) frames.count()))
                        .as("the same pictures as those of the whole copy")
                        .isEqualTo(hashes(all, (int) frames.first(), (int) frames.count()));
                assertThat(facts(copy.file()).startTimecode().orElseThrow().frameOfDay())
                        .isEqualTo(10L * 3600 * 25 + frames.first());
                assertThat(facts(copy.file()).audio().getFirst().seconds().toDouble())
                        .isCloseTo(frames.count() / 25.0, Offset.offset(0.02));
            }
            project.plans().use(Map.of(clip.id(), List.of(new FrameRange(50, 10))), 0);
            assertThat(project.plans().loadSheet().wanted())
                    .as("an event can use one file only: all of the stretch")
                    .singleElement()
                    .satisfies(copy -> assertThat(copy.range()).contains(new FrameRange(50, 10)));
            project.stocktaking().refresh();
            assertThat(project.stocktaking().lines().getFirst().copies())
                    .filteredOn(copy -> copy.range().equals(Optional.of(new FrameRange(55, 30))))
                    .singleElement()
                    .satisfies(copy -> assertThat(copy.note()).contains("too: a run makes all of it as one file"));
        }
    }

    private List<String> hashes(Path file, int first, int count) throws Exception {
        Path list = folder.resolve("hashes.txt");
        engine.run(List.of(
                "-i",
                "file:" + file,
                "-map",
                "0:v",
                "-vf",
                "trim=start_frame=" + first + ":end_frame=" + (first + count),
                "-f",
                "framehash",
                "file:" + list));
        return Files.readAllLines(list).stream()
                .filter(line -> !line.startsWith("#"))
                .map(line -> line.substring(line.lastIndexOf(',') + 1).strip())
                .toList();
    }

    @Test
    void burnInsAreDrawnChannelsMutedFieldsWovenAndHdrBroughtDown() throws Exception {
        footage.clip(
                card.resolve("CLIPS/it's 50 %, [x]; a:b.mov"),
                "640x360",
                "25",
                4,
                "-vf",
                "drawbox=c=black:t=fill",
                "-c:v",
                "libx264",
                "-timecode",
                "01:02:03:04");
        Recipe drawn = new Recipe(
                "drawn",
                "Drawn",
                CopyKind.LIGHT,
                Encoding.PRORES_LT,
                Wrapper.MOV,
                new Scaling.Full(),
                true,
                false,
                Optional.empty(),
                false,
                Look.NONE,
                SoundForm.KEPT,
                BurnIns.of(
                        new BurnIn(BurnIn.What.NAME, BurnIn.At.TOP_LEFT, ""),
                        new BurnIn(BurnIn.What.TIMECODE, BurnIn.At.BOTTOM, ""),
                        new BurnIn(BurnIn.What.FRAME, BurnIn.At.BOTTOM_RIGHT, ""),
                        new BurnIn(BurnIn.What.TEXT, BurnIn.At.TOP_RIGHT, "100 % \\ 'night': optics, %{pts}")),
                Recipe.USUAL_NAMING,
                Placing.MIRRORED,
                false);
        try (Project project = open()) {
            WorkingCopy copy = made(project, List.of(drawn)).getFirst();
            assertThat(copy.file().getParent()).as("the original's folders").endsWith(Path.of("light/card/CLIPS"));
            Path picture = folder.resolve("drawn.png");
            engine.run(List.of("-i", "file:" + copy.file(), "-frames:v", "1", "file:" + picture));
            BufferedImage image = ImageIO.read(picture.toFile());
            for (int[] corner : new int[][] {{0, 0}, {1, 0}, {1, 1}}) {
                assertThat(bright(image, corner[0] * 400, corner[1] * 280, 240, 80))
                        .as("words in corner %d,%d", corner[0], corner[1])
                        .isGreaterThan(12);
            }
            assertThat(bright(image, 240, 300, 160, 60)).as("timecode below").isGreaterThan(60);
            assertThat(bright(image, 0, 120, 640, 120)).as("nothing between").isZero();
        }
    }

    @Test
    void frameLinesAreDrawnIntoACopyThatIsTrue() throws Exception {
        footage.clip(card.resolve("CLIPS/W.mov"), "640x360", "25", 50, "-c:v", "libx264");
        Recipe social = Recipe.of("social", "Social", CopyKind.LIGHT, Encoding.VC3_LB, Wrapper.MOV, new Scaling.Full())
                .drawing(new BurnIns(
                        List.of(), Optional.of(FrameLines.parse("9:16", FrameLines.Outside.BLACK)), Optional.empty()));
        try (Project project = open()) {
            WorkingCopy copy = made(project, List.of(social)).getFirst();
            assertThat(copy.state()).as(copy.note()).isEqualTo(CopyState.READY);
            Path picture = folder.resolve("framed.png");
            engine.run(List.of("-i", "file:" + copy.file(), "-frames:v", "1", "file:" + picture));
            BufferedImage image = ImageIO.read(picture.toFile());
            // 360 * 9 / 16 = 202.5 columns are kept, from 218 on.
            assertThat(bright(image, 0, 0, 214, 360)).isZero();
            assertThat(bright(image, 426, 0, 214, 360)).isZero();
            assertThat(bright(image, 218, 0, 204, 360)).isGreaterThan(1_000);
        }
    }

    /// An easy clip in a container that few programs open: its coded frames go over, one by one the same.
    @Test
    void aClipIsTakenOverAsItIsIntoAnotherContainer() throws Exception {
        Path original = card.resolve("CLIPS/R.mkv");
        footage.clipWithSound(original, "640x360", "30000/1001", 45, "-c:v", "libx264", "-g", "15", "-bf", "2");
        try (Project project = open()) {
            Recipe recipe = Recipe.FULL_REWRAP.renamed("mine", "Mine");
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            project.book().change(new SortBook(List.of(recipe), List.of(), false), "test");
            project.plans().choose(project.clips(), Optional.of(List.of(recipe)));
            PlannedCopy planned = project.plans().loadSheet().wanted().getFirst();
            assertThat(planned.bytes().isExact()).isTrue();
            WorkingCopy copy = made(project, List.of(recipe)).getFirst();
            assertThat(copy.state()).as(copy.note()).isEqualTo(CopyState.READY);
            assertThat(copy.file().toString()).endsWith(".mov");
            assertThat(sizes(copy.file())).isEqualTo(sizes(original));
            assertThat(planned.bytes().pictureLikely())
                    .isEqualTo(sizes(original).stream()
                            .mapToLong(Integer::longValue)
                            .sum());
            assertThat(facts(copy.file()).audio().getFirst().channels()).isEqualTo(2);
        }
    }

    private List<Integer> sizes(Path file) throws InterruptedException {
        return facts(file).video().orElseThrow().structure().frames().stream()
                .map(CodedFrame::bytes)
                .toList();
    }

    private static int bright(BufferedImage image, int left, int top, int width, int height) {
        int found = 0;
        for (int y = top; y < Math.min(image.getHeight(), top + height); y++) {
            for (int x = left; x < Math.min(image.getWidth(), left + width); x++) {
                found += (image.getRGB(x, y) & 0xFF) > 200 ? 1 : 0;
            }
        }
        return found;
    }

    @Test
    void soundAloneMutedChannelsFieldsAndHighDynamicRangeComeOutAsAsked() throws Exception {
        footage.clipWithSound(
                card.resolve("CLIPS/F.mov"),
                "720x576",
                "25",
                25,
                "-vf",
                "setfield=tff,setsar=64/45",
                "-flags",
                "+ilme+ildct",
                "-c:v",
                "libx264",
                "-pix_fmt",
                "yuv420p",
                "-c:a",
                "pcm_s24le");
        Recipe sound = recipe("sound", CopyKind.SOUND, Encoding.SOUND_ONLY, Wrapper.WAV, new Scaling.Full());
        Recipe woven = new Recipe(
                "woven",
                "Woven",
                CopyKind.LIGHT,
                Encoding.PRORES_PROXY,
                Wrapper.MOV,
                new Scaling.Full(),
                true,
                true,
                Optional.empty(),
                true,
                Look.TO_SDR,
                new SoundForm(16, 0, List.of(2)),
                BurnIns.NONE,
                Recipe.USUAL_NAMING,
                Placing.BESIDE,
                false);
        try (Project project = open()) {
            List<WorkingCopy> copies = made(project, List.of(sound, woven));
            WorkingCopy wav = copies.stream()
                    .filter(copy -> copy.kind() == CopyKind.SOUND)
                    .findFirst()
                    .orElseThrow();
            assertThat(facts(wav.file()).audio()).singleElement().satisfies(stream -> {
                assertThat(stream.channels()).isEqualTo(2);
                assertThat(stream.bitsPerSample()).isEqualTo(24);
            });
            WorkingCopy light = copies.stream()
                    .filter(copy -> copy.kind() == CopyKind.LIGHT)
                    .findFirst()
                    .orElseThrow();
            assertThat(light.file())
                    .as("beside the arrival, not in it")
                    .startsWithRaw(card.resolveSibling("card copies"));
            VideoFacts video = facts(light.file()).video().orElseThrow();
            assertThat(video.scan().isInterlaced()).isFalse();
            assertThat(video.isSquare()).isTrue();
            assertThat(facts(light.file()).audio().getFirst().bitsPerSample()).isEqualTo(16);
            assertThat(peak(light.file(), 0)).as("first channel sounds").isGreaterThan(1_000);
            assertThat(peak(light.file(), 1)).as("second is silent").isZero();
            assertThat(project.stocktaking().lines().getFirst().served().label())
                    .as("sound alone never stands in for a picture")
                    .isEqualTo("light");
        }
        assertThat(card.resolve("CLIPS").toFile().list())
                .as("nothing was written into the arrival")
                .hasSize(1);
    }

    private int peak(Path file, int channel) throws Exception {
        Path raw = folder.resolve("sound.raw");
        engine.run(List.of(
                "-i", "file:" + file, "-map", "0:a:0", "-af", "pan=mono|c0=c" + channel, "-f", "s16le", "file:" + raw));
        byte[] bytes = Files.readAllBytes(raw);
        int most = 0;
        for (int i = 0; i + 1 < bytes.length; i += 2) {
            most = Math.max(most, Math.abs((short) ((bytes[i] & 0xFF) | (bytes[i + 1] << 8))));
        }
        return most;
    }

    @Test
    void aPictureOfHighDynamicRangeIsBroughtDownOnlyWhenAsked() throws Exception {
        footage.clip(
                card.resolve("CLIPS/H.mov"),
                "320x180",
                "25",
                3,
                "-vf",
                "setparams=color_primaries=bt2020:color_trc=smpte2084:colorspace=bt2020nc",
                "-c:v",
                "libx265",
                "-pix_fmt",
                "yuv420p10le",
                "-tag:v",
                "hvc1",
                "-x265-params",
                "log-level=none:colorprim=bt2020:transfer=smpte2084:colormatrix=bt2020nc");
        Recipe kept = recipe("kept", CopyKind.FULL, Encoding.PRORES_HQ, Wrapper.MOV, new Scaling.Full());
        try (Project project = open()) {
            List<WorkingCopy> copies = made(project, List.of(kept));
            assertThat(facts(copies.getFirst().file())
                            .video()
                            .orElseThrow()
                            .colour()
                            .transfer())
                    .isEqualTo("smpte2084");
            project.book().change(SortBook.BUILT_IN, "test");
            project.plans().choose(project.clips(), Optional.of(List.of(Recipe.REVIEW)));
            project.queue().enqueue(project.plans().loadSheet());
            try (var run = project.runs().start(1, () -> {}).orElseThrow()) {
                assertThat(run.run().awaitEnd(Duration.ofMinutes(2))).isTrue();
            }
            WorkingCopy review = project.stocktaking().lines().getFirst().copies().stream()
                    .filter(copy -> copy.recipeId().equals(Recipe.REVIEW.id()))
                    .findFirst()
                    .orElseThrow();
            assertThat(review.state()).as(review.note()).isEqualTo(CopyState.READY);
            assertThat(facts(review.file()).video().orElseThrow().colour().transfer())
                    .isEqualTo("bt709");
        }
    }

    @Test
    void aRecipeThatMayUseTheGraphicsProcessorIsMadeWithoutOneToo() throws Exception {
        footage.clip(card.resolve("CLIPS/G.mov"), "640x360", "25", 10, "-c:v", "mjpeg");
        Recipe plain = recipe("plain", CopyKind.LIGHT, Encoding.H264_LONG, Wrapper.MP4, new Scaling.Full());
        var hardware = new Recipe(
                "hardware",
                "Hardware",
                plain.kind(),
                plain.encoding(),
                plain.wrapper(),
                plain.scaling(),
                true,
                false,
                Optional.empty(),
                false,
                Look.NONE,
                plain.sound(),
                BurnIns.NONE,
                plain.naming(),
                plain.placing(),
                true);
        try (Project project = open()) {
            WorkingCopy copy = made(project, List.of(hardware)).getFirst();
            assertThat(facts(copy.file()).video().orElseThrow().frames().count())
                    .isEqualTo(10);
        }
    }

    /// A rule makes several sizes of each clip, all from one decode; after a trial each is as large as was said.
    @Test
    void everySizeThatARuleMakesIsAsLargeAsPredicted() throws Exception {
        for (String picture : List.of("testsrc2", "mandelbrot", "smptebars")) {
            footage.clip(
                    card.resolve("CLIPS/" + picture + ".mov"),
                    "1280x720",
                    "25",
                    75,
                    "-vf",
                    picture.equals("testsrc2") ? "null" : picture.equals("smptebars") ? "boxblur=8" : "noise=alls=20",
                    "-c:v",
                    "libx264",
                    "-preset",
                    "ultrafast");
        }
        List<Recipe> sizes = List.of(
                recipe("half", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, new Scaling.PerSide(2)),
                recipe("quarter", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, new Scaling.PerSide(4)),
                recipe("fixed", CopyKind.LIGHT, Encoding.VC3_LB, Wrapper.MOV, new Scaling.PerSide(2)),
                recipe("jpeg", CopyKind.LIGHT, Encoding.MOTION_JPEG, Wrapper.MOV, new Scaling.PerSide(4)),
                recipe("hevc", CopyKind.LIGHT, Encoding.HEVC_LONG, Wrapper.MP4, new Scaling.PerSide(2)));
        var rule = new SortRule(List.of(), sizes.stream().map(Recipe::id).toList());
        try (Project project = open()) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            project.book().change(new SortBook(sizes, List.of(rule), false), "test");
            for (Recipe size : sizes) {
                for (Clip clip : project.clips()) {
                    project.trials().tryOut(clip, size, new Cancellation());
                }
            }
            LoadSheet sheet = project.plans().loadSheet();
            assertThat(sheet.warnings().stream().map(Warning::text))
                    .as("several sizes of each clip are no mistake")
                    .noneMatch(text -> text.contains("another fraction"));
            project.queue().enqueue(sheet);
            try (var run = project.runs().start(2, () -> {}).orElseThrow()) {
                assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
            }
            List<WorkingCopy> made = project.stocktaking().lines().stream()
                    .flatMap(line -> line.copies().stream())
                    .toList();
            assertThat(made).hasSize(15).allMatch(copy -> copy.state() == CopyState.READY);
            for (PlannedCopy planned : sheet.wanted()) {
                WorkingCopy copy = made.stream()
                        .filter(each -> each.clip().equals(planned.clip().id())
                                && each.recipeId().equals(planned.recipe().id()))
                        .findFirst()
                        .orElseThrow();
                String which = planned.clip().name() + " " + copy.recipeId();
                long pictures =
                        facts(copy.file()).video().orElseThrow().structure().bytes();
                if (copy.recipeId().equals("fixed")) {
                    assertThat(pictures).as(which).isEqualTo(planned.bytes().pictureLikely());
                } else {
                    assertThat(planned.bytes().pictureLikely() / (double) pictures)
                            .as(which)
                            .isBetween(0.9, 1.1);
                }
            }
        }
    }

    /// Clips of very different content; a second of each is tried, then all of it is made.
    @Test
    void afterATrialOfASecondSizesAreWithinATenthForNineOfTen() throws Exception {
        String[][] pictures = {
            {"bars", "smptebars=size=640x360:rate=25"},
            {"test", "testsrc2=size=640x360:rate=25"},
            {"zoom", "mandelbrot=size=640x360:rate=25"},
            {"cells", "cellauto=size=640x360:rate=25:random_seed=7"},
            {"life", "life=size=640x360:rate=25:mold=10:ratio=0.2:random_seed=7"},
            {"noise", "nullsrc=size=640x360:rate=25,noise=alls=40:allf=t"},
            {"grey", "color=c=gray:size=640x360:rate=25"},
            {"zone", "testsrc=size=640x360:rate=25"},
            {"blur", "testsrc2=size=640x360:rate=25,boxblur=6"},
            {"sierp", "sierpinski=size=640x360:rate=25:seed=7"}
        };
        for (String[] picture : pictures) {
            engine.run(List.of(
                    "-f",
                    "lavfi",
                    "-i",
                    picture[1],
                    "-frames:v",
                    "150",
                    "-c:v",
                    "libx264",
                    "-preset",
                    "ultrafast",
                    "-pix_fmt",
                    "yuv420p",
                    "file:" + card.resolve("CLIPS/" + picture[0] + ".mov")));
        }
        List<Recipe> recipes = List.of(
                recipe("proxy", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, new Scaling.PerSide(2)),
                recipe("jpeg", CopyKind.LIGHT, Encoding.MOTION_JPEG, Wrapper.MOV, new Scaling.Full()),
                recipe("long", CopyKind.LIGHT, Encoding.H264_LONG, Wrapper.MP4, new Scaling.PerSide(2)),
                recipe("hq", CopyKind.FULL, Encoding.PRORES_HQ, Wrapper.MOV, new Scaling.Full()));
        try (Project project = open()) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            project.book().change(new SortBook(recipes, List.<SortRule>of(), false), "test");
            int all = 0;
            var off = new ArrayList<String>();
            for (Recipe recipe : recipes) {
                for (Clip clip : project.clips()) {
                    assertThat(project.trials().tryOut(clip, recipe, new Cancellation()))
                            .isTrue();
                }
                project.plans().choose(project.clips(), Optional.of(List.of(recipe)));
                List<PlannedCopy> planned = project.plans().loadSheet().wanted();
                assertThat(planned).allMatch(copy -> copy.time().isKnown());
                project.queue().enqueue(project.plans().loadSheet());
                try (var run = project.runs().start(2, () -> {}).orElseThrow()) {
                    assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
                }
                for (PlannedCopy plan : planned) {
                    WorkingCopy made = project.stocktaking().lines().stream()
                            .flatMap(line -> line.copies().stream())
                            .filter(copy -> copy.clip().equals(plan.clip().id())
                                    && copy.recipeId().equals(recipe.id()))
                            .findFirst()
                            .orElseThrow();
                    assertThat(made.state()).as(made.note()).isEqualTo(CopyState.READY);
                    double ratio = plan.bytes().likely().bytes()
                            / (double) made.place().bytes();
                    all++;
                    if (Math.abs(ratio - 1) > 0.1) {
                        off.add(plan.clip().name() + " " + recipe.id() + " " + ratio);
                    }
                }
            }
            assertThat(off).as("of %d", all).hasSizeLessThanOrEqualTo(all / 10);
        }
    }
}
