package docksort.catalogue;

import docksort.arrival.ClipId;
import docksort.media.FrameRange;
import java.util.Optional;

/// An exception from the project's serving order: this clip, or only where these frames are used, is served in
/// another. It holds while cutting; an order that asks for originals is not turned by it.
///
/// @param frames frames whose use it concerns, empty for all of the clip
/// @param order id of the serving order that holds for it
public record Pin(ClipId clip, Optional<FrameRange> frames, String order) {}
