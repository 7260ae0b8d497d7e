package docksort.catalogue;

import java.time.Instant;
import java.util.List;

/// What became of copies in runs.
public final class RunStore {
    private final Access jdbi;

    RunStore(Access jdbi) {
        this.jdbi = jdbi;
    }

    // What runs did

    /// Keeps what became of a copy in a run.
    public void keep(Instant run, String copyId, Object line) {
        jdbi.useTransaction(h -> h.createUpdate("""
            INSERT INTO run_line (run_micros, copy_id, line, position)
            SELECT :run, :copy, :line, coalesce(max(position), 0) + 1 FROM run_line WHERE run_micros = :run
            ON CONFLICT (run_micros, copy_id) DO UPDATE SET line = excluded.line, position = excluded.position\
            """)
                .bind("run", Micros.of(run))
                .bind("copy", copyId)
                .bind("line", Json.text(line))
                .execute());
    }

    /// When runs that did something began, the latest first.
    public List<Instant> runs() {
        return jdbi.withHandle(h -> h.createQuery("SELECT DISTINCT run_micros FROM run_line ORDER BY run_micros DESC")
                .map((row, _) -> Micros.instant(row.getLong(1)))
                .list());
    }

    /// What became of the copies of a run, in the order in which they came to their end.
    public <T> List<T> lines(Instant run, Class<T> type) {
        return jdbi.withHandle(
                h -> h.createQuery("SELECT line FROM run_line WHERE run_micros = :run ORDER BY position, copy_id")
                        .bind("run", Micros.of(run))
                        .map((row, _) -> Json.read(row.getString("line"), type))
                        .list());
    }
}
