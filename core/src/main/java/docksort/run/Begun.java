package docksort.run;

import docksort.engine.CopyOrder;
import docksort.files.PartialFile;

/// A job with its file in the making.
record Begun(Job job, PartialFile partial, CopyOrder order) {
    Begun holdingToEnd() {
        return new Begun(job, partial, order.holdingToEnd());
    }
}
