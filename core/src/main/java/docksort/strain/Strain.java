package docksort.strain;

import docksort.media.ScrubCost;
import java.util.List;
import java.util.Optional;

/// How hard a clip is, with its reasons, the heaviest first.
public record Strain(Verdict verdict, Optional<ScrubCost> scrubCost, List<Reason> reasons) {
    public Strain {
        reasons = List.copyOf(reasons);
    }

    /// The first reason in a few words, empty when there is nothing to say.
    public String firstReason() {
        return reasons.isEmpty()
                ? ""
                : reasons.getFirst().figure() + " " + reasons.getFirst().text();
    }
}
