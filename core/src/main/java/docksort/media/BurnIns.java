package docksort.media;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/// All that is drawn into a copy's picture.
///
/// @param words each at another place
public record BurnIns(List<BurnIn> words, Optional<FrameLines> frame) {
    public static final BurnIns NONE = new BurnIns(List.of(), Optional.empty());

    public BurnIns {
        words = List.copyOf(words);
    }

    public static BurnIns of(BurnIn... words) {
        return new BurnIns(List.of(words), Optional.empty());
    }

    public boolean isEmpty() {
        return words.isEmpty() && frame.isEmpty();
    }

    /// What each is, for people.
    public List<String> labels() {
        return Stream.concat(words.stream().map(BurnIn::label), frame.stream().map(FrameLines::label))
                .toList();
    }

    /// As marks of recipes have it: the same as before there were frame lines.
    @Override
    public String toString() {
        var all = new ArrayList<Object>(words);
        frame.ifPresent(all::add);
        return all.toString();
    }
}
