package docksort.run;

import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/// Copies that are made together by one worker.
final class Group {
    final List<WorkingCopy> copies;
    final Cancellation cancellation = new Cancellation();
    final Set<String> dropped = new HashSet<>();

    Group(List<WorkingCopy> copies) {
        this.copies = copies;
    }
}
