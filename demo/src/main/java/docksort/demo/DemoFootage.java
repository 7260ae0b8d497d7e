package docksort.demo;

import docksort.engine.MediaEngine;
import java.awt.Color;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.function.Consumer;
import javax.imageio.ImageIO;

/// Makes the demo footage in a folder, once. The folder is the demo's own; what is in it may be thrown
/// away.
public final class DemoFootage {
    /// Changes whenever the footage does, so that an older cache is made anew.
    private static final String EDITION = "edition-5";

    private static final int STILLS = 48;

    /// Fields of the strip in the upper left corner that tells a frame's number to programs, one for each
    /// bit, the lowest on the left. Side and place of a field are shares of the picture's width and
    /// height.
    static final int STRIP_FIELDS = 12;

    static final String STRIP_LEFT = "0.03";
    static final String STRIP_TOP = "0.04";
    static final String FIELD_WIDTH = "0.016";
    static final String FIELD_HEIGHT = "0.03";

    private final Path folder;
    private final MediaEngine engine;
    private final Consumer<String> tell;

    private DemoFootage(Path folder, MediaEngine engine, Consumer<String> tell) {
        this.folder = folder;
        this.engine = engine;
        this.tell = tell;
    }

    /// What was made.
    ///
    /// @param arrivals folders to add, in order
    /// @param timeline the cut as OpenTimelineIO
    /// @param editList the same cut as a CMX 3600 edit list
    public record Made(Path folder, List<Path> arrivals, Path timeline, Path editList) {}

    /// The footage in a folder, made now if it is not there yet.
    ///
    /// @param tell hears what is being made
    public static Made in(Path folder, MediaEngine engine, Consumer<String> tell)
            throws IOException, InterruptedException {
        Path place = folder.toAbsolutePath().normalize();
        Path mark = place.resolve(EDITION);
        var footage = new DemoFootage(place, engine, tell);
        if (!Files.exists(mark)) {
            footage.clear();
            Files.createDirectories(place);
            footage.make();
            Files.writeString(mark, "complete\n");
        }
        return new Made(
                place,
                Shoot.ARRIVALS.stream().map(place::resolve).toList(),
                place.resolve(Cut.TIMELINE),
                place.resolve(Cut.EDIT_LIST));
    }

    private void clear() throws IOException {
        if (!Files.isDirectory(folder)) {
            return;
        }
        boolean ours;
        try (var names = Files.list(folder)) {
            ours = names.allMatch(path -> {
                String name = String.valueOf(path.getFileName());
                return name.startsWith("edition-")
                        || name.startsWith("volume ")
                        || name.equals("paint")
                        || name.startsWith("night_optics.");
            });
        }
        if (!ours) {
            throw new IOException(folder + " holds other files than demo footage; choose an empty folder");
        }
        try (var all = Files.walk(folder)) {
            for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(path);
            }
        }
    }

    private void make() throws IOException, InterruptedException {
        Path paint = Files.createDirectories(folder.resolve("paint"));
        Path font = paint.resolve("mono.ttf");
        try (InputStream in = MediaEngine.class.getResourceAsStream("IBMPlexMono-Regular.ttf")) {
            Files.copy(Objects.requireNonNull(in), font, StandardCopyOption.REPLACE_EXISTING);
        }
        ImageIO.setUseCache(false);
        write(sprite(), paint.resolve("sprite.png"));
        var jobs = new ArrayList<Callable<Void>>();
        for (Take take : Shoot.takes()) {
            jobs.add(() -> record(take, paint, font));
        }
        jobs.add(() -> timeLapse(paint, font));
        inTwos(jobs);
        companions();
        oddities();
        Cut.write(folder);
        try (var left = Files.list(paint)) {
            for (Path file : left.toList()) {
                Files.delete(file);
            }
        }
        Files.delete(paint);
    }

    private static void inTwos(List<Callable<Void>> jobs) throws IOException, InterruptedException {
        try (var pool = Executors.newFixedThreadPool(2)) {
            for (var done : pool.invokeAll(jobs)) {
                done.get();
            }
        } catch (ExecutionException e) {
            throw new IOException("the demo footage could not be made: " + e.getMessage(), e);
        }
    }

    private Void record(Take take, Path paint, Path font) throws IOException, InterruptedException {
        tell.accept("painting " + take.path());
        Path file = folder.resolve(take.path());
        Files.createDirectories(file.getParent());
        Path background = background(take.scene(), take.width(), take.height(), paint);
        var line =
                new ArrayList<String>(List.of("-i", "file:" + background, "-i", "file:" + paint.resolve("sprite.png")));
        if (take.sound() > 0) {
            line.addAll(List.of("-f", "lavfi", "-i", sound(take)));
        }
        line.addAll(List.of("-filter_complex", picture(take, font), "-map", "[out]"));
        if (take.sound() > 0) {
            line.addAll(List.of("-map", "2:a"));
            line.addAll(soundEncoder(take));
        }
        line.addAll(take.encoder());
        if (!take.timecode().isEmpty()) {
            line.addAll(List.of("-timecode", take.timecode()));
        }
        line.addAll(List.of("-map_metadata", "-1", "-fflags", "+bitexact", "-flags:v", "+bitexact"));
        if (take.path().endsWith(".mxf")) {
            line.addAll(List.of("-flags:v", "+ildct+ilme+bitexact"));
        }
        line.add("file:" + file);
        engine.run(line);
        return null;
    }

    /// A slow move over a painting a tenth larger than the picture, something small that travels, and text.
    private static String picture(Take take, Path font) {
        boolean clear = take.scene() == Scene.CLEAR;
        boolean still = take.scene() == Scene.DESK; // a screen does not drift
        double seconds = take.frames() / rate(take.rate());
        String length = String.format(Locale.ROOT, "%.3f", seconds);
        int size = take.height() / 45;
        String text = "drawtext=fontfile='" + escaped(font.toString()) + "':fontcolor=white:fontsize=" + size + ":box="
                + (clear ? 0 : 1) + ":boxcolor=black@0.45:boxborderw=" + size / 3;
        var filters = new StringBuilder();
        filters.append("[0:v]format=")
                .append(take.pixels())
                .append(",loop=-1:1:0,setpts=N/(")
                .append(take.rate())
                .append(")/TB,fps=")
                .append(take.rate());
        filters.append(",crop=").append(take.width()).append(':').append(take.height());
        filters.append(
                still
                        ? ":x=0:y=0[ground]"
                        : ":x='(iw-ow)*(0.5+0.5*sin(t*0.9))':y='(ih-oh)*(0.5+0.4*cos(t*0.7))'[ground]");
        if (!clear) {
            filters.append(";[1:v]format=yuva420p,loop=-1:1:0,setpts=N/(")
                    .append(take.rate())
                    .append(")/TB,fps=")
                    .append(take.rate())
                    .append("[thing]");
        }
        filters.append(';');
        String plain = clear
                ? "[ground]null"
                : "[ground][thing]overlay=x='W*(0.1+0.8*mod(t*0.21\\,1))':y='H*(0.3+0.1*sin(t*2))':shortest=0"
                        + ":format=" + overlayFormat(take.pixels());
        filters.append(plain).append(',').append(strip());
        filters.append(",")
                .append(text)
                .append(":x=w*0.03:y=h*0.90:text='")
                .append(take.caption().replace(":", "\\:").replace(",", "\\,"))
                .append("  frame %{frame_num}'");
        if (!take.timecode().isEmpty()) {
            filters.append(",")
                    .append(text)
                    .append(":x=w*0.72:y=h*0.90:timecode='")
                    .append(take.timecode().replace(":", "\\:").replace(";", "\\;"))
                    .append("':rate=")
                    .append(take.rate());
        }
        if (take.scene() == Scene.DESK) {
            for (int row = 0; row < 5; row++) {
                filters.append(",drawtext=fontfile='")
                        .append(escaped(font.toString()))
                        .append("':fontcolor=0x9fd0c8:fontsize=22:x=1320:y=")
                        .append(620 + row * 20)
                        .append(":text='axis ")
                        .append(row % 2 == 0 ? "RA " : "DEC")
                        .append(" err %{eif\\:17+13*sin(t*3+")
                        .append(row)
                        .append(")\\:d\\:3} mas'");
            }
        }
        filters.append(",trim=duration=").append(length).append(",format=").append(take.pixels());
        filters.append(",setparams=color_primaries=bt709:color_trc=bt709:colorspace=bt709:range=tv");
        take.filters().forEach(more -> filters.append(',').append(more));
        return filters.append("[out]").toString();
    }

    private static String strip() {
        var filters = new StringBuilder("drawbox=x=iw*" + STRIP_LEFT + ":y=ih*" + STRIP_TOP + ":w=iw*" + FIELD_WIDTH
                + "*" + STRIP_FIELDS + ":h=ih*" + FIELD_HEIGHT + ":color=black:t=fill");
        for (int bit = 0; bit < STRIP_FIELDS; bit++) {
            filters.append(",drawbox=x=iw*(")
                    .append(STRIP_LEFT + "+" + FIELD_WIDTH + "*" + bit + "):y=ih*")
                    .append(STRIP_TOP + ":w=iw*" + FIELD_WIDTH + ":h=ih*")
                    .append(FIELD_HEIGHT + ":color=white:t=fill:enable='mod(floor(n/" + (1 << bit) + ")\\,2)'");
        }
        return filters.toString();
    }

    private static String overlayFormat(String pixels) {
        return switch (pixels) {
            case "yuv420p10le" -> "yuv420p10";
            case "yuv422p10le" -> "yuv422p10";
            case "yuv422p" -> "yuv422";
            default -> "yuv420";
        };
    }

    private static double rate(String text) {
        String[] parts = text.split("/", 2);
        return parts.length == 1
                ? Double.parseDouble(text)
                : Double.parseDouble(parts[0]) / Double.parseDouble(parts[1]);
    }

    private static String escaped(String path) {
        return path.replace("\\", "/")
                .replace("'", "'\\\\\\''")
                .replace(":", "\\:")
                .replace("%", "\\%");
    }

    private static String sound(Take take) {
        var channels = new StringBuilder();
        for (int channel = 0; channel < take.sound(); channel++) {
            channels.append(channel == 0 ? "" : "|")
                    .append("0.08*sin(2*PI*")
                    .append(196 + 65 * channel)
                    .append("*t)*(0.6+0.4*sin(t*")
                    .append(2 + channel)
                    .append("))");
        }
        String length = String.format(Locale.ROOT, "%.6f", take.frames() / rate(take.rate()));
        return "aevalsrc='" + channels + "':s=48000:d=" + length;
    }

    private static List<String> soundEncoder(Take take) {
        if (take.path().endsWith(".mp4") || take.path().endsWith(".MP4")) {
            return List.of("-c:a", "aac", "-b:a", "128k");
        }
        return List.of("-c:a", take.path().contains("Studio") ? "pcm_s24le" : "pcm_s16le");
    }

    /// Numbered stills of the dome over a night: no rate, no timecode, no sound.
    private Void timeLapse(Path paint, Path font) throws IOException, InterruptedException {
        tell.accept("painting " + Shoot.TIME_LAPSE);
        Path place = Files.createDirectories(folder.resolve(Shoot.TIME_LAPSE));
        Path background = background(Scene.SKY, 1920, 1280, paint);
        engine.run(List.of(
                "-i",
                "file:" + background,
                "-vf",
                "loop=-1:1:0,setpts=N/25/TB,fps=25,crop=1920:1280:x='(iw-ow)*n/" + STILLS + "':y='(ih-oh)*0.5',"
                        + strip() + ","
                        + "drawtext=fontfile='" + escaped(font.toString())
                        + "':fontcolor=white:fontsize=26:x=60:y=h-70:text='dome camera  still"
                        + " %{frame_num}',format=rgb24",
                "-frames:v",
                Integer.toString(STILLS),
                "-c:v",
                "png",
                "-fflags",
                "+bitexact",
                "-start_number",
                "1",
                "file:" + place.toString().replace("%", "%%") + "/DOME_%04d.png"));
        return null;
    }

    private static synchronized Path background(Scene scene, int width, int height, Path paint) throws IOException {
        Path file = paint.resolve(scene + "_" + width + "x" + height + ".png");
        if (!Files.exists(file)) {
            write(scene.picture(width * 11 / 10 / 2 * 2, height * 11 / 10 / 2 * 2), file);
        }
        return file;
    }

    /// A moth that flies through the pictures.
    private static BufferedImage sprite() {
        var image = new BufferedImage(64, 48, BufferedImage.TYPE_INT_ARGB);
        var g = image.createGraphics();
        g.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
        g.setColor(new Color(232, 214, 170, 230));
        g.fillOval(4, 6, 28, 24);
        g.fillOval(32, 6, 28, 24);
        g.setColor(new Color(90, 70, 50));
        g.fillOval(28, 4, 8, 38);
        g.dispose();
        return image;
    }

    private static void write(BufferedImage image, Path file) throws IOException {
        if (!ImageIO.write(image, "png", file.toFile())) {
            throw new IOException("no PNG writer");
        }
    }

    /// The small files that the W21 camera writes into a folder beside its main clips.
    private void companions() throws IOException, InterruptedException {
        Path main = folder.resolve(Shoot.CARD_W21).resolve("MAIN");
        Path small = Files.createDirectories(folder.resolve(Shoot.CARD_W21).resolve("SUB"));
        try (var files = Files.list(main)) {
            for (Path file : files.sorted().toList()) {
                String name = String.valueOf(file.getFileName()).replace(".MP4", "_S.MP4");
                tell.accept("companion " + name);
                engine.run(List.of(
                        "-i",
                        "file:" + file,
                        "-map",
                        "0:v:0",
                        "-map",
                        "0:a",
                        "-vf",
                        "scale=960:540",
                        "-c:v",
                        "libx264",
                        "-preset",
                        "veryfast",
                        "-crf",
                        "28",
                        "-g",
                        "12",
                        "-bf",
                        "0",
                        "-c:a",
                        "copy",
                        "-write_tmcd",
                        "1",
                        "-fflags",
                        "+bitexact",
                        "-flags:v",
                        "+bitexact",
                        "file:" + small.resolve(name)));
            }
        }
    }

    /// What goes wrong on cards: a cut-off file, an empty one, a text file with a clip's name, notes, and a
    /// clip that was copied to a second volume.
    private void oddities() throws IOException {
        Path clips = folder.resolve(Shoot.CARD_N01).resolve("CLIPS");
        byte[] whole = Files.readAllBytes(clips.resolve("N01_C004.MOV"));
        Files.write(clips.resolve("N01_C009.MOV"), Arrays.copyOf(whole, whole.length * 2 / 5));
        Files.writeString(
                folder.resolve(Shoot.CARD_N01).resolve("N01.XML"), "<card name=\"N01\"><clips>3</clips></card>\n");
        Path main = folder.resolve(Shoot.CARD_W21).resolve("MAIN");
        Files.write(main.resolve("W210036.MP4"), new byte[0], StandardOpenOption.CREATE);
        Files.writeString(
                folder.resolve(Shoot.HIGH_SPEED).resolve("H100_009.MOV"),
                "Shot list: drops on glass, dome turns. Take 9 was not recorded.\n");
        Path shuttle = Files.createDirectories(folder.resolve(Shoot.SHUTTLE));
        Files.copy(main.resolve("W210031.MP4"), shuttle.resolve("W210031.MP4"), StandardCopyOption.REPLACE_EXISTING);
    }
}
