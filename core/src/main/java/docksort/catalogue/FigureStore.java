package docksort.catalogue;

import docksort.media.Fingerprint;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.jdbi.v3.core.Handle;

/// Figures that were measured, by machine and kind. Read once; then those that were measured since. Safe for use by
/// several threads: none waits for another that asks the database.
public final class FigureStore {
    private static final long SUMMED = 1_000_003; // of moments, so that a sum of very many stays a long

    private final Access jdbi;
    private final InstantSource clock;
    private final Map<String, Known> known = new ConcurrentHashMap<>(); // by machine

    FigureStore(Access jdbi, InstantSource clock) {
        this.jdbi = jdbi;
        this.clock = clock;
    }

    /// All figures of a machine as they were last read. Nothing of it changes.
    ///
    /// @param turn last one that is in them
    /// @param kinds figures by what they are of, by kind
    private record Known(long turn, Map<String, Map<Fingerprint, Kept>> kinds) {
        static final Known NOTHING = new Known(-1, Map.of());

        Extent extent() {
            long count = 0;
            long latest = -1;
            long sum = 0;
            for (Map<Fingerprint, Kept> figures : kinds.values()) {
                count += figures.size();
                for (Kept kept : figures.values()) {
                    latest = Math.max(latest, kept.micros);
                    sum += kept.micros % SUMMED;
                }
            }
            return new Extent(count, latest, sum);
        }

        Known with(List<Row> rows) {
            Map<String, Map<Fingerprint, Kept>> after = new HashMap<>(kinds);
            Set<String> own = new HashSet<>();
            for (Row row : rows) {
                if (own.add(row.kind)) {
                    after.put(row.kind, new HashMap<>(kinds.getOrDefault(row.kind, Map.of())));
                }
                after.computeIfAbsent(row.kind, _ -> new HashMap<>()).put(row.subject, row.kept);
            }
            return new Known(turn, after);
        }
    }

    private record Row(String kind, Fingerprint subject, Kept kept) {}

    /// A figure's text, and what was read from it.
    private static final class Kept {
        private final long micros; // when it was measured
        private final String text;
        private volatile Optional<Object> value = Optional.empty();

        Kept(long micros, String text) {
            this.micros = micros;
            this.text = text;
        }

        <T> T as(Class<T> type) {
            return type.cast(value.orElseGet(() -> {
                T read = Json.read(text, type);
                value = Optional.of(read);
                return read;
            }));
        }
    }

    /// How many figures there are, when the latest was measured, and a sum that is another where one was measured
    /// anew or another took its place.
    private record Extent(long count, long latest, long sum) {}

    /// Keeps figures measured on a machine in place of older ones.
    public void keep(String machine, Fingerprint subject, String kind, Object figures) {
        var row = new Row(kind, subject, new Kept(Micros.of(clock.instant()), Json.text(figures)));
        jdbi.useTransaction(h -> h.execute(
                "INSERT INTO measurement (machine, subject, kind, figures, measured_micros) VALUES (?, ?, ?, ?, ?)"
                        + " ON CONFLICT (machine, subject, kind) DO UPDATE SET figures = excluded.figures,"
                        + " measured_micros = excluded.measured_micros",
                machine,
                subject.toString(),
                kind,
                row.kept.text,
                row.kept.micros));
        known.computeIfPresent(machine, (_, before) -> before.with(List.of(row)));
    }

    /// Figures of one kind that were measured on a machine.
    public <T> Map<Fingerprint, T> of(String machine, String kind, Class<T> type) {
        Map<Fingerprint, T> found = new HashMap<>();
        now(machine).kinds().getOrDefault(kind, Map.of()).forEach((subject, kept) -> found.put(subject, kept.as(type)));
        return found;
    }

    /// Figures of all kinds with a beginning that were measured on a machine.
    public <T> List<Figure<T>> beginning(String machine, String kindsBeginning, Class<T> type) {
        var found = new ArrayList<Figure<T>>();
        now(machine).kinds().forEach((kind, figures) -> {
            if (kind.startsWith(kindsBeginning)) {
                String rest = kind.substring(kindsBeginning.length());
                figures.forEach((subject, kept) -> found.add(new Figure<>(subject, rest, kept.as(type))));
            }
        });
        return found;
    }

    private Known now(String machine) {
        Known before = known.getOrDefault(machine, Known.NOTHING);
        if (jdbi.isInside()) {
            return jdbi.withHandle(h -> caughtUp(h, machine, before)); // it may yet not take place
        }
        long turn = jdbi.since("measurement", -1).turn();
        if (turn == before.turn) {
            return before;
        }
        Map<String, Map<Fingerprint, Kept>> kinds = jdbi.withHandle(h -> caughtUp(h, machine, before)).kinds;
        var now = new Known(turn, kinds);
        known.put(machine, now);
        return now;
    }

    /// With what was measured since; everything anew where something else became different.
    private static Known caughtUp(Handle h, String machine, Known before) {
        Extent known = before.extent();
        Extent there = h.createQuery("SELECT count(*), coalesce(max(measured_micros), -1),"
                        + " coalesce(sum(measured_micros % " + SUMMED + "), 0) FROM measurement WHERE machine = :m")
                .bind("m", machine)
                .map((row, _) -> new Extent(row.getLong(1), row.getLong(2), row.getLong(3)))
                .one();
        if (there.equals(known)) {
            return before;
        }
        Known now = before.with(rows(h, machine, known.latest));
        return now.extent().equals(there) ? now : Known.NOTHING.with(rows(h, machine, Long.MIN_VALUE));
    }

    private static List<Row> rows(Handle h, String machine, long since) {
        return h.createQuery("SELECT subject, kind, figures, measured_micros FROM measurement"
                        + " WHERE machine = :m AND measured_micros > :since")
                .bind("m", machine)
                .bind("since", since)
                .map((row, _) -> new Row(
                        row.getString(2),
                        Fingerprint.parse(row.getString(1)),
                        new Kept(row.getLong(4), row.getString(3))))
                .list();
    }

    /// One figure, and the rest of its kind's name.
    public record Figure<T>(Fingerprint subject, String kind, T value) {}
}
