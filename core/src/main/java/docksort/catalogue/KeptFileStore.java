package docksort.catalogue;

import docksort.media.KeptFile;
import docksort.media.KeptFile.Kind;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;

/// Lookup tables and images of the project, each kept by its content.
public final class KeptFileStore {
    private final Access jdbi;
    private final ActivityLog log;

    KeptFileStore(Access jdbi, ActivityLog log) {
        this.jdbi = jdbi;
        this.log = log;
    }

    /// All of a kind, by name.
    public List<KeptFile> all(Kind kind) {
        return jdbi.withHandle(
                h -> h.createQuery("SELECT digest, name FROM kept_file WHERE kind = :kind ORDER BY name, digest")
                        .bind("kind", kind.name())
                        .map((row, _) -> new KeptFile(row.getString(1), row.getString(2)))
                        .list());
    }

    /// What a file holds.
    public Optional<byte[]> content(String digest) {
        return jdbi.withHandle(h -> h.createQuery("SELECT packed FROM kept_file WHERE digest = :digest")
                        .bind("digest", digest)
                        .mapTo(byte[].class)
                        .findOne())
                .map(KeptFileStore::unpacked);
    }

    /// @param content of which the file has the digest
    /// @return false when it was there already, under whatever name
    public boolean add(Kind kind, KeptFile file, byte[] content) {
        return jdbi.inTransaction(h -> {
            boolean added = h.createUpdate("INSERT INTO kept_file (digest, name, packed, kind)"
                                    + " VALUES (:digest, :name, :packed, :kind) ON CONFLICT (digest) DO NOTHING")
                            .bind("digest", file.digest())
                            .bind("name", file.name())
                            .bind("packed", packed(content))
                            .bind("kind", kind.name())
                            .execute()
                    > 0;
            if (added) {
                log.write(h, "Added the " + kind.label() + " " + file.name());
            }
            return added;
        });
    }

    /// @return false when it was not there
    public boolean remove(Kind kind, KeptFile file) {
        return jdbi.inTransaction(h -> {
            boolean removed =
                    h.execute("DELETE FROM kept_file WHERE digest = ? AND kind = ?", file.digest(), kind.name()) > 0;
            if (removed) {
                log.write(h, "Removed the " + kind.label() + " " + file.name());
            }
            return removed;
        });
    }

    private static byte[] packed(byte[] content) {
        var bytes = new ByteArrayOutputStream();
        try (var gzip = new GZIPOutputStream(bytes)) {
            gzip.write(content);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return bytes.toByteArray();
    }

    private static byte[] unpacked(byte[] packed) {
        try (var gzip = new GZIPInputStream(new ByteArrayInputStream(packed))) {
            return gzip.readAllBytes();
        } catch (IOException e) {
            throw new UncheckedIOException("a file that the catalogue keeps is damaged", e);
        }
    }
}
