package docksort;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Map;
import java.util.TreeMap;

/// Raw stills for tests, written by hand from what is published: TIFF 6.0 (header, directory), TIFF/EP
/// (tags 33421 and 33422 of the colour filter), DNG 1.4 (DNGVersion 50706) and CinemaDNG 1.1 (51043,
/// 51044, 51081).
public final class RawStills {
    private static final int BYTE = 1;
    private static final int ASCII = 2;
    private static final int SHORT = 3;
    private static final int LONG = 4;
    private static final int SRATIONAL = 10;

    private final int width;
    private final int height;
    private final Map<Integer, byte[]> cinema = new TreeMap<>();

    public RawStills(int width, int height) {
        this.width = width;
        this.height = height;
    }

    private static final class Value {
        private final int type;
        private final byte[] bytes;

        Value(int type, byte... bytes) {
            this.type = type;
            this.bytes = bytes;
        }

        int count() {
            int size = switch (type) {
                case SHORT -> 2;
                case LONG -> 4;
                case SRATIONAL -> 8;
                default -> 1;
            };
            return bytes.length / size;
        }
    }

    /// States rate, timecode and reel. The code is `FF SS MM HH` in four bits a figure (SMPTE ST 331).
    public RawStills stating(int rate, int of, byte[] code, String reel) {
        cinema.put(51_043, code);
        cinema.put(51_044, little(4, rate, of));
        cinema.put(51_081, ascii(reel));
        return this;
    }

    /// Numbers of two or four bytes, the least first.
    private static byte[] little(int size, int... numbers) {
        byte[] bytes = new byte[size * numbers.length];
        for (int i = 0; i < bytes.length; i++) {
            bytes[i] = (byte) (numbers[i / size] >> (8 * (i % size)));
        }
        return bytes;
    }

    private static byte[] ascii(String text) {
        return (text + "\0").getBytes(StandardCharsets.US_ASCII);
    }

    private static Value shorts(int... values) {
        return new Value(SHORT, little(2, values));
    }

    private static Value longs(int value) {
        return new Value(LONG, little(4, value));
    }

    /// One picture of 16-bit samples behind a filter of red, green, green and blue; its directory lies
    /// below that of a thumbnail, as cameras write it.
    public Path write(Path file, int number) throws IOException {
        byte[] thumbnail = new byte[16 * 8 * 3];
        byte[] pixels = pixels(number);
        int raw = 8 + thumbnail.length;
        var main = new TreeMap<Integer, Value>();
        main.put(254, longs(0));
        main.put(256, longs(width));
        main.put(257, longs(height));
        main.put(258, shorts(16));
        main.put(259, shorts(1));
        main.put(262, shorts(32_803));
        main.put(273, longs(raw));
        main.put(277, shorts(1));
        main.put(278, longs(height));
        main.put(279, longs(pixels.length));
        main.put(33_421, shorts(2, 2));
        main.put(33_422, new Value(BYTE, new byte[] {0, 1, 1, 2}));
        int mainAt = raw + pixels.length;
        byte[] below = directory(main, mainAt);
        int firstAt = mainAt + below.length;
        var first = new TreeMap<Integer, Value>();
        first.put(254, longs(1));
        first.put(256, longs(16));
        first.put(257, longs(8));
        first.put(258, shorts(8, 8, 8));
        first.put(259, shorts(1));
        first.put(262, shorts(2));
        first.put(272, new Value(ASCII, ascii("Model Seven")));
        first.put(273, longs(8));
        first.put(277, shorts(3));
        first.put(278, longs(8));
        first.put(279, longs(thumbnail.length));
        first.put(306, new Value(ASCII, ascii("2026:03:01 21:00:00")));
        first.put(330, longs(mainAt));
        first.put(50_706, new Value(BYTE, new byte[] {1, 4, 0, 0}));
        cinema.forEach((tag, bytes) ->
                first.put(tag, new Value(tag == 51_044 ? SRATIONAL : tag == 51_081 ? ASCII : BYTE, bytes)));
        var out = new ByteArrayOutputStream();
        out.writeBytes(new byte[] {'I', 'I'});
        out.writeBytes(little(2, 42));
        out.writeBytes(little(4, firstAt));
        out.writeBytes(thumbnail);
        out.writeBytes(pixels);
        out.writeBytes(below);
        out.writeBytes(directory(first, firstAt));
        return Files.write(file, out.toByteArray());
    }

    /// A bar that wanders to the right, by which pictures are told apart.
    private byte[] pixels(int number) {
        int[] samples = new int[width * height];
        for (int y = 0; y < height; y++) {
            for (int x = 0; x < width; x++) {
                boolean bar = Math.floorMod(x - number * 4, width) < width / 4;
                samples[y * width + x] = bar ? 60_000 : 6_000 + 100 * y;
            }
        }
        return little(2, samples);
    }

    private static byte[] directory(Map<Integer, Value> values, int at) {
        int size = 2 + values.size() * 12 + 4;
        var entries = new ByteArrayOutputStream();
        var behind = new ByteArrayOutputStream();
        entries.writeBytes(little(2, values.size()));
        values.forEach((tag, value) -> {
            entries.writeBytes(little(2, tag, value.type));
            entries.writeBytes(little(4, value.count()));
            if (value.bytes.length <= 4) {
                entries.writeBytes(Arrays.copyOf(value.bytes, 4));
            } else {
                entries.writeBytes(little(4, at + size + behind.size()));
                behind.writeBytes(Arrays.copyOf(value.bytes, value.bytes.length + value.bytes.length % 2));
            }
        });
        entries.writeBytes(little(4, 0));
        entries.writeBytes(behind.toByteArray());
        return entries.toByteArray();
    }
}
