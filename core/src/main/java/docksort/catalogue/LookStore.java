package docksort.catalogue;

import docksort.media.Look;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;

/// Lookup tables of the project, each kept by its content.
public final class LookStore {
    private final Access jdbi;
    private final ActivityLog log;

    LookStore(Access jdbi, ActivityLog log) {
        this.jdbi = jdbi;
        this.log = log;
    }

    /// All tables, by name.
    public List<Look.Table> all() {
        return jdbi.withHandle(h -> h.createQuery("SELECT digest, name FROM look_table ORDER BY name, digest")
                .map((row, _) -> new Look.Table(row.getString(1), row.getString(2)))
                .list());
    }

    /// A table's own text.
    public Optional<byte[]> text(String digest) {
        return jdbi.withHandle(h -> h.createQuery("SELECT packed FROM look_table WHERE digest = :digest")
                        .bind("digest", digest)
                        .mapTo(byte[].class)
                        .findOne())
                .map(LookStore::unpacked);
    }

    /// @param text of which the table has the digest
    /// @return false when it was there already, under whatever name
    public boolean add(Look.Table table, byte[] text) {
        return jdbi.inTransaction(h -> {
            boolean added = h.createUpdate("INSERT INTO look_table (digest, name, packed)"
                                    + " VALUES (:digest, :name, :packed) ON CONFLICT (digest) DO NOTHING")
                            .bind("digest", table.digest())
                            .bind("name", table.name())
                            .bind("packed", packed(text))
                            .execute()
                    > 0;
            if (added) {
                log.write(h, "Added the lookup table " + table.name());
            }
            return added;
        });
    }

    /// @return false when it was not there
    public boolean remove(Look.Table table) {
        return jdbi.inTransaction(h -> {
            boolean removed = h.execute("DELETE FROM look_table WHERE digest = ?", table.digest()) > 0;
            if (removed) {
                log.write(h, "Removed the lookup table " + table.name());
            }
            return removed;
        });
    }

    private static byte[] packed(byte[] text) {
        var bytes = new ByteArrayOutputStream();
        try (var gzip = new GZIPOutputStream(bytes)) {
            gzip.write(text);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return bytes.toByteArray();
    }

    private static byte[] unpacked(byte[] packed) {
        try (var gzip = new GZIPInputStream(new ByteArrayInputStream(packed))) {
            return gzip.readAllBytes();
        } catch (IOException e) {
            throw new UncheckedIOException("a lookup table in the catalogue is damaged", e);
        }
    }
}
