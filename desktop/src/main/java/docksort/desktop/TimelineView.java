package docksort.desktop;

import docksort.dispatch.TimelineEvent;
import java.nio.file.Path;
import java.util.List;

/// The open timeline at one moment.
///
/// @param unsaved whether the file on the disk is another
/// @param canTakeBack whether a switch can be taken back
public record TimelineView(String name, Path file, List<TimelineEvent> events, boolean unsaved, boolean canTakeBack) {
    public TimelineView {
        events = List.copyOf(events);
    }

    public long onCopies() {
        return events.stream().filter(TimelineEvent::isOnCopy).count();
    }
}
