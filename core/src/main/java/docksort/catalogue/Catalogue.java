package docksort.catalogue;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.ScanResult;
import docksort.arrival.Stamp;
import docksort.arrival.Unreadable;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.problem.Problem;
import docksort.sort.CopyKind;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.mapper.RowMapper;
import org.jdbi.v3.core.statement.PreparedBatch;
import org.jdbi.v3.core.statement.StatementContext;

/// The project's memory in one SQLite file. Every change is one transaction with a line in the activity
/// log. Paths are kept relative to a root and given out absolute, as this workstation sees them. Safe for
/// use by several threads.
public final class Catalogue implements AutoCloseable {
    private final HikariDataSource source;
    private final Jdbi jdbi;
    private final InstantSource clock;

    private final String workstation;

    private Catalogue(HikariDataSource source, InstantSource clock, String workstation) {
        this.source = source;
        this.jdbi = Jdbi.create(source);
        this.clock = clock;
        this.workstation = workstation;
    }

    /// Opens a catalogue, creates or upgrades it where needed.
    ///
    /// @param workstation whose paths are given out: every one may see the roots below its own
    /// @throws CatalogueUnavailable when the file is not a catalogue or cannot be opened
    public static Catalogue open(Path file, InstantSource clock, String workstation) {
        HikariDataSource pool = null;
        try {
            var sqlite = new org.sqlite.SQLiteConfig();
            sqlite.setJournalMode(org.sqlite.SQLiteConfig.JournalMode.WAL);
            sqlite.setSynchronous(org.sqlite.SQLiteConfig.SynchronousMode.NORMAL);
            sqlite.setBusyTimeout(15_000);
            sqlite.enforceForeignKeys(true);
            // A transaction that will write takes its turn at its start, so that two of them cannot block each
            // other.
            sqlite.setTransactionMode(org.sqlite.SQLiteConfig.TransactionMode.IMMEDIATE);
            var config = new HikariConfig();
            config.setJdbcUrl("jdbc:sqlite:" + file.toAbsolutePath());
            config.setDataSourceProperties(sqlite.toProperties());
            config.setMaximumPoolSize(4);
            config.setPoolName("catalogue");
            // Roots as this workstation sees them. Bound parameters are not allowed in a view.
            config.setConnectionInitSql("""
                CREATE TEMP VIEW IF NOT EXISTS here AS
                SELECT root.id, root.name, coalesce(root_path.path, root.path) AS path FROM root
                LEFT JOIN root_path ON root_path.root_id = root.id AND workstation = '%s'\
                """.formatted(workstation.replace("'", "''")));
            pool = new HikariDataSource(config);
            Flyway.configure()
                    .dataSource(pool)
                    .locations("classpath:docksort/catalogue")
                    .load()
                    .migrate();
            return new Catalogue(pool, clock, workstation);
        } catch (FlywayException | com.zaxxer.hikari.pool.HikariPool.PoolInitializationException e) {
            if (pool != null) {
                pool.close();
            }
            throw new CatalogueUnavailable(
                    new Problem(
                            "The project's catalogue cannot be opened: " + file,
                            rootMessage(e),
                            "The file is as it was, and so are all originals and copies.",
                            "Choose another project folder, or put a backup of the file in place."),
                    e);
        }
    }

    private static String rootMessage(Throwable failure) {
        Throwable cause = failure;
        while (cause.getCause() != null) {
            cause = cause.getCause();
        }
        return String.valueOf(cause.getMessage()).lines().findFirst().orElse("");
    }

    // Settings

    public Optional<String> setting(String name) {
        return jdbi.withHandle(h -> h.createQuery("SELECT value FROM setting WHERE name = :name")
                .bind("name", name)
                .mapTo(String.class)
                .findOne());
    }

    public void set(String name, String value) {
        jdbi.useTransaction(
                h -> h.createUpdate("""
                    INSERT INTO setting (name, value) VALUES (:name, :value)
                    ON CONFLICT (name) DO UPDATE SET value = excluded.value\
                    """).bind("name", name).bind("value", value).execute());
    }

    /// Sets a value as a change that can be taken back.
    public void change(String name, String value, String what) {
        jdbi.useTransaction(h -> {
            String before = h.createQuery("SELECT value FROM setting WHERE name = :name")
                    .bind("name", name)
                    .mapTo(String.class)
                    .findOne()
                    .orElse("");
            h.execute("INSERT OR REPLACE INTO setting (name, value) VALUES (?, ?)", name, value);
            log(h, what, new Undo.SettingChanged(name, before));
        });
    }

    // Roots

    public List<Root> roots() {
        return jdbi.withHandle(Catalogue::roots);
    }

    private static List<Root> roots(Handle h) {
        return h.createQuery("SELECT id, name, path FROM here ORDER BY name")
                .map((row, _) -> new Root(row.getString("id"), row.getString("name"), Path.of(row.getString("path"))))
                .list();
    }

    public void addRoot(Root root) {
        jdbi.useTransaction(h -> h.createUpdate("INSERT INTO root (id, name, path) VALUES (:id, :name, :path)")
                .bind("id", root.id())
                .bind("name", root.name())
                .bind("path", root.path().toString())
                .execute());
    }

    /// Gives a root another path on this workstation, and says of its clips whether they are there.
    public void moveRoot(Root root, Path path, Map<ClipId, Presence> presence) {
        jdbi.useTransaction(h -> {
            var before = new LinkedHashMap<String, List<String>>();
            h.createQuery("""
                SELECT clip.id, presence, presence_note FROM clip
                JOIN arrival ON arrival.id = clip.arrival_id
                WHERE coalesce(clip.root_id, arrival.root_id) = :root\
                """)
                    .bind("root", root.id())
                    .map((row, _) -> List.of(row.getString(1), row.getString(2), row.getString(3)))
                    .forEach(row -> before.put(row.get(0), row.subList(1, 3)));
            setRootPath(h, root.id(), path.toString());
            presence.forEach(
                    (clip, state) -> setPresence(h, clip.value(), state.state().name(), state.note()));
            long back = presence.values().stream().filter(Presence::isOnline).count();
            log(
                    h,
                    "Root " + root.name() + " is now " + path + "; " + back + " clips online",
                    new Undo.RootMoved(root.id(), root.path().toString(), before));
        });
    }

    private void setRootPath(Handle h, String rootId, String path) {
        h.execute(
                "INSERT OR REPLACE INTO root_path (root_id, workstation, path) VALUES (?, ?, ?)",
                rootId,
                workstation,
                path);
    }

    /// The name this workstation's paths are kept under.
    public String workstation() {
        return workstation;
    }

    private static void setPresence(Handle h, String clip, String state, String note) {
        h.createUpdate("UPDATE clip SET presence = :state, presence_note = :note WHERE id = :id")
                .bind("state", state)
                .bind("note", note)
                .bind("id", clip)
                .execute();
    }

    // Arrivals and clips

    /// Begins an arrival, so that what its scan finds can be kept as it comes.
    public void beginArrival(Arrival arrival, Root root) {
        jdbi.useTransaction(h -> h.createUpdate("""
            INSERT INTO arrival (id, root_id, path, name, added_at)
            VALUES (:id, :root, :path, :name, :at)\
            """)
                .bind("id", arrival.id().value())
                .bind("root", root.id())
                .bind("path", relative(root, arrival.folder()))
                .bind("name", arrival.name())
                .bind("at", arrival.addedAt().toString())
                .execute());
    }

    /// Keeps some clips of a scan that goes on. A clip that was there before gets its new facts.
    public void keep(List<Clip> clips, Root root) {
        jdbi.useTransaction(h -> {
            var batch = h.prepareBatch("""
                INSERT INTO clip (id, arrival_id, path, stills, parts, facts, structure, fingerprint)
                VALUES (:id, :arrival, :path, :stills, :parts, :facts, :structure, :fingerprint)
                ON CONFLICT (id) DO UPDATE SET path = excluded.path, stills = excluded.stills,
                    parts = excluded.parts, facts = excluded.facts, structure = excluded.structure,
                    fingerprint = excluded.fingerprint, root_id = NULL, presence = 'ONLINE',
                    presence_note = ''\
                """);
            for (Clip clip : clips) {
                batch.bind("id", clip.id().value())
                        .bind("arrival", clip.arrival().value())
                        .bind("path", relative(root, clip.source().head()))
                        .bind("stills", stillsText(clip.source()))
                        .bind("parts", partsText(clip.source(), root))
                        .bind("facts", Json.text(clip.facts()))
                        .bind(
                                "structure",
                                StructureBytes.write(clip.facts()
                                        .video()
                                        .map(VideoFacts::structure)
                                        .orElse(FrameStructure.NONE)))
                        .bind("fingerprint", clip.fingerprint().toString())
                        .add();
            }
            batch.execute();
        });
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
                h.execute("DELETE FROM unreadable WHERE arrival_id = ? AND path = ?", id, relative(root, looked));
            }
            for (Unreadable file : scan.unreadable()) {
                h.createUpdate("INSERT OR REPLACE INTO unreadable (arrival_id, path, problem) VALUES (:id, :path,"
                                + " :problem)")
                        .bind("id", id)
                        .bind("path", relative(root, file.file()))
                        .bind("problem", Json.text(file.problem()))
                        .execute();
            }
            h.execute("DELETE FROM aside WHERE arrival_id = ?", id);
            for (Path aside : scan.asides()) {
                h.execute("INSERT OR REPLACE INTO aside (arrival_id, path) VALUES (?, ?)", id, relative(root, aside));
            }
            adopt(h, root, scan);
            if (!scan.cancelled()) {
                h.execute("UPDATE arrival SET complete = 1 WHERE id = ?", id);
            }
            what.ifPresent(line -> {
                if (first) {
                    log(h, line, new Undo.ArrivalAdded(id));
                } else {
                    log(h, line);
                }
            });
        });
    }

    private static void keepSeen(Handle h, String arrival, Root root, ScanResult scan) {
        for (Path gone : scan.gone()) {
            h.execute("DELETE FROM seen WHERE arrival_id = ? AND path = ?", arrival, relative(root, gone));
            h.execute("DELETE FROM unreadable WHERE arrival_id = ? AND path = ?", arrival, relative(root, gone));
        }
        if (scan.stamps().isEmpty()) {
            return;
        }
        var batch = h.prepareBatch("""
            INSERT OR REPLACE INTO seen (arrival_id, path, files, bytes, modified_millis)
            VALUES (:arrival, :path, :files, :bytes, :modified)\
            """);
        scan.stamps()
                .forEach((head, stamp) -> batch.bind("arrival", arrival)
                        .bind("path", relative(root, head))
                        .bind("files", stamp.files())
                        .bind("bytes", stamp.bytes())
                        .bind("modified", stamp.modifiedMillis())
                        .add());
        batch.execute();
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
            FROM arrival JOIN here AS root ON root.id = root_id WHERE arrival.id = :id\
            """)
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
                        below(root, row.getString(1)), new Stamp(row.getInt(2), row.getLong(3), row.getLong(4))))
                .forEach(entry -> stamps.put(entry.getKey(), entry.getValue()));
        return stamps;
    }

    /// Arrivals whose scan was broken off.
    public List<ArrivalId> incomplete() {
        return jdbi.withHandle(h -> h.createQuery("SELECT id FROM arrival WHERE complete = 0")
                .mapTo(String.class)
                .map(ArrivalId::new)
                .list());
    }

    /// Arrivals whose new files are taken in by themselves.
    public List<ArrivalId> watched() {
        return jdbi.withHandle(h -> h.createQuery("SELECT id FROM arrival WHERE watched = 1")
                .mapTo(String.class)
                .map(ArrivalId::new)
                .list());
    }

    public void watch(ArrivalId arrival, boolean on, String what) {
        jdbi.useTransaction(h -> {
            h.execute("UPDATE arrival SET watched = ? WHERE id = ?", on ? 1 : 0, arrival.value());
            log(h, what);
        });
    }

    /// Says how to read clips that state no rate; empty takes it back.
    public void readAt(List<ClipId> clips, Optional<FrameRate> rate, String what) {
        jdbi.useTransaction(h -> {
            var before = new LinkedHashMap<String, String>();
            for (ClipId clip : clips) {
                before.put(
                        clip.value(),
                        h.createQuery("SELECT coalesce(read_rate, '') FROM clip WHERE id = :id")
                                .bind("id", clip.value())
                                .mapTo(String.class)
                                .one());
                setReadRate(h, clip.value(), rate.map(FrameRate::toString).orElse(""));
            }
            log(h, what, new Undo.ReadAt(before));
        });
    }

    private static void setReadRate(Handle h, String clip, String rate) {
        h.execute("UPDATE clip SET read_rate = nullif(?, '') WHERE id = ?", rate, clip);
    }

    // Measurements

    /// Keeps counts and lengths of a clip that were only stated before. Those of a clip that is read at a
    /// chosen rate are of that rate, and are not kept.
    public void measured(Clip clip) {
        jdbi.useTransaction(h -> h.createUpdate(
                        "UPDATE clip SET facts = :facts WHERE id = :id AND read_rate IS NULL AND fingerprint ="
                                + " :fingerprint")
                .bind("facts", Json.text(clip.facts()))
                .bind("id", clip.id().value())
                .bind("fingerprint", clip.fingerprint().toString())
                .execute());
    }

    /// Keeps figures measured on a machine in place of older ones.
    public void measured(String machine, Fingerprint subject, String kind, Object figures) {
        jdbi.useTransaction(h -> h.execute(
                "INSERT OR REPLACE INTO measurement (machine, subject, kind, figures, measured_at) VALUES (?, ?, ?, ?,"
                        + " ?)",
                machine,
                subject.toString(),
                kind,
                Json.text(figures),
                clock.instant().toString()));
    }

    /// Figures of one kind that were measured on a machine.
    public <T> Map<Fingerprint, T> measurements(String machine, String kind, Class<T> type) {
        Map<Fingerprint, T> found = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT subject, figures FROM measurement WHERE machine = :m AND kind = :k")
                .bind("m", machine)
                .bind("k", kind)
                .map((row, _) -> Map.entry(
                        Fingerprint.parse(row.getString("subject")), Json.read(row.getString("figures"), type)))
                .forEach(entry -> found.put(entry.getKey(), entry.getValue())));
        return found;
    }

    /// Figures of all kinds with a beginning that were measured on a machine.
    public <T> List<Figure<T>> figures(String machine, String kindsBeginning, Class<T> type) {
        return jdbi.withHandle(h -> h.createQuery(
                        "SELECT subject, kind, figures FROM measurement WHERE machine = :m AND kind LIKE :k")
                .bind("m", machine)
                .bind("k", kindsBeginning + "%")
                .map((row, _) -> new Figure<>(
                        Fingerprint.parse(row.getString("subject")),
                        row.getString("kind").substring(kindsBeginning.length()),
                        Json.read(row.getString("figures"), type)))
                .list());
    }

    /// One figure, and the rest of its kind's name.
    public record Figure<T>(Fingerprint subject, String kind, T value) {}

    /// Points the root for copies at another folder; copies that are there go on below a root of their own.
    public void newCopiesFolder(Path folder, String freshRoot, String what) {
        jdbi.useTransaction(h -> {
            h.execute(
                    "INSERT INTO root (id, name, path) SELECT ?, 'Copies until now', path FROM here WHERE id = ?"
                            + " AND EXISTS (SELECT 1 FROM copy WHERE root_id = ?)",
                    freshRoot,
                    Root.COPIES,
                    Root.COPIES);
            h.execute("UPDATE copy SET root_id = ? WHERE root_id = ?", freshRoot, Root.COPIES);
            h.execute("UPDATE root SET path = ? WHERE id = ?", folder.toString(), Root.COPIES);
            h.execute("DELETE FROM root_path WHERE root_id = ?", Root.COPIES); // they named the folder before
            log(h, what);
        });
    }

    // What timelines use

    public Map<ClipId, List<FrameRange>> used() {
        Map<ClipId, List<FrameRange>> found = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT * FROM used ORDER BY clip_id, range_first")
                .map((row, _) -> Map.entry(
                        new ClipId(row.getString("clip_id")),
                        new FrameRange(row.getLong("range_first"), row.getLong("range_count"))))
                .forEach(entry -> found.computeIfAbsent(entry.getKey(), _ -> new java.util.ArrayList<>())
                        .add(entry.getValue())));
        return found;
    }

    /// Keeps what timelines use now in the place of what they used before.
    public void use(Map<ClipId, List<FrameRange>> ranges) {
        jdbi.useTransaction(h -> {
            h.execute("DELETE FROM used");
            ranges.forEach((clip, list) -> list.forEach(range -> h.execute(
                    "INSERT INTO used (clip_id, range_first, range_count) VALUES (?, ?, ?)",
                    clip.value(),
                    range.first(),
                    range.count())));
        });
    }

    private static void adopt(Handle h, Root root, ScanResult scan) {
        for (var companion : scan.companions()) {
            String original = h.createQuery("SELECT fingerprint FROM clip WHERE id = :id")
                    .bind("id", companion.original().value())
                    .mapTo(String.class)
                    .one();
            VideoFacts picture = companion.facts().video().orElseThrow();
            insertCopy(
                    h,
                    new WorkingCopy(
                            companion.original().value() + WorkingCopy.CAMERAS,
                            companion.original(),
                            CopyKind.LIGHT,
                            "",
                            root.id(),
                            companion.file(),
                            CopyState.READY,
                            "written by the camera; frame count, rate and timecode are the original's",
                            Fingerprint.parse(original),
                            Optional.empty(),
                            new WorkingCopy.Place(
                                    companion.facts().size().bytes(),
                                    companion.file().toFile().lastModified(),
                                    picture.raster().width(),
                                    picture.raster().height(),
                                    picture.codec().label(),
                                    "",
                                    companion.fingerprint().toString()),
                            WorkingCopy.Service.USUAL,
                            0),
                    root);
        }
    }

    public List<Arrival> arrivals() {
        return jdbi.withHandle(h -> h.createQuery("""
            SELECT arrival.id, arrival.name, added_at, root.path AS root_path, arrival.path
            FROM arrival JOIN here AS root ON root.id = root_id ORDER BY added_at, arrival.name\
            """)
                .map((row, _) -> new Arrival(
                        new ArrivalId(row.getString("id")),
                        row.getString("name"),
                        absolute(row.getString("root_path"), row.getString("path")),
                        Instant.parse(row.getString("added_at"))))
                .list());
    }

    /// All clips, in order of their arrival and path. Their facts are read from what was fetched here
    /// when they are first asked for.
    public List<Clip> clips() {
        Map<String, Integer> order = new HashMap<>();
        arrivals().forEach(arrival -> order.put(arrival.id().value(), order.size()));
        List<Ordered> rows =
                jdbi.withHandle(h -> h.createQuery("""
                    SELECT clip.id, arrival_id, clip.path, stills, parts, facts, structure, fingerprint, read_rate,
                        root.path AS root_path
                    FROM clip JOIN arrival ON arrival.id = arrival_id
                    JOIN here AS root ON root.id = coalesce(clip.root_id, arrival.root_id)\
                    """).map(new ClipRows(order)).list());
        return rows.stream()
                .sorted(Comparator.comparingInt(Ordered::arrival).thenComparing(Ordered::path))
                .map(Ordered::clip)
                .toList();
    }

    /// A clip with its place in the list: to sort a hundred thousand rows with all they hold takes the
    /// database longer.
    private record Ordered(int arrival, String path, Clip clip) {}

    private static final class ClipRows implements RowMapper<Ordered> {
        private final Map<String, Integer> order;
        private final Map<String, Path> roots = new HashMap<>();

        ClipRows(Map<String, Integer> order) {
            this.order = order;
        }

        @Override
        public Ordered map(ResultSet row, StatementContext context) throws SQLException {
            String arrival = row.getString(2);
            String path = row.getString(3);
            Path root = roots.computeIfAbsent(row.getString(10), Path::of);
            String facts = row.getString(6);
            byte[] structure = row.getBytes(7);
            Optional<String> rate = Optional.ofNullable(row.getString(9));
            Clip clip = Clip.withFactsLater(
                    new ClipId(row.getString(1)),
                    new ArrivalId(arrival),
                    source(root, path, row.getString(4), row.getString(5)),
                    Fingerprint.parse(row.getString(8)),
                    () -> facts(facts, structure, rate));
            return new Ordered(order.getOrDefault(arrival, 0), path, clip);
        }
    }

    private static ClipFacts facts(String text, byte[] structure, Optional<String> rate) {
        ClipFacts facts = Json.read(text, ClipFacts.class);
        FrameStructure frames = StructureBytes.read(structure);
        ClipFacts whole = facts.withVideo(facts.video().map(video -> video.withStructure(frames)));
        return rate.map(read -> whole.interpretedAt(FrameRate.parse(read))).orElse(whole);
    }

    private record Numbering(String prefix, int digits, String suffix, int first, int last, List<Integer> missing) {}

    static @org.jspecify.annotations.Nullable String stillsText(ClipSource source) {
        return switch (source) {
            case ClipSource.SingleFile _, ClipSource.Spanned _ -> null;
            case ClipSource.NumberedStills(
                    var _,
                    var prefix,
                    var digits,
                    var suffix,
                    var first,
                    var last,
                    var missing) -> Json.text(new Numbering(prefix, digits, suffix, first, last, missing));
        };
    }

    static @org.jspecify.annotations.Nullable String partsText(ClipSource source, Root root) {
        return source instanceof ClipSource.Spanned spanned
                ? Json.text(IntStream.range(0, spanned.parts().size())
                        .mapToObj(i -> new Part(
                                relative(root, spanned.parts().get(i)),
                                spanned.seconds().isEmpty()
                                        ? ""
                                        : spanned.seconds().get(i).toString()))
                        .toList())
                : null;
    }

    /// A file of a spanned recording.
    ///
    /// @param seconds as a fraction, empty where they are not known
    private record Part(String path, String seconds) {}

    private static ClipSource source(
            Path root,
            String path,
            @org.jspecify.annotations.Nullable String stills,
            @org.jspecify.annotations.Nullable String parts) {
        Path head = below(root, path);
        Path folder = head.getParent();
        if (parts != null) {
            List<Part> each = List.of(Json.read(parts, Part[].class));
            return new ClipSource.Spanned(
                    each.stream().map(part -> below(root, part.path)).toList(),
                    each.stream()
                            .filter(part -> !part.seconds.isEmpty())
                            .map(part -> Rational.parse(part.seconds))
                            .toList());
        }
        if (stills == null || folder == null) {
            return new ClipSource.SingleFile(head);
        }
        Numbering n = Json.read(stills, Numbering.class);
        below(folder, n.prefix + n.suffix);
        return new ClipSource.NumberedStills(folder, n.prefix, n.digits, n.suffix, n.first, n.last, n.missing);
    }

    public List<Unreadable> unreadable() {
        return jdbi.withHandle(h -> h.createQuery("""
            SELECT unreadable.arrival_id, unreadable.path, problem, root.path AS root_path FROM unreadable
            JOIN arrival ON arrival.id = arrival_id JOIN here AS root ON root.id = root_id
            ORDER BY arrival.added_at, unreadable.path\
            """)
                .map((row, _) -> new Unreadable(
                        new ArrivalId(row.getString("arrival_id")),
                        absolute(row.getString("root_path"), row.getString("path")),
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

    /// Originals that are not online; all others are.
    public Map<ClipId, Presence> presence() {
        Map<ClipId, Presence> found = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT id, presence, presence_note FROM clip WHERE presence <> 'ONLINE'")
                .map((row, _) -> Map.entry(
                        new ClipId(row.getString(1)),
                        new Presence(Presence.State.valueOf(row.getString(2)), row.getString(3))))
                .forEach(entry -> found.put(entry.getKey(), entry.getValue())));
        return found;
    }

    /// What a look at the disk found of originals. Not a change a person made, so not in the log.
    public void note(Map<ClipId, Presence> presence) {
        jdbi.useTransaction(h -> presence.forEach(
                (clip, state) -> setPresence(h, clip.value(), state.state().name(), state.note())));
    }

    // Choices

    /// Recipes that were chosen by hand, by clip.
    public Map<ClipId, List<String>> choices() {
        Map<ClipId, List<String>> found = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT clip_id, recipes FROM choice")
                .map((row, _) -> Map.entry(new ClipId(row.getString("clip_id")), recipeIds(row.getString("recipes"))))
                .forEach(entry -> found.put(entry.getKey(), entry.getValue())));
        return found;
    }

    private static List<String> recipeIds(String json) {
        return Arrays.asList(Json.read(json, String[].class));
    }

    /// Sets or clears the choice of several clips as one change.
    ///
    /// @param recipes the recipes they get, or empty to leave it to the rules
    public void choose(List<ClipId> clips, Optional<List<String>> recipes, String what) {
        jdbi.useTransaction(h -> {
            var before = new LinkedHashMap<String, List<String>>();
            var ruled = new java.util.ArrayList<String>();
            for (ClipId clip : clips) {
                Optional<String> old = h.createQuery("SELECT recipes FROM choice WHERE clip_id = :clip")
                        .bind("clip", clip.value())
                        .mapTo(String.class)
                        .findOne();
                old.ifPresentOrElse(text -> before.put(clip.value(), recipeIds(text)), () -> ruled.add(clip.value()));
                setChoice(h, clip.value(), recipes);
            }
            log(h, what, new Undo.Choices(before, ruled));
        });
    }

    private static void setChoice(Handle h, String clip, Optional<List<String>> recipes) {
        if (recipes.isEmpty()) {
            h.createUpdate("DELETE FROM choice WHERE clip_id = :clip")
                    .bind("clip", clip)
                    .execute();
            return;
        }
        h.createUpdate("""
            INSERT INTO choice (clip_id, recipes) VALUES (:clip, :recipes)
            ON CONFLICT (clip_id) DO UPDATE SET recipes = excluded.recipes\
            """)
                .bind("clip", clip)
                .bind("recipes", Json.text(recipes.get()))
                .execute();
    }

    // Copies

    /// Changes to what stands in for what.
    public CopyChanges copyChanges() {
        return new CopyChanges(jdbi, this);
    }

    /// What goes out of the project, and comes back.
    public TakenOut takenOut() {
        return new TakenOut(jdbi, this);
    }

    /// What is remembered for timelines.
    public Cuts cuts() {
        return new Cuts(jdbi, this::log);
    }

    /// All copies, in order of the queue.
    public List<WorkingCopy> copies() {
        long last = jdbi.withHandle(h -> h.createQuery("SELECT coalesce(max(rowid), 0) FROM copy")
                .mapTo(Long.class)
                .one());
        Map<String, Path> paths = new HashMap<>();
        roots().forEach(root -> paths.put(root.id(), root.path()));
        // Most of the time goes into building the rows: two readers take one half each.
        return Stream.of(new long[] {0, last / 2}, new long[] {last / 2, Long.MAX_VALUE})
                .parallel()
                .flatMap(part -> copies(part[0], part[1], paths).stream())
                .sorted(Comparator.comparingLong(WorkingCopy::position).thenComparing(WorkingCopy::id))
                .toList();
    }

    private List<WorkingCopy> copies(long after, long last, Map<String, Path> paths) {
        return jdbi.withHandle(h -> h.createQuery(CopyRows.QUERY)
                .bind("after", after)
                .bind("last", last)
                .map(new CopyRows(paths))
                .list());
    }

    /// Puts copies into the queue as one change, behind what is in it. One that was there already is put in
    /// anew.
    public void enqueue(List<WorkingCopy> copies, String what) {
        List<Root> roots = roots();
        jdbi.useTransaction(h -> {
            long position = h.createQuery("SELECT coalesce(max(position), 0) FROM copy")
                    .mapTo(Long.class)
                    .one();
            for (WorkingCopy copy : copies) {
                insertCopy(h, copy.withPosition(++position), root(roots, copy.rootId()));
            }
            log(h, what);
        });
    }

    static void insertCopy(Handle h, WorkingCopy copy, Root root) {
        h.createUpdate("""
            INSERT INTO copy (id, clip_id, kind, recipe_id, root_id, path, state, note, source_fingerprint,
                range_first, range_count, bytes, modified_millis, width, height, codec, recipe_mark, fingerprint, holes,
                stopped, served_millis, position)
            VALUES (:id, :clip, :kind, :recipe, :root, :path, :state, :note, :source,
                :first, :count, :bytes, :modified, :width, :height, :codec, :mark, :fingerprint, :holes,
                :stopped, :served, :position)
            ON CONFLICT (id) DO UPDATE SET state = excluded.state, note = excluded.note,
                source_fingerprint = excluded.source_fingerprint, position = excluded.position\
            """)
                .bind("id", copy.id())
                .bind("clip", copy.clip().value())
                .bind("kind", copy.kind().name())
                .bind("recipe", copy.recipeId())
                .bind("root", copy.rootId())
                .bind("path", relative(root, copy.file()))
                .bind("state", copy.state().name())
                .bind("note", copy.note())
                .bind("source", copy.source().toString())
                .bind("first", copy.range().map(FrameRange::first).orElse(0L))
                .bind("count", copy.range().map(FrameRange::count).orElse(0L))
                .bind("bytes", copy.place().bytes())
                .bind("modified", copy.place().modifiedMillis())
                .bind("width", copy.place().width())
                .bind("height", copy.place().height())
                .bind("codec", copy.place().codec())
                .bind("mark", copy.place().recipeMark())
                .bind("fingerprint", copy.place().fingerprint())
                .bind("holes", copy.place().holes())
                .bind("stopped", copy.service().stopped())
                .bind("served", copy.service().lastMillis())
                .bind("position", copy.position())
                .execute();
    }

    /// Keeps the state, note and place of copies that are in the catalogue. One that was made with holes
    /// serves only when somebody says so; one that was made anew without them serves like any other.
    public void update(List<WorkingCopy> copies) {
        List<Root> roots = roots();
        jdbi.useTransaction(h -> {
            for (WorkingCopy copy : copies) {
                h.createUpdate("""
                    UPDATE copy SET path = :path, state = :state, note = :note, bytes = :bytes, modified_millis = :modified,
                        width = :width, height = :height, codec = :codec, recipe_mark = :mark,
                        fingerprint = :fingerprint, stopped = CASE
                            WHEN :holes AND state IN ('WAITING', 'MAKING', 'CHECKING') AND :state = 'READY_WITH_HOLES'
                            THEN TRUE
                            WHEN holes AND NOT :holes THEN FALSE
                            ELSE stopped END,
                        holes = :holes WHERE id = :id\
                    """)
                        .bind("path", relative(root(roots, copy.rootId()), copy.file()))
                        .bind("state", copy.state().name())
                        .bind("note", copy.note())
                        .bind("bytes", copy.place().bytes())
                        .bind("modified", copy.place().modifiedMillis())
                        .bind("width", copy.place().width())
                        .bind("height", copy.place().height())
                        .bind("codec", copy.place().codec())
                        .bind("mark", copy.place().recipeMark())
                        .bind("fingerprint", copy.place().fingerprint())
                        .bind("holes", copy.place().holes())
                        .bind("id", copy.id())
                        .execute();
            }
        });
    }

    /// Takes copies out of the catalogue. Their files, where there are some, stay.
    public void forget(List<WorkingCopy> copies) {
        jdbi.useTransaction(
                h -> each(h, "DELETE FROM copy WHERE id = ?", copies, (batch, copy) -> batch.add(copy.id())));
    }

    /// Brings copies into this order, among the places in the queue that they have now.
    public void reorder(List<String> ids) {
        jdbi.useTransaction(h -> {
            Map<String, Long> positions = new HashMap<>();
            h.createQuery("SELECT id, position FROM copy")
                    .map((row, _) -> Map.entry(row.getString(1), row.getLong(2)))
                    .forEach(row -> positions.put(row.getKey(), row.getValue()));
            List<String> known = ids.stream().filter(positions::containsKey).toList();
            List<Long> places = known.stream().map(positions::get).sorted().toList();
            var next = places.iterator();
            each(h, "UPDATE copy SET position = ? WHERE id = ?", known, (batch, id) -> batch.add(next.next(), id));
        });
    }

    private static <T> void each(Handle h, String statement, List<T> rows, BiConsumer<PreparedBatch, T> add) {
        if (!rows.isEmpty()) {
            PreparedBatch batch = h.prepareBatch(statement);
            rows.forEach(row -> add.accept(batch, row));
            batch.execute();
        }
    }

    // What runs did

    /// Keeps what became of a copy in a run.
    public void keepRunLine(Instant run, String copyId, Object line) {
        jdbi.useTransaction(h -> h.execute(
                "INSERT OR REPLACE INTO run_line (run, copy_id, line) VALUES (?, ?, ?)",
                run.toString(),
                copyId,
                Json.text(line)));
    }

    /// When runs that did something began, the latest first.
    public List<Instant> runs() {
        return jdbi.withHandle(h -> h.createQuery("SELECT DISTINCT run FROM run_line ORDER BY run DESC")
                .map((row, _) -> Instant.parse(row.getString("run")))
                .list());
    }

    /// What became of the copies of a run, in the order in which they came to their end.
    public <T> List<T> runLines(Instant run, Class<T> type) {
        return jdbi.withHandle(h -> h.createQuery("SELECT line FROM run_line WHERE run = :run ORDER BY rowid")
                .bind("run", run.toString())
                .map((row, _) -> Json.read(row.getString("line"), type))
                .list());
    }

    // Log and undo

    public void log(String what) {
        jdbi.useTransaction(h -> log(h, what));
    }

    void log(Handle h, String what) {
        insertActivity(h, what, null);
    }

    void log(Handle h, String what, Undo undo) {
        // The interface as static type makes the kind part of the text.
        insertActivity(h, what, Json.undoText(undo));
    }

    private void insertActivity(Handle h, String what, @org.jspecify.annotations.Nullable String undo) {
        h.createUpdate("INSERT INTO activity (at, what, undo) VALUES (:at, :what, :undo)")
                .bind("at", clock.instant().toString())
                .bind("what", what)
                .bind("undo", undo)
                .execute();
    }

    /// The latest changes, the newest first.
    public List<Activity> activity(int most) {
        return jdbi.withHandle(h -> h.createQuery("SELECT * FROM activity ORDER BY id DESC LIMIT :most")
                .bind("most", most)
                .map((row, _) ->
                        new Activity(row.getLong("id"), Instant.parse(row.getString("at")), row.getString("what")))
                .list());
    }

    private record Undoable(long id, String what, String undo) {}

    /// The newest change that can be taken back. Once copies were asked for, adding an arrival is history:
    /// taking it back would orphan copies, or surprise whoever wanted the latest step back.
    private static Optional<Undoable> undoable(Handle h) {
        boolean copiesAskedFor = h.createQuery("SELECT count(*) FROM copy WHERE recipe_id <> ''")
                        .mapTo(Long.class)
                        .one()
                > 0;
        return h
                .createQuery(
                        "SELECT id, what, undo FROM activity WHERE undo IS NOT NULL AND undone = 0 ORDER BY id DESC")
                .map((row, _) -> new Undoable(row.getLong("id"), row.getString("what"), row.getString("undo")))
                .stream()
                .filter(change -> !(copiesAskedFor && Json.read(change.undo, Undo.class) instanceof Undo.ArrivalAdded))
                .findFirst();
    }

    /// What [#undo] would take back, for what has to be done to files before.
    public Optional<Undo> nextUndo() {
        return jdbi.withHandle(h -> undoable(h).map(change -> Json.read(change.undo, Undo.class)));
    }

    public Optional<String> whatUndoTakesBack() {
        return jdbi.withHandle(h -> undoable(h).map(Undoable::what));
    }

    /// Takes back the newest change that can be, and says which.
    public Optional<String> undo() {
        return jdbi.inTransaction(h -> {
            Optional<Undoable> last = undoable(h);
            last.ifPresent(change -> {
                takeBack(h, Json.read(change.undo, Undo.class));
                h.createUpdate("UPDATE activity SET undone = 1 WHERE id = :id")
                        .bind("id", change.id)
                        .execute();
                log(h, "Took back: " + change.what);
            });
            return last.map(Undoable::what);
        });
    }

    private void takeBack(Handle h, Undo undo) {
        switch (undo) {
            case Undo.Choices(var before, var ruled) -> {
                before.forEach((clip, recipes) -> setChoice(h, clip, Optional.of(recipes)));
                ruled.forEach(clip -> setChoice(h, clip, Optional.empty()));
            }
            case Undo.ReadAt(var before) -> before.forEach((clip, rate) -> setReadRate(h, clip, rate));
            case Undo.SettingChanged(var name, var before) -> {
                if (before.isEmpty()) {
                    h.execute("DELETE FROM setting WHERE name = ?", name);
                } else {
                    h.execute("INSERT OR REPLACE INTO setting (name, value) VALUES (?, ?)", name, before);
                }
            }
            case Undo.ArrivalAdded(var arrival) ->
                h.createUpdate("DELETE FROM arrival WHERE id = :id")
                        .bind("id", arrival)
                        .execute();
            case Undo.ArrivalTakenOut taken -> TakenOut.takeBack(h, taken);
            case Undo.RootMoved(var root, var path, var presence) -> {
                setRootPath(h, root, path);
                presence.forEach((clip, state) -> setPresence(h, clip, state.get(0), state.get(1)));
            }
            case Undo.CopiesAdded added -> CopyChanges.takeBack(h, added);
            case Undo.CopiesForgotten forgotten -> CopyChanges.takeBack(h, forgotten);
            case Undo.CopiesRenamed renamed -> CopyChanges.takeBack(h, renamed);
            case Undo.OriginalRenamed renamed -> CopyChanges.takeBack(h, renamed);
            case Undo.CopiesStopped stopped -> CopyChanges.takeBack(h, stopped);
            case Undo.MediaFound found -> CopyChanges.takeBack(h, found);
            case Undo.PinsSet pins -> Cuts.takeBack(h, pins);
            case Undo.Said said -> Cuts.takeBack(h, said);
            case Undo.PlacedElsewhere placed -> Cuts.takeBack(h, placed);
            case Undo.TimelineReplaced _ -> {} // the file is put back before
        }
    }

    // Paths

    static Root root(List<Root> roots, String id) {
        return roots.stream().filter(root -> root.id().equals(id)).findFirst().orElseThrow();
    }

    static String relative(Root root, Path path) {
        String text = root.path().relativize(path).toString();
        return java.io.File.separatorChar == '/' ? text : text.replace(java.io.File.separatorChar, '/');
    }

    private static Path absolute(String root, String relative) {
        return below(Path.of(root), relative);
    }

    /// A path of the catalogue, which may be a stranger's: none leads out of its root.
    ///
    /// @throws CatalogueUnavailable when it does
    static Path below(Path root, String relative) {
        Path path = root.resolve(relative);
        boolean plain = !relative.contains("..") && !relative.startsWith("/") && !relative.contains(":");
        if (!plain && !path.normalize().startsWith(root.normalize())) {
            throw new CatalogueUnavailable(
                    new Problem(
                            "The project's catalogue names a file outside of its folders: " + relative,
                            "it is damaged, or was changed by somebody",
                            "Nothing was changed.",
                            "Put a backup of the catalogue in place."),
                    new IllegalStateException("a path outside of " + root));
        }
        return path;
    }

    @Override
    public void close() {
        source.close();
    }
}
