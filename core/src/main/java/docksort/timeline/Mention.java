package docksort.timeline;

import java.util.List;

/// What an event says of its media.
///
/// @param address where it leads now; empty without media
/// @param others further addresses that it keeps, such as that of the original beside the copy's
/// @param reel the reel or tape, empty where none is named
/// @param clipName the recording's name or file name, empty where none is given
/// @param fingerprint content the media was made from, as a copy's reference states it; empty where it does not
public record Mention(String address, List<String> others, String reel, String clipName, String fingerprint) {
    public static final Mention NONE = new Mention("", List.of(), "", "", "");

    public Mention {
        others = List.copyOf(others);
    }

    /// Whether there is nothing to find media by, as for black or a generator.
    public boolean isEmpty() {
        return address.isEmpty() && others.isEmpty() && reel.isEmpty() && clipName.isEmpty();
    }

    /// By which the same mention is known in another version of a timeline.
    public String key() {
        return String.join("\u0000", address, reel, clipName);
    }
}
