package docksort.sort;

import docksort.arrival.ClipId;
import java.util.List;

/// A mistake that the load sheet would make, with the clips it concerns and what would mend it.
///
/// @param stops whether the run must not start with it
public record Warning(String text, String remedy, List<ClipId> clips, boolean stops) {
    public Warning {
        clips = List.copyOf(clips);
    }
}
