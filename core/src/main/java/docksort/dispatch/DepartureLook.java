package docksort.dispatch;

import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.ConformedEvent.Doubt;
import docksort.dispatch.DepartureCheck.Condition;
import docksort.dispatch.DepartureCheck.FileSum;
import docksort.dispatch.DepartureCheck.Finding;
import docksort.dispatch.DepartureCheck.Ground;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.files.Checksum;
import docksort.media.FrameRange;
import docksort.media.Raster;
import docksort.problem.Causes;
import docksort.run.CopyTags;
import docksort.stock.StockLine;
import docksort.timeline.OtioTimeline;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.function.BooleanSupplier;

/// One departure check being carried out.
final class DepartureLook {
    private final Conform conform;
    private final Purpose purpose;
    private final Ground ground;
    private final BooleanSupplier cancelled;
    private final Evidence evidence;
    private final List<Finding> findings = new ArrayList<>();
    private final List<FileSum> files = new ArrayList<>();
    private final Set<Path> summed = new HashSet<>();

    DepartureLook(Conform conform, Purpose purpose, Ground ground, BooleanSupplier cancelled) {
        this.conform = conform;
        this.purpose = purpose;
        this.ground = ground;
        this.cancelled = cancelled;
        this.evidence = Evidence.of(conform, purpose, ground);
    }

    DepartureCheck carryOut(BiConsumer<Integer, Integer> progress) {
        ofTimeline();
        Map<ClipId, List<ConformedEvent>> byClip = new LinkedHashMap<>();
        for (ConformedEvent event : conform.events()) {
            ofEvent(event);
            event.clip()
                    .ifPresent(clip -> byClip.computeIfAbsent(clip.id(), _ -> new ArrayList<>())
                            .add(event));
        }
        int done = 0;
        for (List<ConformedEvent> events : byClip.values()) {
            if (cancelled.getAsBoolean() || !ofFiles(events)) {
                return result(false);
            }
            progress.accept(++done, byClip.size());
        }
        return result(true);
    }

    private DepartureCheck result(boolean complete) {
        findings.sort(Comparator.comparing(Finding::condition).thenComparingInt(Finding::event));
        return new DepartureCheck(purpose, findings, files, conform.events().size(), complete, evidence);
    }

    private void ofTimeline() {
        if (purpose == Purpose.FINISHING && !conform.document().reviewMark().isEmpty()) {
            findings.add(new Finding(
                    Condition.ON_ORIGINALS,
                    0,
                    conform.document().name(),
                    "it says of itself: " + conform.document().reviewMark() + "; switch it to originals, which"
                            + " takes that away",
                    true));
        }
        if (ground.delivery().isEmpty()) {
            findings.add(new Finding(
                    Condition.DELIVERY_RASTER,
                    0,
                    conform.document().name(),
                    "nobody has said yet which raster is delivered: say it once, for the whole project",
                    purpose == Purpose.FINISHING));
            return;
        }
        Raster delivery = ground.delivery().get();
        Raster stated = conform.document().raster().orElse(ground.timeline());
        for (Raster raster : new LinkedHashSet<>(List.of(ground.timeline(), stated))) {
            if (!raster.equals(delivery)) {
                String whose = raster.equals(ground.timeline()) ? "the project's timeline" : "the timeline's file";
                findings.add(new Finding(
                        Condition.DELIVERY_RASTER,
                        0,
                        conform.document().name(),
                        whose + " has " + raster + ", the delivery " + delivery,
                        true));
            }
        }
    }

    private void ofEvent(ConformedEvent event) {
        switch (event.standing()) {
            case Standing.Doubtful _, Standing.Foreign _ ->
                add(Condition.KNOWN, event, event.standing().label() + ": " + event.how());
            case Standing.OnCopy(var kind, var _) -> ofCopy(event, kind.label());
            case Standing.OnOriginal _ -> leadsThere(event);
            case Standing.WithoutMedia _ -> {}
        }
        for (Doubt doubt : event.doubts()) {
            switch (doubt.kind()) {
                case OUTSIDE -> add(Condition.RANGE, event, doubt.words());
                case RATE -> add(Condition.AS_CUT, event, doubt.words());
                case NOT_THERE, LEADS_NOWHERE, HOLES -> {} // looked at on the disk itself, and by the event's way
            }
        }
        handles(event);
    }

    /// A recording that was found by what else an event says proves nothing of where the event leads:
    /// that may be a file nobody here knows. A list without file names speaks of the recordings
    /// themselves.
    private void leadsThere(ConformedEvent event) {
        String address = event.event().media().address();
        boolean named = !address.isEmpty() || conform.document() instanceof OtioTimeline;
        if (named && event.way() != ConformedEvent.Way.REFERENCE) {
            add(
                    Condition.ON_ORIGINALS,
                    event,
                    (address.isEmpty() ? "it leads to no file" : "it leads to " + address)
                            + "; the original was found because " + event.how());
        }
    }

    /// An event on a copy that may not serve is told as that alone: it is the worse of the two.
    private void ofCopy(ConformedEvent event, String kind) {
        Optional<WorkingCopy> unfit = event.copy().filter(copy -> !copy.state().serves());
        if (unfit.isPresent()) {
            String note = unfit.get().note();
            add(
                    Condition.FRESH_COPIES,
                    event,
                    "its " + kind + " copy is " + unfit.get().state().label() + (note.isEmpty() ? "" : ": " + note));
        } else if (event.copy().filter(WorkingCopy::awaitsAcceptance).isPresent()) {
            add(
                    Condition.FRESH_COPIES,
                    event,
                    "its " + kind + " copy has holes of its original, and nobody has accepted that");
        } else if (purpose == Purpose.FINISHING) {
            boolean baked = event.copy().filter(WorkingCopy::bakesLook).isPresent();
            add(
                    Condition.ON_ORIGINALS,
                    event,
                    "it leads to its " + kind + " copy" + (baked ? ", which has a look baked in" : ""));
        }
    }

    /// Where a recording itself begins or ends there are no more frames to be had: that is said and
    /// does not block.
    private void handles(ConformedEvent event) {
        if (ground.handles() == 0 || event.needed().isEmpty() || event.has(Doubt.Kind.OUTSIDE)) {
            return;
        }
        long frames = event.clip()
                .flatMap(clip -> clip.facts().video())
                .map(video -> video.frames().count())
                .orElse(0L);
        FrameRange used = event.needed().get();
        long before = Math.min(ground.handles(), used.first());
        long behind = Math.min(ground.handles(), frames - used.end());
        if (before < ground.handles() || behind < ground.handles()) {
            findings.add(new Finding(
                    Condition.RANGE,
                    event.number(),
                    event.event().name(),
                    "of " + ground.handles() + " handle frames there are " + before + " before and " + behind
                            + " after",
                    false));
        }
    }

    private void add(Condition condition, ConformedEvent event, String words) {
        findings.add(new Finding(condition, event.number(), event.event().name(), words, true));
    }

    /// @return whether it was not cancelled
    private boolean ofFiles(List<ConformedEvent> events) {
        ConformedEvent first = events.getFirst();
        StockLine line = first.line().orElseThrow();
        Clip clip = line.clip();
        boolean there = there(first, clip.source().files(), "the original");
        if (there) {
            unchanged(first, clip);
        } else if (line.presence().state() == Presence.State.REFUSED) {
            add(Condition.UNCHANGED, first, line.presence().note());
        }
        damaged(first, line);
        onTrust(events, line);
        cutThroughLook(events, line);
        asCut(first, clip);
        if (clip.facts().tags().containsKey(CopyTags.SOURCE)
                || Files.exists(CopyTags.besides(clip.source().head()))) {
            add(
                    Condition.FIRST_HAND,
                    first,
                    clip.source().head() + " says of itself that it is a copy of "
                            + clip.facts().tags().getOrDefault(CopyTags.CLIP, "another file"));
        }
        boolean onOriginal = events.stream().anyMatch(event -> event.standing() instanceof Standing.OnOriginal);
        if (onOriginal && there && !sums(clip.source().files())) {
            return false;
        }
        for (ConformedEvent event : events) {
            Optional<Path> copy =
                    event.copy().filter(its -> its.state().serves()).map(WorkingCopy::file);
            if (copy.isPresent() && there(event, List.of(copy.get()), "the copy") && !sums(List.of(copy.get()))) {
                return false;
            }
        }
        return true;
    }

    private boolean there(ConformedEvent event, List<Path> wanted, String what) {
        List<Path> missing =
                wanted.stream().filter(file -> !Files.isRegularFile(file)).toList();
        if (!missing.isEmpty()) {
            add(
                    Condition.THERE,
                    event,
                    what + " is not there: " + missing.getFirst()
                            + (missing.size() > 1 ? " and " + (missing.size() - 1) + " more" : ""));
        }
        return missing.isEmpty();
    }

    private void unchanged(ConformedEvent event, Clip clip) {
        try {
            if (!ArrivalScan.fingerprint(clip.source()).equals(clip.fingerprint())) {
                add(
                        Condition.UNCHANGED,
                        event,
                        clip.source().head() + " is not the file that was inspected and that copies were made from");
            }
        } catch (IOException e) {
            add(Condition.THERE, event, clip.source().head() + " cannot be read: " + Causes.inWords(e));
        }
    }

    /// That an original does not decode everywhere is known from making a copy of it.
    private void damaged(ConformedEvent event, StockLine line) {
        line.copies().stream()
                .filter(copy -> copy.place().holes())
                .findFirst()
                .ifPresent(copy -> findings.add(new Finding(
                        Condition.THERE,
                        event.number(),
                        event.event().name(),
                        "the original is damaged: frames of it do not decode, as the check of " + copy.file()
                                + " found",
                        false)));
    }

    /// What was cut with a copy that nothing proves may be another recording altogether: that is said,
    /// and whoever signs decides.
    private void onTrust(List<ConformedEvent> events, StockLine line) {
        List<WorkingCopy> copies = line.copies().stream()
                .filter(copy -> copy.isOnTrust() && copy.mayServe())
                .toList();
        for (ConformedEvent event : events) {
            Optional<WorkingCopy> used = event.copy().or(() -> copies.stream().findFirst());
            used.filter(WorkingCopy::isOnTrust)
                    .ifPresent(copy -> findings.add(new Finding(
                            Condition.KNOWN,
                            event.number(),
                            event.event().name(),
                            "on trust: only somebody's word says that " + copy.file() + " is a copy of "
                                    + line.clip().source().head() + "; look at a frame of both where both can be seen",
                            false)));
        }
    }

    /// What was cut with copies that have a look baked in has other colours on its original: that is said, so
    /// that the look goes along.
    private void cutThroughLook(List<ConformedEvent> events, StockLine line) {
        Optional<WorkingCopy> baked = line.copies().stream()
                .filter(copy -> copy.mayServe() && copy.bakesLook())
                .findFirst();
        if (purpose == Purpose.FINISHING && baked.isPresent()) {
            events.stream()
                    .filter(event -> event.standing() instanceof Standing.OnOriginal)
                    .findFirst()
                    .ifPresent(event -> findings.add(new Finding(
                            Condition.AS_CUT,
                            event.number(),
                            event.event().name(),
                            "its copy by " + baked.get().recipeId()
                                    + " has a look baked in, which its original has not: hand the look on with it",
                            false)));
        }
    }

    private void asCut(ConformedEvent event, Clip clip) {
        Optional<CutForm> counted =
                Optional.ofNullable(ground.forms().get(clip.id())).flatMap(CutForm::parse);
        Optional<CutForm> now = CutForm.of(clip);
        if (counted.isPresent() && now.isPresent()) {
            List<String> differences = counted.get().differences(now.get());
            if (!differences.isEmpty()) {
                add(Condition.AS_CUT, event, String.join(", ", differences));
            }
        }
    }

    private boolean sums(List<Path> wanted) {
        for (Path file : wanted) {
            if (!summed.add(file)) {
                continue;
            }
            try {
                Optional<String> sum = ground.sums() ? Checksum.XXH64.of(file, cancelled) : Optional.of("");
                if (sum.isEmpty()) {
                    return false;
                }
                files.add(new FileSum(file, Files.size(file), sum.get()));
            } catch (IOException e) {
                findings.add(new Finding(
                        Condition.THERE,
                        0,
                        String.valueOf(file.getFileName()),
                        file + " cannot be read: " + Causes.inWords(e),
                        true));
            }
        }
        return true;
    }
}
