package docksort.run;

import docksort.engine.CopyOrder;
import docksort.files.PartialFile;
import java.util.Optional;

/// A job with its file in the making.
///
/// @param small gets small pictures of its frames while it is made
/// @param packets gets hashes of its packets while it is made
record Begun(Job job, PartialFile partial, Optional<PartialFile> small, Optional<PartialFile> packets, CopyOrder order)
        implements AutoCloseable {
    Begun holdingToEnd() {
        return new Begun(job, partial, small, packets, order.holdingToEnd());
    }

    @Override
    public void close() {
        partial.close();
        small.ifPresent(PartialFile::close);
        packets.ifPresent(file -> {
            PartialFile.discard(Told.readBack(file.working())); // of a check that did not come to its end
            file.close();
        });
    }
}
