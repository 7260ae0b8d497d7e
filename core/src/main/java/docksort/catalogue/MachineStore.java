package docksort.catalogue;

import docksort.catalogue.Machine.Asked;
import docksort.catalogue.Machine.Wish;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// Which programs make copies of a shared project, and what they are asked to do. A project in a file has one
/// such program, and nothing of this.
public final class MachineStore {
    /// Bytes a second. What is read so fast holds no encoder up: UHD of 230 Mb/s at twice its play speed is 58 MB a
    /// second. Common practice of this project, no source.
    private static final double ENOUGH = 150e6;

    private final Access jdbi;
    private final ActivityLog log;
    private final String workstation;
    private final String worker;
    private final boolean shared;

    MachineStore(Access jdbi, ActivityLog log, String workstation, String worker, boolean shared) {
        this.jdbi = jdbi;
        this.log = log;
        this.workstation = workstation;
        this.worker = worker;
        this.shared = shared;
    }

    /// What this program does at this moment.
    ///
    /// @param doing in words
    public record Doing(String doing, int making, int workers, double framesPerSecond, long made, long failed) {}

    /// Shows it to the others.
    public void show(Doing now) {
        if (!shared) {
            return;
        }
        jdbi.useHandle(h -> h.createUpdate("""
            INSERT INTO machine (worker, workstation, doing, making, workers, frames_per_second, made, failed, seen_at)
            VALUES (:worker, :here, :doing, :making, :workers, :fps, :made, :failed, clock_timestamp())
            ON CONFLICT (worker) DO UPDATE SET doing = excluded.doing, making = excluded.making,
                workers = excluded.workers, frames_per_second = excluded.frames_per_second, made = excluded.made,
                failed = excluded.failed, seen_at = excluded.seen_at\
            """)
                .bind("worker", worker)
                .bind("here", workstation)
                .bind("doing", now.doing())
                .bind("making", now.making())
                .bind("workers", now.workers())
                .bind("fps", now.framesPerSecond())
                .bind("made", now.made())
                .bind("failed", now.failed())
                .execute());
    }

    /// This program makes nothing any more.
    public void leave() {
        if (shared) {
            jdbi.useHandle(h -> h.execute(
                    "DELETE FROM machine WHERE worker = ? OR seen_at < clock_timestamp() - interval '1 day'", worker));
        }
    }

    /// All that showed themselves in the last day, by workstation.
    public List<Machine> all() {
        return shared
                ? jdbi.withHandle(h -> h.createQuery("""
                    SELECT machine.*, coalesce(wish, 'WORK') AS wish, recipes, worker = :worker AS here,
                        (SELECT json_agg(json_build_object('root', name, 'bytesPerSecond', bytes_per_second)
                            ORDER BY name) FROM reach JOIN root ON root.id = root_id
                            WHERE reach.workstation = machine.workstation) AS reads,
                        CAST(extract(epoch FROM clock_timestamp() - seen_at) * 1000 AS BIGINT) AS quiet_millis
                    FROM machine LEFT JOIN machine_wish ON machine_wish.workstation = machine.workstation
                    WHERE seen_at > clock_timestamp() - interval '1 day' ORDER BY machine.workstation, worker\
                    """)
                        .bind("worker", worker)
                        .map((row, _) -> new Machine(
                                row.getString("workstation"),
                                row.getString("doing"),
                                row.getInt("making"),
                                row.getInt("workers"),
                                row.getDouble("frames_per_second"),
                                row.getLong("made"),
                                row.getLong("failed"),
                                Duration.ofMillis(Math.max(0, row.getLong("quiet_millis"))),
                                row.getBoolean("here"),
                                Wish.valueOf(row.getString("wish")),
                                recipes(row.getString("recipes")),
                                reads(row.getString("reads"))))
                        .list())
                : List.of();
    }

    private static Optional<List<String>> recipes(@org.jspecify.annotations.Nullable String json) {
        return Optional.ofNullable(json).map(text -> Arrays.asList(Json.read(text, String[].class)));
    }

    private static List<Machine.Reads> reads(@org.jspecify.annotations.Nullable String json) {
        return json == null ? List.of() : Arrays.asList(Json.read(json, Machine.Reads[].class));
    }

    /// What this workstation is asked to do.
    public Asked asked() {
        return shared
                ? jdbi.withHandle(h -> h.createQuery("SELECT wish, recipes FROM machine_wish WHERE workstation = :here")
                        .bind("here", workstation)
                        .map((row, _) -> new Asked(Wish.valueOf(row.getString(1)), recipes(row.getString(2))))
                        .findOne()
                        .orElse(Asked.NOTHING))
                : Asked.NOTHING;
    }

    /// Asks a workstation for something. It follows within a few seconds.
    public void ask(String workstation, Wish wish) {
        jdbi.useTransaction(h -> {
            h.execute(
                    "INSERT INTO machine_wish (workstation, wish) VALUES (?, ?)"
                            + " ON CONFLICT (workstation) DO UPDATE SET wish = excluded.wish",
                    workstation,
                    wish.name());
            log.write(
                    h,
                    switch (wish) {
                        case WORK -> workstation + " makes copies again";
                        case HOLD -> workstation + " holds still what it makes";
                        case DRAIN -> workstation + " finishes what it makes and begins nothing more";
                    });
        });
    }

    /// Gives a workstation certain recipes to make, and no others. What it has begun is finished.
    ///
    /// @param recipes ids; empty for all
    /// @param what what that is, for the log
    public void give(String workstation, Optional<List<String>> recipes, String what) {
        jdbi.useTransaction(h -> {
            h.execute(
                    "INSERT INTO machine_wish (workstation, wish, recipes) VALUES (?, 'WORK', ?)"
                            + " ON CONFLICT (workstation) DO UPDATE SET recipes = excluded.recipes",
                    workstation,
                    recipes.map(Json::text).orElse(null));
            log.write(h, what);
        });
    }

    // What is near

    /// Keeps how fast this workstation reads what lies below roots.
    ///
    /// @param bytesPerSecond by root; 0 for what is not there
    public void reaches(Map<String, Double> bytesPerSecond) {
        if (shared) {
            jdbi.useHandle(h -> bytesPerSecond.forEach((root, speed) -> h.execute(
                    "INSERT INTO reach (workstation, root_id, bytes_per_second) VALUES (?, ?, ?)"
                            + " ON CONFLICT (workstation, root_id) DO UPDATE SET bytes_per_second ="
                            + " excluded.bytes_per_second",
                    workstation,
                    root,
                    speed)));
        }
    }

    /// Roots that another workstation, which makes copies now, reads at least twice as fast as this one, where this
    /// one is not fast enough anyway.
    public Set<String> far() {
        return shared
                ? jdbi.withHandle(h -> h.createQuery("""
                    SELECT mine.root_id FROM reach AS mine WHERE mine.workstation = :here
                        AND mine.bytes_per_second < :enough AND EXISTS (
                        SELECT 1 FROM reach AS other JOIN machine ON machine.workstation = other.workstation
                        LEFT JOIN machine_wish ON machine_wish.workstation = other.workstation
                        WHERE other.root_id = mine.root_id AND other.workstation <> mine.workstation
                            AND other.bytes_per_second > 0
                            AND other.bytes_per_second >= 2 * mine.bytes_per_second
                            AND seen_at > clock_timestamp() - make_interval(secs => 15)
                            AND coalesce(wish, 'WORK') = 'WORK')\
                    """)
                        .bind("here", workstation)
                        .bind("enough", ENOUGH)
                        .mapTo(String.class)
                        .set())
                : Set.of();
    }

    // Who joined

    /// Names of all workstations that joined.
    public List<String> members() {
        return shared
                ? jdbi.withHandle(h -> h.createQuery("SELECT workstation FROM member ORDER BY workstation")
                        .mapTo(String.class)
                        .list())
                : List.of();
    }

    /// Takes a name for a workstation.
    ///
    /// @return who took it before; nothing is changed then
    public Optional<String> join(String person, boolean again) {
        if (!shared) {
            return Optional.empty();
        }
        return jdbi.inTransaction(h -> {
            Optional<String> taken = h.createQuery("SELECT person FROM member WHERE workstation = :here")
                    .bind("here", workstation)
                    .mapTo(String.class)
                    .findOne();
            if (taken.isEmpty() || again) {
                h.execute(
                        "INSERT INTO member (workstation, person, joined_micros) VALUES (?, ?, ?)"
                                + " ON CONFLICT (workstation) DO UPDATE SET person = excluded.person,"
                                + " joined_micros = excluded.joined_micros",
                        workstation,
                        person,
                        Micros.of(log.now()));
                log.write(h, workstation + (taken.isPresent() ? " joined the project again" : " joined the project"));
                return Optional.<String>empty();
            }
            return taken;
        });
    }
}
