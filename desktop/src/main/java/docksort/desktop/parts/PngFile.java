package docksort.desktop.parts;

import docksort.files.Documents;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.zip.CRC32;
import java.util.zip.DeflaterOutputStream;
import javafx.scene.image.PixelReader;
import javafx.scene.image.WritableImage;

/// Writes a picture of the window as PNG (ISO/IEC 15948: signature, IHDR, IDAT, IEND; 8-bit RGB, no
/// filter). The toolkits that ship an encoder need a display.
public final class PngFile {
    private static final byte[] SIGNATURE = {(byte) 0x89, 'P', 'N', 'G', '\r', '\n', 0x1A, '\n'};

    private PngFile() {}

    public static void write(WritableImage image, Path file) {
        int width = (int) image.getWidth();
        int height = (int) image.getHeight();
        var out = new ByteArrayOutputStream();
        try {
            out.write(SIGNATURE);
            var header = new ByteArrayOutputStream();
            var fields = new DataOutputStream(header);
            fields.writeInt(width);
            fields.writeInt(height);
            fields.write(new byte[] {8, 2, 0, 0, 0});
            chunk(out, "IHDR", header.toByteArray());
            chunk(out, "IDAT", pixels(image.getPixelReader(), width, height));
            chunk(out, "IEND", new byte[0]);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        Documents.replace(file, out.toByteArray());
    }

    private static byte[] pixels(PixelReader reader, int width, int height) throws IOException {
        var bytes = new ByteArrayOutputStream();
        try (var deflated = new DeflaterOutputStream(bytes)) {
            byte[] row = new byte[1 + width * 3];
            for (int y = 0; y < height; y++) {
                for (int x = 0; x < width; x++) {
                    int argb = reader.getArgb(x, y);
                    row[1 + x * 3] = (byte) (argb >> 16);
                    row[2 + x * 3] = (byte) (argb >> 8);
                    row[3 + x * 3] = (byte) argb;
                }
                deflated.write(row);
            }
        }
        return bytes.toByteArray();
    }

    private static void chunk(ByteArrayOutputStream out, String type, byte[] data) throws IOException {
        byte[] name = type.getBytes(StandardCharsets.US_ASCII);
        var crc = new CRC32();
        crc.update(name);
        crc.update(data);
        var stream = new DataOutputStream(out);
        stream.writeInt(data.length);
        stream.write(name);
        stream.write(data);
        stream.writeInt((int) crc.getValue());
    }
}
