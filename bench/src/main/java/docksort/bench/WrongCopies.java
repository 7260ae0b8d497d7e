package docksort.bench;

import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.media.BurnIns;
import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.media.Look;
import docksort.media.SoundForm;
import docksort.media.SoundMix;
import docksort.media.Wrapper;
import docksort.project.Project;
import docksort.run.Terms;
import docksort.sort.CopyKind;
import docksort.sort.Encoding;
import docksort.sort.Placing;
import docksort.sort.Recipe;
import docksort.sort.Scaling;
import docksort.sort.SortBook;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.logging.Level;
import java.util.logging.Logger;

/// Makes copies wrong on purpose, by codecs and containers, with an engine that lies, and tells which of them a
/// run calls ready.
public final class WrongCopies {
    private static final int FRAMES = 50;

    /// What is done to the pictures on their way to the encoder, to the sound, to what is read or to what was
    /// written. The first two are no fault: those copies have to be ready.
    private static final Map<String, List<String>> FAULTS = new LinkedHashMap<>();

    static {
        FAULTS.put("nothing", List.of("nothing", ""));
        FAULTS.put("nothing, by a filter", picture("null"));
        FAULTS.put("one frame repeated", picture("split[a][b];[a][b]freezeframes=first=19:last=19:replace=18"));
        FAULTS.put("one frame left out", picture("select='not(eq(n,21))',setpts=N/25/TB,tpad=stop=1:stop_mode=clone"));
        FAULTS.put(
                "two frames swapped",
                picture("split=3[a][b][o];[a][b]freezeframes=first=19:last=19:replace=20[d];"
                        + "[d][o]freezeframes=first=20:last=20:replace=19"));
        FAULTS.put("the last frame missing", picture("trim=end_frame=" + (FRAMES - 1)));
        FAULTS.put("one frame blurred", picture("gblur=sigma=6:enable='eq(n,20)'"));
        FAULTS.put(
                "a block of one frame black and white",
                picture("drawbox=x=iw/3:y=ih/3:w=16:h=16:t=fill:color=white:enable='eq(n,20)',"
                        + "drawbox=x=iw/3+16:y=ih/3:w=16:h=16:t=fill:color=black:enable='eq(n,20)'"));
        FAULTS.put("contrast of ten frames", picture("eq=contrast=0.89:enable='between(n,20,29)'"));
        FAULTS.put("brightness of ten frames", picture("eq=brightness=0.04:enable='between(n,20,29)'"));
        FAULTS.put("levels of all frames", picture("scale=in_range=pc:out_range=tv,setrange=tv"));
        FAULTS.put(
                "one frame two lines lower",
                picture("split[a][b];[b]pad=iw:ih+2:0:2,crop=iw:ih-2:0:0[c];[a][c]overlay=enable='eq(n,20)'"));
        FAULTS.put("all frames a field later", picture("phase=mode=t"));
        FAULTS.put("the fields of one frame swapped", picture("il=luma_swap=1:chroma_swap=1:enable='eq(n,20)'"));
        FAULTS.put("no colours in one frame", picture("hue=s=0:enable='eq(n,20)'"));
        FAULTS.put("no colours", picture("hue=s=0"));
        FAULTS.put("colours that changed places", picture("swapuv"));
        FAULTS.put("another clip", List.of("input", "others"));
        FAULTS.put("three frames later", List.of("input", "later"));
        FAULTS.put("a byte flipped at a quarter", List.of("flip", "0.25"));
        FAULTS.put("a byte flipped at the half", List.of("flip", "0.5"));
        FAULTS.put("a byte flipped at three quarters", List.of("flip", "0.75"));
        FAULTS.put("the second channel silent", List.of("sound", "pan=stereo|c0=c0|c1=0*c1"));
        FAULTS.put("the sound 200 ms late", List.of("sound", "adelay=200:all=1"));
        FAULTS.put("the values of the look left out", List.of("look", "lut1d=file=[^,]*,"));
        FAULTS.put("the saturation of the look left out", List.of("look", "colorchannelmixer=[^,]*,"));
        FAULTS.put("a mix of another channel", List.of("mix", "c1"));
    }

    private static List<String> picture(String filters) {
        return List.of("picture", filters);
    }

    private final Path work;
    private final MediaEngine engine;
    private final Path fault;

    private WrongCopies(Path work, MediaEngine engine) {
        this.work = work;
        this.engine = engine;
        this.fault = work.resolve("fault");
    }

    /// @param args a work folder, and part of the names of those faults that are wanted
    public static void main(String[] args) throws Exception {
        if (args.length != 2) {
            System.err.println("usage: WrongCopies WORK FAULT");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.OFF);
        Path work = Documents.ensureFolder(Path.of(args[0])).toRealPath();
        try (MediaEngine engine = MediaEngine.locate()) {
            var copies = new WrongCopies(work, engine);
            Path card = copies.shoot();
            try (MediaEngine lying = copies.lying()) {
                int missed = 0;
                for (Map.Entry<String, List<String>> each : FAULTS.entrySet()) {
                    if (each.getKey().contains(args[1])) {
                        missed += copies.tried(each.getKey(), each.getValue(), lying, card);
                    }
                }
                System.out.println(missed + " told wrongly");
                System.exit(missed > 0 ? 1 : 0);
            }
        }
    }

    /// With a look, and with other channels of sound.
    private static Recipe special(String id, Encoding encoding, Wrapper wrapper, Look look, String mix) {
        return new Recipe(
                id,
                id,
                CopyKind.LIGHT,
                encoding,
                wrapper,
                new Scaling.Full(),
                true,
                false,
                Optional.empty(),
                false,
                look,
                new SoundForm(0, 0, List.of(), SoundMix.parse(mix)),
                BurnIns.NONE,
                Recipe.USUAL_NAMING,
                Placing.BY_ARRIVAL,
                false);
    }

    private static List<Recipe> recipes(String fault, String kind) {
        var look = new Look(
                false,
                Optional.of(new ColourDecision(
                        new Channels(1.1, 1, 0.9),
                        new Channels(0.02, 0, -0.02),
                        new Channels(0.8, 0.8, 0.8),
                        fault.contains("saturation") ? 0.8 : 1)),
                Optional.empty());
        List<Recipe> looks = List.of(
                special("look-prores-mov", Encoding.PRORES_PROXY, Wrapper.MOV, look, ""),
                special("look-vc3-mxf", Encoding.VC3_LB, Wrapper.MXF, look, ""),
                special("look-h264-mp4", Encoding.H264_LONG, Wrapper.MP4, look, ""));
        List<Recipe> mixes = List.of(
                special("mix-prores-mov", Encoding.PRORES_PROXY, Wrapper.MOV, Look.NONE, "2, 1"),
                special("mix-vc3-mxf", Encoding.VC3_LB, Wrapper.MXF, Look.NONE, "2; 1"),
                special("mix-h264-mp4", Encoding.H264_LONG, Wrapper.MP4, Look.NONE, "each"));
        if (fault.contains("of the look")) {
            return looks;
        }
        if (fault.contains("a mix")) {
            return mixes;
        }
        var recipes = new ArrayList<Recipe>();
        if (kind.equals("picture") || fault.startsWith("nothing")) {
            recipes.addAll(looks);
        }
        if (fault.startsWith("nothing")) {
            recipes.addAll(mixes);
        }
        recipes.addAll(plain());
        return recipes;
    }

    private static List<Recipe> plain() {
        var recipes = new ArrayList<Recipe>();
        for (Encoding encoding : Encoding.values()) {
            for (Wrapper wrapper : List.of(Wrapper.MOV, Wrapper.MXF, Wrapper.MP4)) {
                boolean picture = encoding != Encoding.REWRAP && encoding != Encoding.SOUND_ONLY;
                if (picture && encoding.usual().filter(wrapper::takes).isPresent()) {
                    String id =
                            (encoding + "-" + wrapper).toLowerCase(Locale.ROOT).replace('_', '-');
                    recipes.add(Recipe.of(id, id, CopyKind.LIGHT, encoding, wrapper, new Scaling.Full()));
                }
            }
        }
        return recipes;
    }

    /// One clip of whole pictures and one of fields, and beside the card others, and the same three frames
    /// later.
    private Path shoot() throws InterruptedException, IOException {
        Path card = Documents.ensureFolder(work.resolve("Card"));
        Path others = Documents.ensureFolder(work.resolve("others"));
        Path later = Documents.ensureFolder(work.resolve("later"));
        for (Path folder : List.of(card, others, later)) {
            String hue = folder.equals(others) ? "120,hflip" : "0";
            String begin = folder.equals(later) ? ",trim=start_frame=3,setpts=PTS-STARTPTS" : "";
            shoot(folder.resolve("whole.mov"), "testsrc2=s=640x360:r=25,hue=h=" + hue + begin);
            shoot(
                    folder.resolve("fields.mov"),
                    "testsrc2=s=720x576:r=50,hue=h=" + hue + ",interlace=scan=tff" + begin,
                    "-flags",
                    "+ilme+ildct",
                    "-x264opts",
                    "tff=1");
        }
        return card;
    }

    private void shoot(Path to, String pictures, String... more) throws InterruptedException {
        var line = new ArrayList<>(List.of("-f", "lavfi", "-i", pictures, "-f", "lavfi", "-i"));
        line.add("aevalsrc=0.3*sin(2000*t)|0.4*sin(3000*t)*gt(sin(5*t)\\,0):s=48000:d=2");
        line.addAll(List.of("-frames:v", Integer.toString(FRAMES), "-c:v", "libx264", "-g", "25", "-pix_fmt"));
        line.addAll(List.of("yuv420p", "-c:a", "pcm_s16le", "-timecode", "01:00:00:00"));
        line.addAll(List.of(more));
        line.add("file:" + to);
        engine.run(line);
    }

    /// The same engine behind a program that may spoil what it is asked for.
    private MediaEngine lying() throws IOException {
        Path folder = Documents.ensureFolder(work.resolve("engine"));
        String java = ProcessHandle.current().info().command().orElseThrow();
        script(folder.resolve("ffprobe"), "exec '" + engine.ffprobeProgram() + "' \"$@\"");
        script(
                folder.resolve("ffmpeg"),
                "exec '" + java + "' -XX:TieredStopAtLevel=1 -Xmx64m -cp '" + System.getProperty("java.class.path")
                        + "' " + LyingEngine.class.getName() + " '" + engine.ffmpegProgram() + "' '" + fault
                        + "' \"$@\"");
        Files.writeString(fault, "none\n");
        return MediaEngine.inFolder(folder);
    }

    private static void script(Path file, String line) throws IOException {
        Files.writeString(file, "#!/bin/sh\n" + line + "\n");
        if (!file.toFile().setExecutable(true)) {
            throw new IOException("cannot be made a program: " + file);
        }
    }

    /// @return how many copies it was told wrongly of
    private int tried(String name, List<String> how, MediaEngine lying, Path card) throws Exception {
        Path place = work.resolve("project " + name);
        List<Recipe> recipes = recipes(name, how.getFirst());
        var lines = new ArrayList<String>();
        int all = 0;
        int right = 0;
        try (Project project = Project.open(place, lying, InstantSource.system())) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            project.book().change(new SortBook(recipes, List.of(), false), "all forms");
            for (var clip : project.clips()) {
                if (name.contains("the fields of") && !clip.name().equals("fields")) {
                    continue; // a whole picture has none
                }
                boolean other = how.getFirst().equals("input");
                Path instead = work.resolve(how.get(1)).resolve(clip.name() + ".mov");
                Files.write(fault, List.of(how.get(0), other ? instead.toString() : how.get(1)));
                project.plans().choose(List.of(clip), Optional.of(recipes));
                project.queue().enqueue(project.plans().loadSheet());
                try (var run = project.runs().start(Terms.fixed(1), () -> {}).orElseThrow()) {
                    if (!run.run().awaitEnd(Duration.ofMinutes(10))) {
                        throw new IllegalStateException("the run did not end");
                    }
                }
            }
            for (WorkingCopy copy : project.stocktaking().lines().stream()
                    .flatMap(line -> line.copies().stream())
                    .toList()) {
                all++;
                boolean good = name.startsWith("nothing") == (copy.state() == CopyState.READY);
                right += good ? 1 : 0;
                if (!good) {
                    String note = copy.note();
                    lines.add("    " + copy.file().getFileName() + " " + copy.recipeId() + " "
                            + copy.state().label() + ": " + note.substring(0, Math.min(300, note.length())));
                }
            }
        }
        System.out.printf("%-36s %3d of %3d%n", name, right, all);
        lines.forEach(System.out::println);
        return all - right;
    }
}
