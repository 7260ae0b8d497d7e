package docksort.sort;

import docksort.files.Room;
import docksort.media.ByteSize;

/// What a plan puts onto one volume. Copies are written under a partial name and renamed, so that the most room
/// the plan ever needs is that of its copies.
public record VolumeLoad(Room room, PredictedBytes bytes) {
    /// Left free besides what is planned, for indexes and the file system itself.
    static final long SPARE_BYTES = 50_000_000;

    /// Bytes that are missing for the most that the copies can need.
    public ByteSize missing() {
        return new ByteSize(missing(room, bytes.most().bytes()));
    }

    /// @param most bytes that copies can need there
    static long missing(Room room, long most) {
        return most == 0 ? 0 : Math.max(0, most + SPARE_BYTES - room.free().bytes());
    }

    public boolean fits() {
        return missing().bytes() == 0;
    }

    /// What stays free when every copy has its most.
    public ByteSize freeAfter() {
        return new ByteSize(Math.max(0, room.free().bytes() - bytes.most().bytes()));
    }
}
