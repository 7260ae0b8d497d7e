package docksort.run;

import docksort.catalogue.WorkingCopy;
import java.util.List;

/// Hears what becomes of the copies.
interface MakingListener {
    void state(WorkingCopy copy);

    void progressed(List<WorkingCopy> copies, long frames, List<Long> bytes);

    /// How many groups are in the making, this one among them.
    int groupsInWork();

    /// How many processors this group may keep busy.
    double processors();

    void cancelled(List<WorkingCopy> copies);

    /// Another workstation makes it now, and its is the one that counts.
    void takenOver(WorkingCopy copy);

    void obstructed(WorkingCopy copy, Obstacle obstacle);

    /// Copies whose making lacked memory.
    ///
    /// @return whether they wait to be made again
    boolean lackedMemory(List<WorkingCopy> copies);

    void line(WorkingCopy copy, RunLine line);
}
