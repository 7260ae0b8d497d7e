package docksort.engine;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.EOFException;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.util.LinkedHashMap;
import java.util.Map;
import org.bytedeco.ffmpeg.global.avutil;

/// A process of its own that decodes frames for [FramePlayer]: it is asked on its standard input and
/// answers on its standard output until that ends. A file that ends a decoder ends this process and
/// nothing else.
public final class FrameServer {
    private static final int OPEN_FILES = 4;
    private static final int LARGEST_SIDE = 16_384;

    private final Map<String, FrameDecoder> open = new LinkedHashMap<>(8, 0.75f, true);

    private FrameServer() {}

    public static void main(String[] args) throws IOException {
        var in = new DataInputStream(new BufferedInputStream(System.in));
        var out = new DataOutputStream(new BufferedOutputStream(new FileOutputStream(FileDescriptor.out), 1 << 16));
        System.setOut(new PrintStream(new FileOutputStream(FileDescriptor.err), true)); // nothing else speaks there
        avutil.av_log_set_level(avutil.AV_LOG_QUIET);
        var server = new FrameServer();
        try {
            while (true) {
                server.answer(in, out);
                out.flush();
            }
        } catch (EOFException e) {
            System.exit(0); // whoever asked has gone
        }
    }

    private void answer(DataInputStream in, DataOutputStream out) throws IOException {
        String address = in.readUTF();
        boolean counted = in.readBoolean();
        long frame = in.readLong();
        long numerator = in.readLong();
        long denominator = in.readLong();
        long rateNumerator = in.readLong();
        long rateDenominator = in.readLong();
        int[] part = {in.readInt(), in.readInt(), in.readInt(), in.readInt()};
        int width = Math.clamp(in.readInt(), 1, LARGEST_SIDE);
        int height = Math.clamp(in.readInt(), 1, LARGEST_SIDE);
        boolean grey = in.readBoolean();
        try {
            FrameDecoder decoder = decoder(address);
            long begun = System.nanoTime();
            if (counted) {
                decoder.count(frame);
            } else {
                decoder.bring(numerator, denominator, rateNumerator, rateDenominator);
            }
            long decoded = System.nanoTime() - begun;
            byte[] bytes = decoder.picture(part, width, height, grey);
            out.writeBoolean(true);
            out.writeInt(width);
            out.writeInt(height);
            out.writeInt(decoder.width());
            out.writeInt(decoder.height());
            out.writeLong(decoded);
            out.writeInt(bytes.length);
            out.write(bytes);
        } catch (IOException e) {
            close(address);
            out.writeBoolean(false);
            out.writeUTF(String.valueOf(e.getMessage()));
        }
    }

    private FrameDecoder decoder(String address) throws IOException {
        FrameDecoder known = open.get(address);
        if (known != null) {
            return known;
        }
        if (open.size() >= OPEN_FILES) {
            close(open.keySet().iterator().next());
        }
        FrameDecoder opened = FrameDecoder.open(address);
        open.put(address, opened);
        return opened;
    }

    private void close(String address) {
        FrameDecoder gone = open.remove(address);
        if (gone != null) {
            gone.close();
        }
    }
}
