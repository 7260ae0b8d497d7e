package docksort.engine;

import docksort.files.Documents;
import docksort.look.LookTable;
import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.media.KeptFile;
import docksort.media.KeptFile.Kind;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import org.bytedeco.javacpp.Loader;

/// Lookup tables and images where the engine can read them: each under its digest in a folder of this machine, for
/// all projects.
public final class KeptFiles {
    private KeptFiles() {}

    private static final int LEVELS = 65_536;

    /// Where a file is, or would be.
    static Path of(Kind kind, KeptFile file) {
        return switch (kind) {
            case TABLE -> inCache("look-" + file.digest() + ".cube");
            case IMAGE -> inCache("image-" + file.digest() + ".png");
        };
    }

    private static Path inCache(String name) {
        try {
            return Loader.getCacheDir().toPath().resolve("dock-sort-" + name);
        } catch (IOException e) {
            throw new UncheckedIOException("there is no folder to unpack into", e);
        }
    }

    /// A one-dimensional table of what a decision makes of red, green and blue before their saturation.
    static Path of(ColourDecision values) {
        var levels = new ColourDecision(values.slope(), values.offset(), values.power(), /* saturation= */ 1);
        Path file = inCache(
                "decision-" + LookTable.digest((levels.mark() + LEVELS).getBytes(StandardCharsets.US_ASCII)) + ".cube");
        if (Files.isRegularFile(file)) {
            return file;
        }
        var text = new StringBuilder("LUT_1D_SIZE " + LEVELS + "\n");
        for (int i = 0; i < LEVELS; i++) {
            double level = i / (LEVELS - 1.0);
            Channels out = levels.apply(new Channels(level, level, level));
            text.append((float) out.red())
                    .append(' ')
                    .append((float) out.green())
                    .append(' ');
            text.append((float) out.blue()).append('\n');
        }
        Documents.replace(file, text.toString().getBytes(StandardCharsets.US_ASCII));
        return file;
    }

    /// What is there of a file, empty for nothing or for something else.
    public static Optional<byte[]> content(Kind kind, KeptFile wanted) {
        Path file = of(kind, wanted);
        return Files.isRegularFile(file)
                ? Optional.of(Documents.read(file))
                        .filter(found -> LookTable.digest(found).equals(wanted.digest()))
                : Optional.empty();
    }

    /// Puts a file there, where it is not yet.
    ///
    /// @param content gives what has the file's digest
    public static void keep(Kind kind, KeptFile kept, Supplier<byte[]> content) {
        Path file = of(kind, kept);
        boolean whole = Files.isRegularFile(file)
                && (!LOOKED_AT.add(kept.digest())
                        || LookTable.digest(Documents.read(file)).equals(kept.digest()));
        if (!whole) {
            Documents.replace(file, content.get());
        }
    }

    /// Digests of files that this program has read once: they may be from long ago.
    private static final Set<String> LOOKED_AT = ConcurrentHashMap.newKeySet();
}
