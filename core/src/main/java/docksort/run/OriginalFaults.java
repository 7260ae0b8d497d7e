package docksort.run;

import docksort.media.FrameRange;
import docksort.run.CopyCheck.Finding;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/// What is told with a copy of the damage its original has. A copy of a damaged clip stands in for it all
/// the same: every frame that decodes is in its place.
final class OriginalFaults {
    private static final int MOST_STRETCHES = 6;

    private OriginalFaults() {}

    /// @param holes frames that do not decode
    /// @param complaint what the decoder said first, empty for nothing
    /// @param heldToEnd whether the copies' last frames were repeated because the engine gave too few
    static List<Finding> told(List<FrameRange> holes, String complaint, boolean heldToEnd) {
        var told = new ArrayList<Finding>();
        if (heldToEnd && holes.isEmpty()) {
            // The original decodes to its end: the fault lies elsewhere, and a copy with repeated frames is
            // none.
            told.add(new Finding("end", "the original's", "the engine gave fewer frames than decode", false));
        }
        if (!holes.isEmpty()) {
            String stretches = holes.stream()
                    .limit(MOST_STRETCHES)
                    .map(OriginalFaults::words)
                    .collect(Collectors.joining(" and "));
            String more = holes.size() > MOST_STRETCHES ? " and " + (holes.size() - MOST_STRETCHES) + " more" : "";
            told.add(new Finding(
                    "hole in the original",
                    "none",
                    "frames " + stretches + more
                            + " are damaged or lean on damaged ones; what decodes before them may stand there",
                    true));
        }
        if (!complaint.isEmpty()) {
            told.add(new Finding("the original's decoder", "no complaint", "said \"" + complaint + "\"", true));
        }
        return told;
    }

    private static String words(FrameRange hole) {
        return hole.count() == 1 ? Long.toString(hole.first()) : hole.first() + " to " + (hole.end() - 1);
    }
}
