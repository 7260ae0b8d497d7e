package docksort.look;

import docksort.files.Documents;
import docksort.media.KeptFile;
import docksort.media.KeptImage;
import docksort.media.Raster;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.Arrays;
import javax.imageio.ImageIO;
import org.jspecify.annotations.Nullable;

/// An image to be laid over pictures: a PNG file (ISO/IEC 15948), so that it may be clear in places.
public final class PngImage {
    private static final int MOST_BYTES = 8 << 20;
    private static final int LONGEST_SIDE = 4_096;
    private static final byte[] BEGINNING = {(byte) 0x89, 'P', 'N', 'G', '\r', '\n', 0x1A, '\n'};
    private static final int WIDTH_AT = 16;

    private final byte[] bytes;
    private final Raster size;

    private PngImage(byte[] bytes, Raster size) {
        this.bytes = bytes;
        this.size = size;
    }

    /// Whether a file begins as such images do.
    public static boolean isOne(byte[] bytes) {
        return bytes.length > WIDTH_AT + 8 && Arrays.equals(bytes, 0, BEGINNING.length, BEGINNING, 0, BEGINNING.length);
    }

    /// @throws InputRefused when the file is no such image
    public static PngImage read(Path file) {
        return parse(Documents.read(file), file.toString());
    }

    /// @param name where the bytes are from, for messages
    /// @throws InputRefused see [#read]
    public static PngImage parse(byte[] bytes, String name) {
        if (bytes.length > MOST_BYTES) {
            throw refused(name, "it has more than 8 MB");
        }
        if (!isOne(bytes)) {
            throw refused(name, "it does not begin as a PNG file");
        }
        long width = Integer.toUnsignedLong(ByteBuffer.wrap(bytes).getInt(WIDTH_AT));
        long height = Integer.toUnsignedLong(ByteBuffer.wrap(bytes).getInt(WIDTH_AT + 4));
        if (width < 1 || height < 1 || width > LONGEST_SIDE || height > LONGEST_SIDE) {
            throw refused(name, "it is " + width + "×" + height + "; sides have 1 to " + LONGEST_SIDE + " samples");
        }
        return new PngImage(bytes, size(bytes)).decoding(name);
    }

    /// In samples.
    ///
    /// @param bytes of an image that was parsed before
    public static Raster size(byte[] bytes) {
        ByteBuffer header = ByteBuffer.wrap(bytes);
        return new Raster(header.getInt(WIDTH_AT), header.getInt(WIDTH_AT + 4));
    }

    private PngImage decoding(String name) {
        try {
            decoded(bytes);
            return this;
        } catch (IOException | RuntimeException e) {
            throw refused(name, "it does not decode: " + e.getMessage());
        }
    }

    private static InputRefused refused(String name, String why) {
        return new InputRefused(new Problem(
                name + " cannot be laid over pictures",
                why,
                "The project is as it was.",
                "Write it anew as PNG from the program that it came from."));
    }

    /// @throws IOException when it is none
    public static BufferedImage decoded(byte[] bytes) throws IOException {
        @Nullable BufferedImage image = ImageIO.read(new ByteArrayInputStream(bytes));
        if (image == null) {
            throw new IOException("it is no image");
        }
        return image;
    }

    public byte[] bytes() {
        return bytes.clone();
    }

    /// What recipes know it by.
    ///
    /// @param name for people
    public KeptImage named(String name) {
        return new KeptImage(new KeptFile(LookTable.digest(bytes), name), size);
    }
}
