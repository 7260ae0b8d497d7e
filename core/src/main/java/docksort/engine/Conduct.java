package docksort.engine;

/// How a child of the engine is to behave while it works.
///
/// @param brake holds it still for a while
/// @param gently whether it runs below everything else on the machine, where the system has the means
/// @param speedCap most times real time that its input is read at, 0 for no limit
public record Conduct(Cancellation cancellation, Brake brake, boolean gently, int speedCap) {
    public static Conduct of(Cancellation cancellation) {
        return new Conduct(cancellation, new Brake(), false, 0);
    }
}
