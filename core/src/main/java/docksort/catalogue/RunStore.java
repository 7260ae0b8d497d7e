package docksort.catalogue;

import java.time.Instant;
import java.util.List;
import org.jdbi.v3.core.Jdbi;

/// What became of copies in runs.
public final class RunStore {
    private final Jdbi jdbi;

    RunStore(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    // What runs did

    /// Keeps what became of a copy in a run.
    public void keep(Instant run, String copyId, Object line) {
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
    public <T> List<T> lines(Instant run, Class<T> type) {
        return jdbi.withHandle(h -> h.createQuery("SELECT line FROM run_line WHERE run = :run ORDER BY rowid")
                .bind("run", run.toString())
                .map((row, _) -> Json.read(row.getString("line"), type))
                .list());
    }
}
