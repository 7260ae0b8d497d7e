package docksort.engine;

import docksort.files.Documents;
import docksort.look.LookTable;
import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.media.Look;
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

/// Lookup tables where the engine can read them: each under its digest in a folder of this machine, for all
/// projects.
public final class LookFiles {
    private LookFiles() {}

    private static final int LEVELS = 65_536;

    /// Where a table is, or would be.
    static Path of(Look.Table table) {
        return inCache("look-" + table.digest());
    }

    private static Path inCache(String name) {
        try {
            return Loader.getCacheDir().toPath().resolve("dock-sort-" + name + ".cube");
        } catch (IOException e) {
            throw new UncheckedIOException("there is no folder to unpack into", e);
        }
    }

    /// A one-dimensional table of what a decision makes of red, green and blue before their saturation.
    static Path of(ColourDecision values) {
        var levels = new ColourDecision(values.slope(), values.offset(), values.power(), /* saturation= */ 1);
        Path file =
                inCache("decision-" + LookTable.digest((levels.mark() + LEVELS).getBytes(StandardCharsets.US_ASCII)));
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

    /// What is there of a table, empty for nothing.
    public static Optional<byte[]> text(Look.Table table) {
        Path file = of(table);
        return Files.isRegularFile(file) ? Optional.of(Documents.read(file)) : Optional.empty();
    }

    /// Puts a table there, where it is not yet.
    ///
    /// @param text gives its own text, which has the table's digest
    public static void keep(Look.Table table, Supplier<byte[]> text) {
        Path file = of(table);
        boolean whole = Files.isRegularFile(file)
                && (!LOOKED_AT.add(table.digest())
                        || LookTable.digest(Documents.read(file)).equals(table.digest()));
        if (!whole) {
            Documents.replace(file, text.get());
        }
    }

    /// Digests of tables whose files this program has read once: they may be from long ago.
    private static final Set<String> LOOKED_AT = ConcurrentHashMap.newKeySet();
}
