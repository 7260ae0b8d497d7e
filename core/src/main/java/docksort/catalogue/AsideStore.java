package docksort.catalogue;

import docksort.arrival.ClipId;
import docksort.arrival.Unreadable;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.jdbi.v3.core.Handle;

/// What a person put aside: kept in the project with all that hangs on it, neither planned nor counted.
public final class AsideStore {
    private final Access jdbi;
    private final ActivityLog log;

    AsideStore(Access jdbi, ActivityLog log) {
        this.jdbi = jdbi;
        this.log = log;
    }

    public Set<ClipId> clips() {
        return jdbi.withHandle(h -> h.createQuery("SELECT id FROM clip WHERE put_aside")
                .mapTo(String.class)
                .map(ClipId::new)
                .set());
    }

    /// Puts clips, and files that cannot be read, aside as one change. Copies of them that are still to be
    /// made leave the queue.
    public void put(List<ClipId> clips, List<Unreadable> files, List<Root> roots, String what) {
        set(clips, files, roots, true, what);
    }

    public void bringBack(List<ClipId> clips, List<Unreadable> files, List<Root> roots, String what) {
        set(clips, files, roots, false, what);
    }

    private void set(List<ClipId> clips, List<Unreadable> files, List<Root> roots, boolean aside, String what) {
        jdbi.useTransaction(h -> {
            String change = UUID.randomUUID().toString();
            List<String> changed = Ids.some(clips.stream().map(ClipId::value).toList())
                    .flatMap(ids -> h
                            .createQuery("SELECT id FROM clip WHERE put_aside <> :aside AND id IN (<ids>) ORDER BY id")
                            .bind("aside", aside)
                            .bindList("ids", ids)
                            .mapTo(String.class)
                            .list()
                            .stream())
                    .toList();
            if (aside) {
                TakenOut.takeOutQueued(h, change, changed);
            }
            mark(h, changed, aside);
            var places = new ArrayList<List<String>>();
            for (Unreadable file : files) {
                Root root = TakenOut.rootOf(h, roots, file);
                List<String> place = List.of(file.arrival().value(), CataloguePaths.relative(root, file.file()));
                if (markFile(h, place, aside) > 0) {
                    places.add(place);
                }
            }
            log.write(h, what, new Undo.AsideChanged(change, changed, places, aside));
        });
    }

    private static void mark(Handle h, List<String> clips, boolean aside) {
        Ids.some(clips)
                .forEach(ids -> h.createUpdate("UPDATE clip SET put_aside = :aside WHERE id IN (<ids>)")
                        .bind("aside", aside)
                        .bindList("ids", ids)
                        .execute());
    }

    private static int markFile(Handle h, List<String> place, boolean aside) {
        return h.execute(
                "UPDATE unreadable SET put_aside = ? WHERE arrival_id = ? AND path = ? AND put_aside = ?",
                aside,
                place.getFirst(),
                place.getLast(),
                !aside);
    }

    static Undo takeBack(Handle h, Undo.AsideChanged undo) {
        boolean aside = !undo.aside();
        String change = UUID.randomUUID().toString();
        if (aside) {
            TakenOut.takeOutQueued(h, change, undo.clips());
        }
        mark(h, undo.clips(), aside);
        undo.files().forEach(place -> markFile(h, place, aside));
        TakenOut.putBack(h, undo.change());
        return new Undo.AsideChanged(change, undo.clips(), undo.files(), aside);
    }
}
