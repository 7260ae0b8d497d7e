package docksort.engine;

/// How a child of the engine is to behave while it works.
///
/// @param brake holds it still for a while
/// @param rank where it stands among what runs on the machine, where the system has the means
/// @param speedCap most times real time that its input is read at, 0 for no limit
public record ProcessControl(Cancellation cancellation, Brake brake, Rank rank, int speedCap) {
    public static ProcessControl of(Cancellation cancellation) {
        return new ProcessControl(cancellation, new Brake(), Rank.USUAL, 0);
    }

    /// The same, ended by something else.
    ProcessControl cancelledBy(Cancellation other) {
        return new ProcessControl(other, brake, rank, speedCap);
    }

    /// BELOW_WINDOWS: it takes all that is left, but whoever works at the machine, with this program or
    /// another, comes first. LAST: below everything else.
    public enum Rank {
        USUAL,
        BELOW_WINDOWS,
        LAST
    }
}
