package docksort.index;

import docksort.media.FrameStructure;
import java.util.stream.IntStream;

/// The pictures of one track in decode order: when each is shown, whether decoding can start at it, its
/// size and place in the file.
public sealed interface Samples permits SampleTable, FragmentTable {
    int count();

    /// Whether the file says that decoding can start at every picture.
    boolean claimsAllKeys();

    /// Hears of the shown pictures in decode order, with the time counted from the edit's start.
    void shown(FrameStructure.Visitor visitor);

    int size(int sample);

    /// How many of them lie behind the end of a file, from the first such one on.
    default long behind(long fileBytes) {
        int[] all = IntStream.range(0, count()).toArray();
        long[] places = places(all);
        for (int i = 0; i < all.length; i++) {
            if (places[i] >= 0 && places[i] + size(i) > fileBytes) {
                return (long) all.length - i;
            }
        }
        return 0;
    }

    /// Where pictures begin in the file; -1 where the table does not say.
    ///
    /// @param wanted sample numbers from 0, ascending
    long[] places(int[] wanted);
}
