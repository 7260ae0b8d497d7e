package docksort.dispatch;

import docksort.arrival.Clip;
import docksort.catalogue.Pin;
import docksort.media.FrameRange;
import java.util.Optional;

/// What a pin holds: a clip, or the use of some of its frames.
///
/// @param frames empty for all of the clip
public record PinnedUse(Clip clip, Optional<FrameRange> frames) {
    public boolean isOf(Pin pin) {
        return pin.clip().equals(clip.id()) && pin.frames().equals(frames);
    }

    public String inWords() {
        return clip.name() + frames.map(range -> ", " + range.inWords()).orElse("");
    }
}
