package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.Unreadable;
import docksort.catalogue.Catalogue;
import docksort.catalogue.TakenOut.Hanging;
import java.util.List;
import java.util.Set;

/// What is kept in the project, and is neither planned nor counted until it is brought back. Copies stay
/// and serve, and timelines find them.
public final class PuttingAside {
    private final Catalogue catalogue;
    private final IdleQueue idle;

    PuttingAside(Catalogue catalogue, IdleQueue idle) {
        this.catalogue = catalogue;
        this.idle = idle;
    }

    public Set<ClipId> clips() {
        return catalogue.aside().clips();
    }

    /// Clips that are not put aside.
    public List<Clip> others(List<Clip> clips) {
        Set<ClipId> aside = clips();
        return clips.stream().filter(clip -> !aside.contains(clip.id())).toList();
    }

    public List<Unreadable> unreadable() {
        return catalogue.arrivals().unreadable(true);
    }

    /// @throws InputRefused while a run may be making copies of them
    public Hanging put(List<Clip> clips, List<Unreadable> files) {
        Hanging hanging = catalogue.takenOut().hangingOn(ids(clips));
        if (!clips.isEmpty() || !files.isEmpty()) {
            String name = IdleQueue.nameOf(clips, files);
            idle.during(
                    name,
                    "put aside",
                    hanging.wanted(),
                    () -> catalogue
                            .aside()
                            .put(ids(clips), files, catalogue.roots().all(), "Put " + name + " aside"));
        }
        return hanging;
    }

    /// Puts all that came in with an arrival aside. What comes in later is not.
    ///
    /// @throws InputRefused while a run may be making copies of it
    public Hanging put(Arrival arrival) {
        return put(
                catalogue.clips().all().stream()
                        .filter(clip -> clip.arrival().equals(arrival.id()))
                        .toList(),
                catalogue.arrivals().unreadable(false).stream()
                        .filter(file -> file.arrival().equals(arrival.id()))
                        .toList());
    }

    public void bringBack(List<Clip> clips, List<Unreadable> files) {
        if (!clips.isEmpty() || !files.isEmpty()) {
            catalogue
                    .aside()
                    .bringBack(
                            ids(clips),
                            files,
                            catalogue.roots().all(),
                            "Brought " + IdleQueue.nameOf(clips, files) + " back");
        }
    }

    private static List<ClipId> ids(List<Clip> clips) {
        return clips.stream().map(Clip::id).toList();
    }
}
