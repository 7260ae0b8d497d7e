package docksort.media;

import java.util.Optional;

/// A number of frames, how it is known, and how one of them is found in the file. A stand-in can be held
/// to a count that is known, not to a guess.
///
/// @param firstAt seconds from the beginning of the file, where sound may begin, to the first frame;
///     empty for none
/// @param reach how one frame is reached
/// @param missingAtEnd how many of them the index lists behind the end of the file
public record Frames(long count, Origin origin, Optional<Rational> firstAt, Reach reach, long missingAtEnd) {
    public Frames {
        if (missingAtEnd < 0 || missingAtEnd > count) {
            throw new IllegalArgumentException(missingAtEnd + " of " + count + " frames cannot be missing");
        }
        if (count < 0) {
            throw new IllegalArgumentException("a frame count is not negative: " + count);
        }
        if (reach == null) {
            reach = Reach.JUMP; // a catalogue of before does not say
        }
    }

    public Frames(long count, Origin origin) {
        this(count, origin, Optional.empty(), Reach.JUMP);
    }

    /// None of them missing.
    public Frames(long count, Origin origin, Optional<Rational> firstAt, Reach reach) {
        this(count, origin, firstAt, reach, 0);
    }

    /// With frames behind the end of the file.
    public Frames lacking(long missing) {
        return new Frames(count, origin, firstAt, reach, Math.clamp(missing, 0, count));
    }

    public boolean isCertain() {
        return origin != Origin.ESTIMATED;
    }

    /// COUNTED: every packet or file was seen. STATED: the container's index says so. ESTIMATED: duration x
    /// rate.
    public enum Origin {
        COUNTED,
        STATED,
        ESTIMATED
    }

    /// JUMP: a jump to its time lands before it. FIRST: a jump may land where decoding cannot begin; all
    /// is decoded from the first frame on, and time stamps tell which is shown when. NEARLY: the
    /// container has no index, a jump may land up to a group of pictures late. COUNT: time stamps do not
    /// tell which frame is shown when; frames must be counted from the first.
    public enum Reach {
        JUMP,
        FIRST,
        NEARLY,
        COUNT
    }

    public Frames reached(Optional<Rational> newFirstAt, Reach newReach) {
        return new Frames(count, origin, newFirstAt, newReach, missingAtEnd);
    }
}
