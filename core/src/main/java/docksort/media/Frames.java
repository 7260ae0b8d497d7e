package docksort.media;

/// A number of frames and how it is known. A stand-in can be held to a count that is known, not to a guess.
public record Frames(long count, Origin origin) {
    public Frames {
        if (count < 0) {
            throw new IllegalArgumentException("a frame count is not negative: " + count);
        }
    }

    public boolean isCertain() {
        return origin != Origin.ESTIMATED;
    }

    /// COUNTED: every packet or file was seen. STATED: the container's index says so. ESTIMATED: duration x rate.
    public enum Origin {
        COUNTED,
        STATED,
        ESTIMATED
    }
}
