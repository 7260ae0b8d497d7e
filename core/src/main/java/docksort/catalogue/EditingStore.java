package docksort.catalogue;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/// What people of a shared project have open to change it: a hint for the others, and no lock.
public final class EditingStore {
    /// A program that does not renew its hints any more has nothing open.
    private static final int SECONDS = 15;

    private final Access jdbi;
    private final Desk desk;
    private final String worker;
    private final boolean shared;

    EditingStore(Access jdbi, Desk desk, String worker, boolean shared) {
        this.jdbi = jdbi;
        this.desk = desk;
        this.worker = worker;
        this.shared = shared;
    }

    /// Shows that this program has these subjects open now, and no others.
    public void show(Set<String> subjects) {
        if (!shared) {
            return;
        }
        jdbi.useHandle(h -> {
            for (String subject : subjects) {
                h.createUpdate("""
                    INSERT INTO editing (worker, subject, person, workstation, seen_at)
                    VALUES (:worker, :subject, :person, :here, clock_timestamp())
                    ON CONFLICT (worker, subject) DO UPDATE SET seen_at = excluded.seen_at\
                    """)
                        .bind("worker", worker)
                        .bind("subject", subject)
                        .bind("person", desk.person())
                        .bind("here", desk.workstation())
                        .execute();
            }
            h.createUpdate("""
                DELETE FROM editing WHERE worker = :worker AND subject <> ALL (:open)
                    OR seen_at < clock_timestamp() - interval '1 day'\
                """)
                    .bind("worker", worker)
                    .bindArray("open", String.class, List.copyOf(subjects))
                    .execute();
        });
    }

    /// Who else has something open, by subject, as "person at workstation".
    public Map<String, List<String>> others() {
        if (!shared) {
            return Map.of();
        }
        Map<String, List<String>> found = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("""
            SELECT subject, person || ' at ' || workstation FROM editing
            WHERE worker <> :worker AND seen_at > clock_timestamp() - make_interval(secs => :lasts)
            ORDER BY workstation, worker\
            """)
                .bind("worker", worker)
                .bind("lasts", SECONDS)
                .map((row, _) -> Map.entry(row.getString(1), row.getString(2)))
                .forEach(row -> found.computeIfAbsent(row.getKey(), _ -> new ArrayList<>())
                        .add(row.getValue())));
        return found;
    }
}
