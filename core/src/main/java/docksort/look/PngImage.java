package docksort.look;

import docksort.files.Documents;
import docksort.media.KeptFile;
import docksort.media.KeptImage;
import docksort.media.Raster;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Optional;
import java.util.zip.CRC32;

/// An image to be laid over pictures: a PNG file, so that it may be clear in places. Its chunks and their checksums
/// are looked at (ISO/IEC 15948:2004, 5.3 and 11.2.2): a file that was cut off or damaged is told when it comes in.
public final class PngImage {
    private static final int MOST_BYTES = 8 << 20;
    private static final int LONGEST_SIDE = 4_096;
    private static final byte[] BEGINNING = {(byte) 0x89, 'P', 'N', 'G', '\r', '\n', 0x1A, '\n'};
    private static final int WIDTH_AT = 16;
    private static final int HEIGHT_AT = 20;
    private static final int HEADER = 0x49484452; // "IHDR"
    private static final int END = 0x49454E44; // "IEND"
    private static final int AROUND = 12; // bytes of a chunk beside its data: length, type, checksum

    private final byte[] bytes;

    private PngImage(byte[] bytes) {
        this.bytes = bytes;
    }

    /// Whether a file begins as such images do.
    public static boolean isOne(byte[] bytes) {
        return bytes.length >= BEGINNING.length
                && Arrays.equals(bytes, 0, BEGINNING.length, BEGINNING, 0, BEGINNING.length);
    }

    /// @throws InputRefused when the file is no such image
    public static PngImage read(Path file) {
        return parse(Documents.read(file), file.toString());
    }

    /// @param name where the bytes are from, for messages
    /// @throws InputRefused see [#read]
    public static PngImage parse(byte[] bytes, String name) {
        Optional<String> fault = fault(bytes);
        if (fault.isPresent()) {
            throw new InputRefused(new Problem(
                    name + " cannot be laid over pictures",
                    fault.get(),
                    "The project is as it was.",
                    "Write it anew as PNG from the program that it came from."));
        }
        return new PngImage(bytes);
    }

    private static Optional<String> fault(byte[] bytes) {
        if (bytes.length > MOST_BYTES) {
            return Optional.of("it has more than 8 MB");
        }
        if (!isOne(bytes)) {
            return Optional.of("it does not begin as a PNG file");
        }
        Optional<String> damage = damage(bytes);
        if (damage.isPresent()) {
            return damage;
        }
        long width = side(bytes, WIDTH_AT);
        long height = side(bytes, HEIGHT_AT);
        boolean fits = width >= 1 && height >= 1 && width <= LONGEST_SIDE && height <= LONGEST_SIDE;
        return fits
                ? Optional.empty()
                : Optional.of("it is " + width + "×" + height + "; sides have 1 to " + LONGEST_SIDE + " samples");
    }

    private static long side(byte[] bytes, int at) {
        return Integer.toUnsignedLong(ByteBuffer.wrap(bytes).getInt(at));
    }

    private static Optional<String> damage(byte[] bytes) {
        ByteBuffer all = ByteBuffer.wrap(bytes).position(BEGINNING.length);
        boolean first = true;
        while (all.remaining() >= AROUND) {
            int at = all.position();
            long length = side(bytes, at);
            int type = all.getInt(at + 4);
            if (length > all.remaining() - AROUND) {
                break;
            }
            var sum = new CRC32();
            sum.update(bytes, at + 4, (int) length + 4);
            if ((int) sum.getValue() != all.getInt(at + 8 + (int) length)) {
                return Optional.of("it is damaged at byte " + at);
            }
            if (first && (type != HEADER || length < HEIGHT_AT - WIDTH_AT + 4)) {
                return Optional.of("it has no header");
            }
            if (type == END) {
                return Optional.empty();
            }
            first = false;
            all.position(at + AROUND + (int) length);
        }
        return Optional.of("its end is missing");
    }

    /// In samples.
    ///
    /// @param bytes of an image that was parsed before
    public static Raster size(byte[] bytes) {
        return new Raster((int) side(bytes, WIDTH_AT), (int) side(bytes, HEIGHT_AT));
    }

    public byte[] bytes() {
        return bytes.clone();
    }

    /// What recipes know it by.
    ///
    /// @param name for people
    public KeptImage named(String name) {
        return new KeptImage(new KeptFile(LookTable.digest(bytes), name), size(bytes));
    }
}
