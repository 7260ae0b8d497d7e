package docksort.media;

import java.util.List;
import java.util.Optional;

/// What an inspection noticed beside the facts.
///
/// @param complaints what does not hold together, in words
/// @param contradictions facts on which two sources disagree
/// @param outOfReach why the engine cannot decode the picture; empty when it can
public record Findings(List<String> complaints, List<Contradiction> contradictions, Optional<String> outOfReach) {
    public static final Findings NONE = new Findings(List.of(), List.of(), Optional.empty());

    public Findings {
        complaints = List.copyOf(complaints);
        contradictions = List.copyOf(contradictions);
    }

    public static Findings complaining(List<String> complaints) {
        return new Findings(complaints, List.of(), Optional.empty());
    }
}
