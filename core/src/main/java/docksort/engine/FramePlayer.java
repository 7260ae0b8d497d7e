package docksort.engine;

import docksort.engine.ChildProcesses.Conversation;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.Frames;
import docksort.media.Rational;
import docksort.problem.CoreException.ToolFailed;
import docksort.problem.Problem;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.File;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;

/// Shows single frames of originals and copies, fast enough to step and to jump. Decoding happens in a
/// process of its own: a file that ends it gives a [ToolFailed], and the next frame starts another. One
/// frame at a time; safe for use by several threads.
public final class FramePlayer implements AutoCloseable {
    private static final Duration LONGEST = Duration.ofSeconds(30);

    private final MediaEngine engine;
    private Optional<Conversation> server = Optional.empty();

    /// @param engine stays the caller's to close
    public FramePlayer(MediaEngine engine) {
        this.engine = engine;
    }

    /// What frames are read from.
    ///
    /// @param file the media file, the first of several, or one still
    /// @param address what the decoder opens
    /// @param frames how its frames are reached
    public record Footage(Path file, String address, Frames frames, FrameRate rate) {
        public Footage(Path file, Frames frames, FrameRate rate) {
            this(file, file.toAbsolutePath().toString(), frames, rate);
        }

        /// @param frame counted from the recording's first
        public static Footage of(ClipSource source, Frames frames, FrameRate rate, long frame) {
            return switch (source) {
                case ClipSource.SingleFile single -> new Footage(single.head(), frames, rate);
                case ClipSource.NumberedStills stills -> {
                    List<Path> files = stills.files();
                    int index = Math.clamp(frame, 0, files.size() - 1);
                    var one = new Frames(1, Frames.Origin.COUNTED, Optional.empty(), Frames.Reach.COUNT);
                    yield new Footage(files.get(index), one, rate);
                }
                case ClipSource.Spanned spanned ->
                    new Footage(spanned.head(), PartsList.address(spanned), frames, rate);
            };
        }
    }

    /// Which part of a frame is shown in which size.
    ///
    /// @param partWidth 0 for all of the frame
    /// @param grey one byte of luma a pixel, brought to full range, else blue, green, red and alpha
    public record View(int left, int top, int partWidth, int partHeight, int width, int height, boolean grey) {
        public static View whole(int width, int height) {
            return new View(0, 0, 0, 0, width, height, false);
        }

        public static View luma(int width, int height) {
            return new View(0, 0, 0, 0, width, height, true);
        }
    }

    /// A frame as it was asked for.
    ///
    /// @param frameWidth raster of the frame itself, turned as a player turns it
    /// @param decoding how long it took to reach and decode it, without conversion
    /// @param pixels from the top left, line by line
    public record Shown(int width, int height, int frameWidth, int frameHeight, ByteBuffer pixels, Duration decoding) {
        public Shown {
            pixels = pixels.asReadOnlyBuffer();
        }
    }

    /// @param frame counted from the first
    /// @throws ToolFailed when the file cannot be decoded there, or the decoder ended over it
    public synchronized Shown show(Footage footage, long frame, View view) throws InterruptedException {
        boolean counted = switch (footage.frames.reach()) {
            case COUNT, FIRST -> true;
            case JUMP, NEARLY -> false;
        };
        long number = Math.clamp(frame, 0, Math.max(0, footage.frames.count() - 1));
        Rational at = footage.frames.firstAt().orElse(Rational.ZERO).plus(footage.rate.secondsOf(number));
        Conversation talk = null;
        try {
            talk = server.isPresent() ? server.get() : start();
            var out = new DataOutputStream(talk.question());
            out.writeUTF(footage.address);
            out.writeBoolean(counted);
            out.writeLong(number);
            out.writeLong(at.numerator());
            out.writeLong(at.denominator());
            out.writeLong(footage.rate.numerator());
            out.writeLong(footage.rate.denominator());
            for (int each : new int[] {view.left, view.top, view.partWidth, view.partHeight, view.width, view.height}) {
                out.writeInt(each);
            }
            out.writeBoolean(view.grey);
            out.flush();
            var in = new DataInputStream(talk.answer());
            return talk.within(LONGEST, () -> read(footage.file, in));
        } catch (IOException e) {
            List<String> last = talk == null ? List.of() : talk.lastLines();
            close();
            throw new ToolFailed(new Problem(
                    "The decoder ended over " + footage.file,
                    last.isEmpty() ? String.valueOf(e.getMessage()) : last.getLast(),
                    "The file is only read; everything else goes on.",
                    "Look at another frame or clip; the file may be damaged at this place."));
        }
    }

    private static Shown read(Path file, DataInputStream in) throws IOException {
        if (!in.readBoolean()) {
            throw new ToolFailed(new Problem(
                    "Cannot show " + file,
                    in.readUTF(),
                    "The file is only read.",
                    "Look at another frame or clip; the file may be damaged."));
        }
        int width = in.readInt();
        int height = in.readInt();
        int frameWidth = in.readInt();
        int frameHeight = in.readInt();
        Duration decoding = Duration.ofNanos(in.readLong());
        byte[] pixels = in.readNBytes(in.readInt());
        if (pixels.length < (long) width * height) {
            throw new IOException("its answer was broken off");
        }
        return new Shown(width, height, frameWidth, frameHeight, ByteBuffer.wrap(pixels), decoding);
    }

    private Conversation start() throws IOException, InterruptedException {
        Conversation started = engine.converse(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx1g",
                "-XX:+UseSerialGC",
                "-XX:-UsePerfData",
                "-XX:-CreateCoredumpOnCrash",
                "-XX:ErrorFile=" + (File.separatorChar == '\\' ? "NUL" : "/dev/null"),
                "--enable-native-access=ALL-UNNAMED",
                "-Dorg.bytedeco.javacpp.logger.debug=false",
                "-cp",
                System.getProperty("java.class.path"),
                FrameServer.class.getName()));
        server = Optional.of(started);
        return started;
    }

    /// Ends the decoder. It starts again with the next frame.
    @Override
    public synchronized void close() {
        server.ifPresent(Conversation::close);
        server = Optional.empty();
    }
}
