package docksort.catalogue;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Companion;
import docksort.arrival.ScanResult;
import docksort.arrival.Stamp;
import docksort.arrival.Unreadable;
import docksort.media.Fingerprint;
import docksort.problem.Problem;
import docksort.strain.Traits;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jdbi.v3.core.Handle;

/// Arrivals, what a look at their folders found, and what is not footage.
public final class ArrivalStore {
    private final Access jdbi;
    private final ActivityLog log;
    private final String workstation;

    ArrivalStore(Access jdbi, ActivityLog log, String workstation) {
        this.jdbi = jdbi;
        this.workstation = workstation;
        this.log = log;
    }

    // Arrivals and clips

    /// Begins an arrival, so that what its scan finds can be kept as it comes.
    public void begin(Arrival arrival, Root root) {
        jdbi.useTransaction(h -> h.createUpdate("""
            INSERT INTO arrival (id, root_id, path, name, added_micros)
            VALUES (:id, :root, :path, :name, :at)\
            """)
                .bind("id", arrival.id().value())
                .bind("root", root.id())
                .bind("path", CataloguePaths.relative(root, arrival.folder()))
                .bind("name", arrival.name())
                .bind("at", Micros.of(arrival.addedAt()))
                .execute());
    }

    /// Ends a scan: what cannot be read, the camera's own copies as ready ones, the files that are not
    /// footage, and what the listing said.
    ///
    /// @param what the line in the log, empty to write none
    public void endScan(Arrival arrival, Root root, ScanResult scan, Optional<String> what, boolean first) {
        jdbi.useTransaction(h -> {
            String id = arrival.id().value();
            keepSeen(h, id, root, scan);
            for (Path looked : scan.stamps().keySet()) {
                h.execute(
                        "DELETE FROM unreadable WHERE arrival_id = ? AND path = ?",
                        id,
                        CataloguePaths.relative(root, looked));
            }
            for (Unreadable file : scan.unreadable()) {
                h.createUpdate("INSERT INTO unreadable (arrival_id, path, problem) VALUES (:id, :path, :problem)"
                                + " ON CONFLICT (arrival_id, path) DO UPDATE SET problem = excluded.problem")
                        .bind("id", id)
                        .bind("path", CataloguePaths.relative(root, file.file()))
                        .bind("problem", Json.text(file.problem()))
                        .execute();
            }
            h.execute("DELETE FROM aside WHERE arrival_id = ?", id);
            for (Path aside : scan.asides()) {
                h.execute(
                        "INSERT INTO aside (arrival_id, path) VALUES (?, ?) ON CONFLICT DO NOTHING",
                        id,
                        CataloguePaths.relative(root, aside));
            }
            adopt(h, root, scan);
            if (!scan.cancelled()) {
                h.execute("UPDATE arrival SET complete = TRUE WHERE id = ?", id);
            }
            what.ifPresent(line -> {
                if (first) {
                    log.write(h, line, new Undo.ArrivalAdded(id));
                } else {
                    log.write(h, line);
                }
            });
        });
    }

    private static void keepSeen(Handle h, String arrival, Root root, ScanResult scan) {
        for (Path gone : scan.gone()) {
            h.execute(
                    "DELETE FROM seen WHERE arrival_id = ? AND path = ?", arrival, CataloguePaths.relative(root, gone));
            h.execute(
                    "DELETE FROM unreadable WHERE arrival_id = ? AND path = ?",
                    arrival,
                    CataloguePaths.relative(root, gone));
        }
        if (scan.stamps().isEmpty()) {
            return;
        }
        var batch = h.prepareBatch("""
            INSERT INTO seen (arrival_id, path, files, bytes, modified_millis)
            VALUES (:arrival, :path, :files, :bytes, :modified)
            ON CONFLICT (arrival_id, path) DO UPDATE SET files = excluded.files, bytes = excluded.bytes,
                modified_millis = excluded.modified_millis\
            """);
        scan.stamps()
                .forEach((head, stamp) -> batch.bind("arrival", arrival)
                        .bind("path", CataloguePaths.relative(root, head))
                        .bind("files", stamp.files())
                        .bind("bytes", stamp.bytes())
                        .bind("modified", stamp.modifiedMillis())
                        .add());
        batch.execute();
    }

    private static void adopt(Handle h, Root root, ScanResult scan) {
        for (var companion : scan.companions()) {
            String original = h.createQuery("SELECT fingerprint FROM clip WHERE id = :id")
                    .bind("id", companion.original().value())
                    .mapTo(String.class)
                    .one();
            Traits.of(companion.facts()).ifPresent(traits -> StandInStore.insert(h, companion.fingerprint(), traits));
            CopyStore.insert(
                    h,
                    WorkingCopy.byCamera(
                            camerasId(h, companion, root), companion, Fingerprint.parse(original), root.id()),
                    root);
        }
    }

    /// An original may have several; one whose file came anew keeps its id.
    private static String camerasId(Handle h, Companion companion, Root root) {
        Set<String> others = h.createQuery("SELECT id FROM copy WHERE clip_id = :clip AND path <> :path")
                .bind("clip", companion.original().value())
                .bind("path", CataloguePaths.relative(root, companion.file()))
                .mapTo(String.class)
                .set();
        return WorkingCopy.camerasId(companion.original(), others);
    }

    /// What an earlier look at an arrival kept.
    ///
    /// @param stamps what the listing said of every source, by its head
    /// @param asides how many files were not footage
    /// @param complete whether the scan came to an end
    public record Seen(Map<Path, Stamp> stamps, int asides, boolean complete) {}

    public Seen seen(ArrivalId arrival) {
        return jdbi.withHandle(h -> h.createQuery("""
            SELECT root.path, complete, (SELECT count(*) FROM aside WHERE arrival_id = arrival.id)
            FROM arrival JOIN <here> AS root ON root.id = root_id WHERE arrival.id = :id\
            """)
                .define("here", RootStore.HERE)
                .bind("here", workstation)
                .bind("id", arrival.value())
                .map((row, _) -> {
                    Path root = Path.of(row.getString(1));
                    return new Seen(stamps(h, arrival, root), row.getInt(3), row.getBoolean(2));
                })
                .one());
    }

    private static Map<Path, Stamp> stamps(Handle h, ArrivalId arrival, Path root) {
        Map<Path, Stamp> stamps = new HashMap<>();
        h.createQuery("SELECT path, files, bytes, modified_millis FROM seen WHERE arrival_id = :id")
                .bind("id", arrival.value())
                .map((row, _) -> Map.entry(
                        CataloguePaths.below(root, row.getString(1)),
                        new Stamp(row.getInt(2), row.getLong(3), row.getLong(4))))
                .forEach(entry -> stamps.put(entry.getKey(), entry.getValue()));
        return stamps;
    }

    /// Arrivals whose scan was broken off.
    public List<ArrivalId> incomplete() {
        return jdbi.withHandle(h -> h.createQuery("SELECT id FROM arrival WHERE NOT complete")
                .mapTo(String.class)
                .map(ArrivalId::new)
                .list());
    }

    /// Arrivals whose new files are taken in by themselves.
    public List<ArrivalId> watched() {
        return jdbi.withHandle(h -> h.createQuery("SELECT id FROM arrival WHERE watched")
                .mapTo(String.class)
                .map(ArrivalId::new)
                .list());
    }

    public void watch(ArrivalId arrival, boolean on, String what) {
        jdbi.useTransaction(h -> {
            h.execute("UPDATE arrival SET watched = ? WHERE id = ?", on, arrival.value());
            log.write(h, what);
        });
    }

    public List<Arrival> all() {
        return jdbi.withHandle(h -> h.createQuery("""
            SELECT arrival.id, arrival.name, added_micros, root.path AS root_path, arrival.path
            FROM arrival JOIN <here> AS root ON root.id = root_id ORDER BY added_micros, arrival.name\
            """)
                .define("here", RootStore.HERE)
                .bind("here", workstation)
                .map((row, _) -> new Arrival(
                        new ArrivalId(row.getString("id")),
                        row.getString("name"),
                        CataloguePaths.absolute(row.getString("root_path"), row.getString("path")),
                        Micros.instant(row.getLong("added_micros"))))
                .list());
    }

    /// @param aside whether those that were put aside are meant, or those that were not
    public List<Unreadable> unreadable(boolean aside) {
        return jdbi.withHandle(h -> h.createQuery("""
            SELECT unreadable.arrival_id, unreadable.path, problem, root.path AS root_path FROM unreadable
            JOIN arrival ON arrival.id = arrival_id JOIN <here> AS root ON root.id = root_id
            WHERE put_aside = :aside ORDER BY arrival.added_micros, unreadable.path\
            """)
                .define("here", RootStore.HERE)
                .bind("here", workstation)
                .bind("aside", aside)
                .map((row, _) -> new Unreadable(
                        new ArrivalId(row.getString("arrival_id")),
                        CataloguePaths.absolute(row.getString("root_path"), row.getString("path")),
                        Json.read(row.getString("problem"), Problem.class)))
                .list());
    }

    /// How many files of an arrival are not footage.
    public Map<ArrivalId, Integer> asides() {
        Map<ArrivalId, Integer> counts = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT arrival_id, count(*) AS files FROM aside GROUP BY arrival_id")
                .map((row, _) -> Map.entry(new ArrivalId(row.getString("arrival_id")), row.getInt("files")))
                .forEach(entry -> counts.put(entry.getKey(), entry.getValue())));
        return counts;
    }
}
