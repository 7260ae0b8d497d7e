package docksort.media;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// What is done to the colours of a copy on purpose. It is baked in: nobody gets the original's colours back
/// out of the copy.
///
/// @param toSdr whether pictures of high dynamic range are brought down for viewing; others are not touched
/// @param decision is applied first
/// @param table is applied after it; what comes out is taken for the colours of Rec. ITU-R BT.709
public record Look(boolean toSdr, Optional<ColourDecision> decision, Optional<KeptFile> table) {
    /// The original's colours.
    public static final Look NONE = new Look(false, Optional.empty(), Optional.empty());

    public static final Look TO_SDR = new Look(true, Optional.empty(), Optional.empty());

    public Look {
        if (toSdr && (decision.isPresent() || table.isPresent())) {
            throw new IllegalArgumentException(
                    "a look is made for the picture as it was recorded: choose it, or bringing the range down");
        }
    }

    /// Whether it changes the colours of any clip; bringing high dynamic range down does not.
    public boolean isBaked() {
        return decision.isPresent() || table.isPresent();
    }

    /// The same without a step that a clip does not need.
    public Look withoutSdr() {
        return toSdr ? NONE : this;
    }

    /// Whether what a copy states of its colours is what its original states.
    public boolean keepsColours() {
        return !toSdr && table.isEmpty();
    }

    /// "slope 1.1, offset 0, power 1, saturation 0.9, Night.cube"; empty for none.
    public String label() {
        var parts = new ArrayList<String>();
        if (toSdr) {
            parts.add("brought down to standard range");
        }
        decision.ifPresent(values -> parts.add(values.label()));
        table.ifPresent(lut -> parts.add(lut.name()));
        return String.join(", ", parts);
    }

    /// Tells two looks apart by what they do, in one word.
    public String mark() {
        List<String> parts = new ArrayList<>();
        decision.ifPresent(values -> parts.add(values.mark()));
        table.ifPresent(lut -> parts.add(lut.digest().substring(0, 16)));
        return String.join("+", parts);
    }
}
