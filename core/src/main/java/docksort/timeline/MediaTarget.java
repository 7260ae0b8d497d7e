package docksort.timeline;

import docksort.media.FrameRate;
import docksort.media.Timecode;
import java.util.Map;
import java.util.Optional;

/// The file that an event is to lead to.
///
/// @param kind word for what it is, which names it beside the original; `original` for that itself
/// @param address as it shall stand in the timeline
/// @param original address of the original, to stand beside it; empty to leave what is said of it as it stands
/// @param fileName name of the file alone
/// @param available what it holds, empty for sound alone
/// @param notes what its reference says of it under our own name, such as the original's fingerprint
/// @param anew whether addresses are written anew although they lead to the right file, as for another
/// workstation
public record MediaTarget(
        String kind,
        String address,
        String original,
        String fileName,
        Optional<Held> available,
        Map<String, String> notes,
        boolean anew) {
    public static final String ORIGINAL = "original";

    public MediaTarget {
        notes = Map.copyOf(notes);
    }

    public boolean isOriginal() {
        return kind.equals(ORIGINAL);
    }

    /// Frames of a file.
    ///
    /// @param start number of the first frame on the recording's clock, which is its timecode counted in frames
    /// @param whole whether it holds all of the recording
    /// @param timecode label of the first frame, empty where the recording has none
    public record Held(long start, long frames, FrameRate rate, boolean whole, Optional<Timecode> timecode) {}
}
