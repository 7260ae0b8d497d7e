package docksort.catalogue;

import java.nio.file.Path;
import java.util.List;
import java.util.Set;

/// Places of this workstation where new folders come in by themselves.
public final class PlaceStore {
    private final Access jdbi;
    private final ActivityLog log;
    private final String workstation;

    PlaceStore(Access jdbi, ActivityLog log, String workstation) {
        this.jdbi = jdbi;
        this.log = log;
        this.workstation = workstation;
    }

    public List<Path> watched() {
        return jdbi.withHandle(
                h -> h.createQuery("SELECT path FROM watched_place WHERE workstation = :here ORDER BY path")
                        .bind("here", workstation)
                        .mapTo(String.class)
                        .map(Path::of)
                        .list());
    }

    public void watch(Path place, boolean on, String what) {
        jdbi.useTransaction(h -> {
            h.execute(
                    on
                            ? "INSERT INTO watched_place (workstation, path) VALUES (?, ?) ON CONFLICT DO NOTHING"
                            : "DELETE FROM watched_place WHERE workstation = ? AND path = ?",
                    workstation,
                    place.toString());
            log.write(h, what);
        });
    }

    /// Folders that were taken from places before, whether or not they are arrivals still.
    public Set<Path> taken() {
        return jdbi.withHandle(h -> h.createQuery("SELECT path FROM place_taken WHERE workstation = :here")
                .bind("here", workstation)
                .mapTo(String.class)
                .map(Path::of)
                .set());
    }

    public void take(Path folder) {
        jdbi.useTransaction(h -> h.execute(
                "INSERT INTO place_taken (workstation, path) VALUES (?, ?) ON CONFLICT DO NOTHING",
                workstation,
                folder.toString()));
    }
}
