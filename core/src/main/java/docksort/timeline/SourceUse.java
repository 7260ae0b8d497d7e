package docksort.timeline;

import docksort.media.FrameRate;
import docksort.media.Rational;
import java.util.Optional;

/// Which stretch of its media an event uses, as the timeline says it.
public sealed interface SourceUse {
    /// Times on the media's own clock, which starts where its timecode does.
    ///
    /// @param start seconds
    /// @param duration seconds of the event
    /// @param rate frames a second these are counted in
    /// @param speed seconds of media that one second of the event uses; 0 for a frame that stands, negative
    /// backwards
    /// @param media what the reference says of its media
    record Times(Rational start, Rational duration, FrameRate rate, Rational speed, Optional<Available> media)
            implements SourceUse {}

    /// What a reference says its media holds.
    ///
    /// @param start seconds on its clock
    /// @param duration seconds
    record Available(Rational start, Rational duration, FrameRate rate) {}

    /// Timecodes of an edit list. Lists count them in frames of the list or of the recording, and do not say
    /// which.
    ///
    /// @param in first frame
    /// @param out the frame after the last
    /// @param list rate of the list
    /// @param frames how long the event is, in frames of the list; 0 where that is not said
    /// @param speed as in [Times]
    record Labels(String in, String out, FrameRate list, long frames, Rational speed) implements SourceUse {}

    /// All of its media.
    record Whole() implements SourceUse {}
}
