package docksort.index;

import docksort.media.FrameStructure;

/// The pictures of one track in decode order: when each is shown, whether decoding can start at it, its size
/// and place in the file.
public sealed interface Samples permits SampleTable, FragmentTable {
    int count();

    /// Whether the file says that decoding can start at every picture.
    boolean claimsAllKeys();

    /// Hears of the shown pictures in decode order, with the time counted from the edit's start.
    void shown(FrameStructure.Visitor visitor);

    int size(int sample);

    /// Where pictures begin in the file; -1 where the table does not say.
    ///
    /// @param wanted sample numbers from 0, ascending
    long[] places(int[] wanted);
}
