package docksort.sort;

import docksort.media.VideoTarget;
import docksort.strain.TimelineFormat;
import java.util.Set;

/// What a recipe depends on besides the clip.
///
/// @param timeline what the project cuts in
/// @param unavailable codecs that this machine's engine cannot make
/// @param tables digests of the lookup tables that the project has
public record Circumstances(TimelineFormat timeline, Set<VideoTarget> unavailable, Set<String> tables) {
    public Circumstances {
        unavailable = Set.copyOf(unavailable);
        tables = Set.copyOf(tables);
    }

    public Circumstances(TimelineFormat timeline, Set<VideoTarget> unavailable) {
        this(timeline, unavailable, Set.of());
    }

    public static Circumstances of(TimelineFormat timeline) {
        return new Circumstances(timeline, Set.of());
    }
}
