package docksort.catalogue;

import docksort.media.Fingerprint;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/// Figures that were measured, by machine and kind.
public final class FigureStore {
    private final Access jdbi;
    private final InstantSource clock;

    FigureStore(Access jdbi, InstantSource clock) {
        this.jdbi = jdbi;
        this.clock = clock;
    }

    /// Keeps figures measured on a machine in place of older ones.
    public void keep(String machine, Fingerprint subject, String kind, Object figures) {
        jdbi.useTransaction(h -> h.execute(
                "INSERT INTO measurement (machine, subject, kind, figures, measured_micros) VALUES (?, ?, ?, ?, ?)"
                        + " ON CONFLICT (machine, subject, kind) DO UPDATE SET figures = excluded.figures,"
                        + " measured_micros = excluded.measured_micros",
                machine,
                subject.toString(),
                kind,
                Json.text(figures),
                Micros.of(clock.instant())));
    }

    /// Figures of one kind that were measured on a machine.
    public <T> Map<Fingerprint, T> of(String machine, String kind, Class<T> type) {
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
    public <T> List<Figure<T>> beginning(String machine, String kindsBeginning, Class<T> type) {
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
}
