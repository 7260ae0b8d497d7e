package docksort.files;

import com.dynatrace.hash4j.hashing.HashValue128;
import com.dynatrace.hash4j.hashing.Hashing;
import docksort.media.Fingerprint;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;

/// Fingerprints of files: size and the XXH3 128-bit hash of three windows of 64 KiB, at the head, the
/// middle and the tail. Files that fit in the three windows are hashed whole.
public final class Fingerprinter {
    private static final int WINDOW = 64 * 1024;

    private Fingerprinter() {}

    /// @throws IOException when the file cannot be read
    public static Fingerprint of(Path file) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            long size = channel.size();
            ByteBuffer windows = ByteBuffer.allocate((int) Math.min(size, 3L * WINDOW));
            if (size <= 3L * WINDOW) {
                fill(channel, windows, 0, windows.capacity());
            } else {
                fill(channel, windows, 0, WINDOW);
                fill(channel, windows, size / 2 - WINDOW / 2, WINDOW);
                fill(channel, windows, size - WINDOW, WINDOW);
            }
            return fingerprint(size, windows.array(), windows.position());
        }
    }

    /// One fingerprint for several files that are one clip: their total size, and a hash over the
    /// fingerprints of the first, the middle and the last one and over the number of files.
    public static Fingerprint ofAll(List<Path> files) throws IOException {
        long total = 0;
        for (Path file : files) {
            total += Files.size(file);
        }
        String parts = files.size() + " " + of(files.getFirst()) + " " + of(files.get(files.size() / 2)) + " "
                + of(files.getLast());
        byte[] bytes = parts.getBytes(StandardCharsets.UTF_8);
        return fingerprint(total, bytes, bytes.length);
    }

    private static void fill(FileChannel channel, ByteBuffer into, long from, int length) throws IOException {
        ByteBuffer window = into.slice(into.position(), length);
        long at = from;
        while (window.hasRemaining()) {
            int read = channel.read(window, at);
            if (read < 0) {
                throw new IOException("the file became shorter while it was read");
            }
            at += read;
        }
        into.position(into.position() + length);
    }

    private static Fingerprint fingerprint(long size, byte[] bytes, int length) {
        HashValue128 hash = Hashing.xxh3_128().hashBytesTo128Bits(bytes, 0, length);
        return new Fingerprint(size, hash.getMostSignificantBits(), hash.getLeastSignificantBits());
    }
}
