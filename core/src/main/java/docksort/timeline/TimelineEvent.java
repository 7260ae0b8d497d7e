package docksort.timeline;

import docksort.media.Rational;

/// One use of media in a timeline.
///
/// @param number counted from 1 through the whole document
/// @param track name of the track, or its kind and number
/// @param name the event's name as the timeline has it
/// @param begins seconds into the track
/// @param frames its length in frames as the timeline states it, 0 where it does not
/// @param kind what of the media it uses
/// @param transition the dissolve or wipe that it begins with
/// @param overlap what transitions at its two ends need of its media beyond `use`
public record TimelineEvent(
        int number,
        String track,
        String name,
        Rational begins,
        long frames,
        Kind kind,
        Mention media,
        Transition transition,
        Overlap overlap,
        SourceUse use) {

    /// A dissolve or wipe over a cut.
    ///
    /// @param before seconds of it before the cut
    /// @param after seconds of it after the cut
    public record Transition(Rational before, Rational after) {
        public static final Transition NONE = new Transition(Rational.ZERO, Rational.ZERO);

        public Rational length() {
            return before.plus(after);
        }
    }

    /// Media under a transition that an event's own stretch does not count.
    ///
    /// @param before seconds ahead of that stretch
    /// @param after seconds behind it
    public record Overlap(Rational before, Rational after) {
        public static final Overlap NONE = new Overlap(Rational.ZERO, Rational.ZERO);
    }

    /// What of its media an event uses.
    public enum Kind {
        PICTURE,
        SOUND
    }
}
