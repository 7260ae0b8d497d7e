package docksort.files;

import docksort.media.Measured;
import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.BooleanSupplier;

/// Measures how fast files are read in order. Past the system's cache where it allows that, so that the volume is
/// measured and not the memory.
public final class ReadSpeed {
    private static final int BLOCK = 4 * 1024 * 1024;
    private static final int ALIGNMENT = 4_096;
    private static final long MOST_BYTES = 96L * 1024 * 1024; // in one round

    private static final Set<OpenOption> UNCACHED = uncached();

    private ReadSpeed() {}

    /// Reading, past the cache where this Java has the option for it; it stands in a package of the JDK that need
    /// not be there.
    private static Set<OpenOption> uncached() {
        try {
            for (Object option :
                    Class.forName("com.sun.nio.file.ExtendedOpenOption").getEnumConstants()) {
                if (option instanceof OpenOption direct && option.toString().equals("DIRECT")) {
                    return Set.of(StandardOpenOption.READ, direct);
                }
            }
        } catch (ClassNotFoundException e) {
            // Then the cache is read too, and the figure is the higher for it.
        }
        return Set.of(StandardOpenOption.READ);
    }

    /// @param files what to read, at most 96 MiB of it in each round
    /// @param rounds how often
    /// @return bytes a second; empty when it was stopped or there is nothing to read
    /// @throws StorageFailed when a file cannot be read
    public static Optional<Measured> of(List<Path> files, int rounds, BooleanSupplier stop) {
        var speeds = new double[rounds];
        ByteBuffer block = ByteBuffer.allocateDirect(BLOCK + ALIGNMENT).alignedSlice(ALIGNMENT);
        block.limit(BLOCK);
        for (int round = 0; round < rounds; round++) {
            long started = System.nanoTime();
            long bytes = 0;
            for (Path file : files) {
                if (bytes >= MOST_BYTES) {
                    break;
                }
                bytes += read(file, block.slice(0, BLOCK), MOST_BYTES - bytes, stop);
                if (stop.getAsBoolean()) {
                    return Optional.empty();
                }
            }
            if (bytes == 0) {
                return Optional.empty();
            }
            speeds[round] = bytes * 1e9 / Math.max(1, System.nanoTime() - started);
        }
        return Optional.of(Measured.of(speeds));
    }

    private static long read(Path file, ByteBuffer block, long most, BooleanSupplier stop) {
        try {
            try (FileChannel channel = FileChannel.open(file, UNCACHED)) {
                return read(channel, block, most, stop);
            } catch (IOException | UnsupportedOperationException e) {
                try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
                    return read(channel, block, most, stop);
                }
            }
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "Cannot read " + file, Causes.inWords(e), "The file is as it was.", "Check its volume."),
                    e);
        }
    }

    private static long read(FileChannel channel, ByteBuffer block, long most, BooleanSupplier stop)
            throws IOException {
        long bytes = 0;
        while (bytes < most && !stop.getAsBoolean()) {
            block.clear();
            int read = channel.read(block);
            if (read < 0) {
                break;
            }
            bytes += read;
        }
        return bytes;
    }
}
