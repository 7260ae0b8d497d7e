package docksort;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;

/// What recorders do to their files.
public final class Recorder {
    private Recorder() {}

    /// Makes a MOV or MP4 as large as a recorder makes a part of a recording, without writing that much: a box
    /// of nothing at its end.
    public static void fillUp(Path file, long bytes) throws IOException {
        try (var out = new RandomAccessFile(file.toFile(), "rw")) {
            long at = out.length();
            out.seek(at);
            out.writeInt(1);
            out.write("free".getBytes(StandardCharsets.ISO_8859_1));
            out.writeLong(bytes - at);
            out.setLength(bytes);
        }
    }
}
