package docksort.desktop.workshop;

import docksort.catalogue.Pin;
import docksort.dispatch.ConformedEvent;
import docksort.dispatch.Standing;
import docksort.dispatch.TimelineComparison;
import docksort.media.FrameRate;
import docksort.media.Raster;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// The open timeline at one moment.
///
/// @param rate as the timeline tells it
/// @param raster as the timeline tells it
/// @param delivery raster of what is delivered, empty until somebody has said it
/// @param unsaved whether the file on the disk is another
/// @param canTakeBack whether a switch can be taken back
/// @param news what was otherwise when another program had written it and it was read again
/// @param workstations for whom it can be written, beside this one
public record TimelineView(
        String name,
        Path file,
        Optional<FrameRate> rate,
        Optional<Raster> raster,
        Optional<Raster> delivery,
        List<ConformedEvent> events,
        List<Pin> pins,
        boolean unsaved,
        boolean canTakeBack,
        Optional<TimelineComparison> news,
        List<String> workstations) {
    public TimelineView {
        events = List.copyOf(events);
        pins = List.copyOf(pins);
        workstations = List.copyOf(workstations);
    }

    public long onCopies() {
        return events.stream().filter(ConformedEvent::isOnCopy).count();
    }

    public long notKnown() {
        return events.stream()
                .filter(event ->
                        event.standing() instanceof Standing.Foreign || event.standing() instanceof Standing.Doubtful)
                .count();
    }

    /// The pin that holds for an event: that of its frames, or else that of its whole clip.
    public Optional<Pin> pinOf(ConformedEvent event) {
        return event.pinIn(pins);
    }
}
