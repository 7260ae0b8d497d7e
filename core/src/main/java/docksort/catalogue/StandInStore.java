package docksort.catalogue;

import docksort.media.Fingerprint;
import docksort.strain.Traits;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.jdbi.v3.core.Handle;

/// What decides how well copies stand in. It belongs to what a file holds, not to where it lies or what
/// it is taken for, so that nothing of it changes or is undone.
public final class StandInStore {
    private final Access jdbi;
    private final Map<String, Traits> read = new ConcurrentHashMap<>();
    private boolean all;

    StandInStore(Access jdbi) {
        this.jdbi = jdbi;
    }

    /// All at once, when they are first asked for.
    private synchronized void readAll() {
        if (!all) {
            jdbi.useHandle(h -> h.createQuery("SELECT fingerprint, traits FROM stand_in")
                    .map((row, _) -> Map.entry(row.getString(1), Json.read(row.getString(2), Traits.class)))
                    .forEach(entry -> read.put(entry.getKey(), entry.getValue())));
            all = true;
        }
    }

    public void keep(Map<Fingerprint, Traits> traits) {
        jdbi.useTransaction(h -> traits.forEach((fingerprint, one) -> insert(h, fingerprint, one)));
        traits.forEach((fingerprint, one) -> read.put(fingerprint.toString(), one));
    }

    static void insert(Handle h, Fingerprint fingerprint, Traits traits) {
        h.execute(
                "INSERT INTO stand_in (fingerprint, traits) VALUES (?, ?)"
                        + " ON CONFLICT (fingerprint) DO UPDATE SET traits = excluded.traits",
                fingerprint.toString(),
                Json.text(traits));
    }

    /// @return empty for copies that came in before this was kept, and for those that this program made
    public Optional<Traits> of(WorkingCopy copy) {
        readAll();
        String fingerprint = copy.place().fingerprint();
        if (fingerprint.isEmpty()) {
            return Optional.empty();
        }
        // Somebody else may keep it later, so that what is not there is asked for again.
        Optional<Traits> known = Optional.ofNullable(read.get(fingerprint)).or(() -> ask(fingerprint));
        known.ifPresent(traits -> read.put(fingerprint, traits));
        return known;
    }

    private Optional<Traits> ask(String fingerprint) {
        return jdbi.withHandle(h -> h.createQuery("SELECT traits FROM stand_in WHERE fingerprint = :fingerprint")
                .bind("fingerprint", fingerprint)
                .mapTo(String.class)
                .findOne()
                .map(text -> Json.read(text, Traits.class)));
    }
}
