package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.Unreadable;
import docksort.catalogue.Catalogue;
import docksort.catalogue.TakenOut.Hanging;
import java.util.List;

/// Taking out of the project what came in by mistake, with all that hangs on it. Nothing on a disk is
/// touched, and undo takes it back.
public final class TakingOut {
    private final Catalogue catalogue;
    private final IdleQueue idle;

    TakingOut(Catalogue catalogue, IdleQueue idle) {
        this.catalogue = catalogue;
        this.idle = idle;
    }

    /// What would go with an arrival.
    public Hanging hangingOn(Arrival arrival) {
        return catalogue.takenOut().hangingOn(arrival.id());
    }

    /// What would go with clips and files that cannot be read.
    public Hanging hangingOn(List<Clip> clips, List<Unreadable> files) {
        Hanging hanging = catalogue.takenOut().hangingOn(ids(clips));
        return new Hanging(
                hanging.clips(),
                files.size(),
                hanging.copies(),
                hanging.wanted(),
                hanging.choices(),
                hanging.pins(),
                hanging.used());
    }

    private static List<ClipId> ids(List<Clip> clips) {
        return clips.stream().map(Clip::id).toList();
    }

    /// @throws InputRefused while a run may be making copies of it
    public Hanging takeOut(Arrival arrival) {
        Hanging hanging = hangingOn(arrival);
        String what = "Took out " + arrival.name() + " (clips: " + hanging.clips() + ", copies: " + hanging.copies()
                + "); all files stay";
        idle.during(
                arrival.name(),
                "taken out",
                hanging.wanted(),
                () -> catalogue.takenOut().takeOut(arrival, what));
        return hanging;
    }

    /// @throws InputRefused while a run may be making copies of them
    public Hanging takeOut(List<Clip> clips, List<Unreadable> files) {
        Hanging hanging = hangingOn(clips, files);
        String name = IdleQueue.nameOf(clips, files);
        if (!clips.isEmpty() || !files.isEmpty()) {
            idle.during(
                    name,
                    "taken out",
                    hanging.wanted(),
                    () -> catalogue
                            .takenOut()
                            .takeOut(
                                    ids(clips),
                                    files,
                                    catalogue.roots().all(),
                                    "Took out " + name + " (copies: " + hanging.copies() + "); all files stay"));
        }
        return hanging;
    }
}
