package docksort.run;

import docksort.engine.CopyOrder;
import docksort.files.PartialFile;
import java.util.Optional;

/// A job with its file in the making.
///
/// @param small gets small pictures of its frames while it is made
record Begun(Job job, PartialFile partial, Optional<PartialFile> small, CopyOrder order) {
    Begun holdingToEnd() {
        return new Begun(job, partial, small, order.holdingToEnd());
    }
}
