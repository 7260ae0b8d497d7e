package docksort.files;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HexFormat;
import java.util.Optional;
import java.util.function.IntPredicate;
import java.util.stream.Stream;
import net.jpountz.xxhash.StreamingXXHash64;
import net.jpountz.xxhash.XXHashFactory;

/// Reads a file back from its disk rather than from what the system still has of it in memory. Where the
/// system cannot (a file system in memory, some network ones), it is read as usual.
final class DiskStream {
    private static final int PIECE = 4 << 20;
    private static final int LARGEST_SECTOR = 4_096;

    private DiskStream() {}

    /// XXH64 of a file that was just written.
    static String sum(Path file) throws IOException {
        return sum(file, _ -> true).orElseThrow();
    }

    /// XXH64 of a file. What goes wrong while it is read is told, and never made up for from memory: only a file that
    /// cannot be opened so is read as usual.
    ///
    /// @param goesOn hears how many bytes were read after every piece, and says whether to go on
    /// @return empty when it is not to go on
    static Optional<String> sum(Path file, IntPredicate goesOn) throws IOException {
        Optional<FileChannel> past = open(file);
        if (past.isEmpty()) {
            return asUsual(file, goesOn);
        }
        try (FileChannel channel = past.get();
                StreamingXXHash64 hash = XXHashFactory.fastestJavaInstance().newStreamingHash64(0)) {
            channel.force(false); // all of it at once: reading would have it written piece by piece before each piece
            int block = (int) Math.max(LARGEST_SECTOR, Files.getFileStore(file).getBlockSize());
            ByteBuffer buffer = ByteBuffer.allocateDirect(PIECE + block).alignedSlice(block);
            buffer.limit(PIECE);
            byte[] bytes = new byte[PIECE];
            for (int count = channel.read(buffer); count > 0; count = channel.read(buffer)) {
                buffer.flip().get(bytes, 0, count);
                hash.update(bytes, 0, count);
                buffer.clear().limit(PIECE);
                if (!goesOn.test(count)) {
                    return Optional.empty();
                }
                if (count < PIECE) {
                    break; // its end; what follows would not lie on a block
                }
            }
            return Optional.of(HexFormat.of().toHexDigits(hash.getValue()));
        }
    }

    private static Optional<String> asUsual(Path file, IntPredicate goesOn) throws IOException {
        try (InputStream in = Files.newInputStream(file);
                StreamingXXHash64 hash = XXHashFactory.fastestJavaInstance().newStreamingHash64(0)) {
            byte[] bytes = new byte[PIECE];
            for (int count = in.read(bytes); count >= 0; count = in.read(bytes)) {
                hash.update(bytes, 0, count);
                if (!goesOn.test(count)) {
                    return Optional.empty();
                }
            }
            return Optional.of(HexFormat.of().toHexDigits(hash.getValue()));
        }
    }

    /// @return empty where the system cannot open it so
    private static Optional<FileChannel> open(Path file) {
        Optional<OpenOption> direct = direct();
        try {
            return direct.isPresent()
                    ? Optional.of(FileChannel.open(file, StandardOpenOption.READ, direct.get()))
                    : Optional.empty();
        } catch (UnsupportedOperationException | IOException e) {
            return Optional.empty();
        }
    }

    /// The JDK's own option for it, which is no part of Java and is therefore looked up by its name.
    private static Optional<OpenOption> direct() {
        try {
            Object[] options =
                    Class.forName("com.sun.nio.file.ExtendedOpenOption").getEnumConstants();
            return Stream.of(options)
                    .filter(option -> option.toString().equals("DIRECT"))
                    .map(OpenOption.class::cast)
                    .findFirst();
        } catch (ClassNotFoundException e) {
            return Optional.empty();
        }
    }
}
