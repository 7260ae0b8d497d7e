package docksort.project;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.AsSeen;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Pin;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.Addressing;
import docksort.dispatch.Conform;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.PinnedUse;
import docksort.dispatch.Switching;
import docksort.problem.CoreException.ChangedMeanwhile;
import docksort.stock.ServingOrder;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// What serves each clip: switching a timeline, and pins.
public final class Serving {
    private final Catalogue catalogue;
    private final Settings settings;
    private final InstantSource clock;

    Serving(Catalogue catalogue, Settings settings, InstantSource clock) {
        this.catalogue = catalogue;
        this.settings = settings;
        this.clock = clock;
    }

    /// Gives every event the file that serves it, for this workstation and in the manner of what stands
    /// there.
    public Switching.Outcome switchTo(Conform conform, ServingOrder order) {
        Switching.Outcome outcome = Switching.carryOut(
                conform,
                order.withLightLines(settings.lightLines()),
                catalogue.timelines().pins(),
                Addressing.AS_IT_STANDS,
                TimelineFiles.folderOf(conform.document().file()));
        boolean onOriginals = outcome.copies().isEmpty();
        if (onOriginals && !conform.document().reviewMark().isEmpty()) {
            conform.document().markReview(""); // it left for a review on copies, and is on none any more
        }
        catalogue.copyChanges().served(outcome.copies(), clock.instant());
        List<ClipId> onCopies =
                outcome.copies().stream().map(WorkingCopy::clip).distinct().toList();
        Map<ClipId, Clip> clips = new HashMap<>();
        conform.events().forEach(event -> event.clip().ifPresent(clip -> clips.put(clip.id(), clip)));
        catalogue
                .timelines()
                .keepForms(
                        DepartureCheck.formsOf(onCopies.stream().map(clips::get).toList()));
        return outcome;
    }

    public List<Pin> pins() {
        return catalogue.timelines().pins();
    }

    /// Pins clips, or uses of some of their frames, to an order, as one change.
    ///
    /// @param order empty to take the pins away
    public void pin(List<PinnedUse> uses, Optional<ServingOrder> order) {
        pin(uses, order, AsSeen.NOW);
    }

    /// The same, where nobody else pinned one of the clips otherwise since they were seen.
    ///
    /// @throws ChangedMeanwhile when somebody did; then nothing is changed
    public void pin(List<PinnedUse> uses, Optional<ServingOrder> order, AsSeen seen) {
        Set<PinnedUse> each = new LinkedHashSet<>(uses);
        if (each.isEmpty()) {
            return;
        }
        List<Pin> pins = order.stream()
                .flatMap(to -> each.stream().map(use -> new Pin(use.clip().id(), use.frames(), to.id())))
                .toList();
        boolean one = each.size() == 1;
        String what = one ? each.iterator().next().inWords() : each.size() + " uses";
        catalogue
                .timelines()
                .pin(
                        pins,
                        pin -> each.stream().anyMatch(use -> use.isOf(pin)),
                        order.map(to -> what + (one ? " is" : " are") + " pinned to " + to.label())
                                .orElse((one ? "Took the pin from " : "Took the pins from ") + what),
                        seen);
    }
}
