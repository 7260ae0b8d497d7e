package docksort.sort;

import docksort.media.VideoTarget;
import docksort.strain.TimelineFormat;
import java.util.Set;

/// What a recipe depends on besides the clip.
///
/// @param timeline what the project cuts in
/// @param unavailable codecs that this machine's engine cannot make
/// @param kept digests of the lookup tables and images that the project has
public record Circumstances(TimelineFormat timeline, Set<VideoTarget> unavailable, Set<String> kept) {
    public Circumstances {
        unavailable = Set.copyOf(unavailable);
        kept = Set.copyOf(kept);
    }

    public Circumstances(TimelineFormat timeline, Set<VideoTarget> unavailable) {
        this(timeline, unavailable, Set.of());
    }

    public static Circumstances of(TimelineFormat timeline) {
        return new Circumstances(timeline, Set.of());
    }
}
