package docksort.dispatch;

import docksort.arrival.Clip;
import docksort.catalogue.Pin;
import docksort.catalogue.WorkingCopy;
import docksort.media.FrameRange;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.sort.CopyKind;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.timeline.EditList;
import docksort.timeline.LinkTable;
import docksort.timeline.MediaPath;
import docksort.timeline.MediaTarget;
import docksort.timeline.OtioTimeline;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// Gives events the file that serves them: the first of their order that is ready, with pins before the order.
/// Where none is, the original serves, and stays in sight as such. Events whose recording is not known for
/// certain stay as they are.
public final class Switching {
    private final Conform conform;
    private final ServingOrder order;
    private final List<Pin> pins;
    private final Addressing addressing;
    private final Path folder;
    private final Set<String> unreachable = new LinkedHashSet<>();
    private final Set<WorkingCopy> copies = new LinkedHashSet<>();
    private int changed;

    private Switching(Conform conform, ServingOrder order, List<Pin> pins, Addressing addressing, Path folder) {
        this.conform = conform;
        this.order = order;
        this.pins = pins;
        this.addressing = addressing;
        this.folder = folder;
    }

    /// What was done.
    ///
    /// @param changed how many events lead elsewhere now
    /// @param copies copies that serve some event now
    /// @param unreachable files that the workstation it is written for has no path to; their events stayed
    public record Outcome(int changed, List<WorkingCopy> copies, List<String> unreachable) {
        public Outcome {
            copies = List.copyOf(copies);
            unreachable = List.copyOf(unreachable);
        }
    }

    /// Changes the document that was conformed.
    ///
    /// @param folder folder that the document will lie in
    public static Outcome carryOut(
            Conform conform, ServingOrder order, List<Pin> pins, Addressing addressing, Path folder) {
        var switching = new Switching(conform, order, pins, addressing, folder);
        conform.events().forEach(switching::turn);
        return switching.outcome();
    }

    /// Writes addresses anew and leaves every event on what it is on.
    public static Outcome readdress(Conform conform, Addressing addressing, Path folder) {
        var switching = new Switching(conform, ServingOrder.ORIGINALS, List.of(), addressing, folder);
        for (ConformedEvent event : conform.events()) {
            String now = event.event().media().address();
            if (event.line().isPresent() && addressing.concerns(now)) {
                switching.point(event, event.line().get().clip(), event.copy());
            } else if (event.line().isEmpty() && addressing.manner() == Addressing.Manner.ELSEWHERE) {
                switching.carryAlong(event, now);
            }
        }
        return switching.outcome();
    }

    /// Media that is not the project's is found from the new folder as from the old.
    private void carryAlong(ConformedEvent event, String now) {
        Optional<Path> file = MediaPath.readings(now).stream()
                .filter(path -> path.form() == MediaPath.Form.RELATIVE)
                .findFirst()
                .flatMap(path -> path.from(
                                MediaPath.of(folderOf(conform.document().file())))
                        .local());
        file.flatMap(path -> address(path, now)).ifPresent(address -> {
            var target =
                    new MediaTarget(MediaTarget.ORIGINAL, address, address, address, Optional.empty(), Map.of(), true);
            conform.document().point(event.number(), target, now::equals);
        });
    }

    private static Path folderOf(Path file) {
        Path parent = file.getParent();
        return parent == null ? file : parent;
    }

    private Outcome outcome() {
        return new Outcome(changed, List.copyOf(copies), List.copyOf(unreachable));
    }

    private void turn(ConformedEvent event) {
        event.line().ifPresent(line -> point(event, line.clip(), serving(event, line, order, pins)));
    }

    private void point(ConformedEvent event, Clip clip, Optional<WorkingCopy> copy) {
        String like = event.event().media().address();
        Path original = clip.source().head();
        Path file = copy.map(WorkingCopy::file).orElse(original);
        Optional<String> toOriginal = address(original, like);
        Optional<String> toServed = copy.isEmpty() ? toOriginal : address(file, like);
        if (toServed.isEmpty()) {
            unreachable.add(file.toString());
            return;
        }
        var target = new MediaTarget(
                copy.map(its -> its.kind().label()).orElse(MediaTarget.ORIGINAL),
                toServed.get(),
                toOriginal.orElse(""), // then what is said of the original stays as it stands
                String.valueOf(file.getFileName()),
                held(clip, copy.flatMap(WorkingCopy::range)),
                Map.of("source", clip.fingerprint().toString()),
                addressing.anew() || event.way() == ConformedEvent.Way.FOLDER_AND_NAME);
        if (conform.document().point(event.number(), target, address -> conform.leadsToOriginal(address, clip))) {
            changed++;
        }
        copy.ifPresent(copies::add);
    }

    private Optional<String> address(Path file, String like) {
        boolean urls = switch (conform.document()) {
            case OtioTimeline _ -> true;
            case EditList _ -> false;
            case LinkTable _ -> false;
        };
        return addressing.write(file, folder, like, urls);
    }

    private static Optional<MediaTarget.Held> held(Clip clip, Optional<FrameRange> range) {
        Optional<VideoFacts> video = clip.facts().video();
        Optional<Timecode> start = clip.facts().startTimecode();
        long first = range.map(FrameRange::first).orElse(0L);
        return video.map(v -> new MediaTarget.Held(
                start.map(Timecode::frameOfDay).orElse(0L) + first,
                range.map(FrameRange::count).orElse(v.frames().count()),
                v.rate(),
                range.isEmpty(),
                start.map(timecode -> timecode.plus(first))));
    }

    /// The copy that serves an event; empty where its original does. A copy of a range serves events that lie
    /// in it, beside the full copies it is like. Orders that ask for originals are not turned by pins: nothing
    /// leaves on a copy because somebody forgot a pin.
    static Optional<WorkingCopy> serving(ConformedEvent event, StockLine line, ServingOrder order, List<Pin> pins) {
        ServingOrder own = order.kinds().isEmpty()
                ? order
                : event.pinIn(pins)
                        .flatMap(pin -> ServingOrder.named(pin.order()))
                        .map(pinned -> pinned.withLightLines(order.lightLines()))
                        .orElse(order);
        var kinds = new ArrayList<CopyKind>();
        for (CopyKind kind : own.kinds()) {
            kinds.add(kind);
            if (kind == CopyKind.FULL) {
                kinds.add(CopyKind.RANGE);
            }
        }
        for (CopyKind kind : kinds) {
            Optional<WorkingCopy> best = own.best(
                    kind,
                    line.copies().stream()
                            .filter(copy -> copy.kind() == kind && copy.mayServe() && holds(copy, event))
                            .toList());
            if (best.isPresent()) {
                return best;
            }
        }
        return Optional.empty();
    }

    private static boolean holds(WorkingCopy copy, ConformedEvent event) {
        if (copy.range().isEmpty()) {
            return true;
        }
        boolean inside = event.needed().filter(copy.range().get()::contains).isPresent();
        return inside && !event.has(ConformedEvent.Doubt.Kind.OUTSIDE);
    }
}
