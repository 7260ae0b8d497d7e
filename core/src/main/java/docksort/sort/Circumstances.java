package docksort.sort;

import docksort.media.VideoTarget;
import docksort.strain.TimelineFormat;
import java.util.Set;

/// What a recipe depends on besides the clip.
///
/// @param timeline what the project cuts in
/// @param unavailable codecs that this machine's engine cannot make
public record Circumstances(TimelineFormat timeline, Set<VideoTarget> unavailable) {
    public Circumstances {
        unavailable = Set.copyOf(unavailable);
    }

    public static Circumstances of(TimelineFormat timeline) {
        return new Circumstances(timeline, Set.of());
    }
}
