package docksort.run;

import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.CopyMaker;
import docksort.engine.CopyOrder;
import docksort.engine.FrameSamples;
import docksort.engine.PacketHashes;
import docksort.engine.ProcessControl;
import docksort.files.CopyFolder;
import docksort.files.PartialFile;
import docksort.files.Room;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.SoundMix;
import docksort.media.VideoFacts;
import docksort.problem.CoreException.StorageFailed;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongSupplier;

/// Makes copies of one clip in one pass over it.
final class TogetherMaking {
    private static final int ROOM_TO_TELL = 20; // times what telling of frames takes has to be free

    private final RunTools tools;
    private final RunHost host;
    private final boolean checksAll;
    private final LongSupplier heldNanos;
    private final Publishing publishing;
    private final Setbacks setbacks;

    TogetherMaking(
            RunTools tools,
            RunHost host,
            boolean checksAll,
            LongSupplier heldNanos,
            Publishing publishing,
            Setbacks setbacks) {
        this.checksAll = checksAll;
        this.tools = tools;
        this.host = host;
        this.heldNanos = heldNanos;
        this.publishing = publishing;
        this.setbacks = setbacks;
    }

    void make(List<Job> jobs, MakingListener listener, ProcessControl control) throws InterruptedException {
        var begun = new ArrayList<Begun>();
        try {
            for (Job job : jobs) {
                begin(job, listener).ifPresent(begun::add);
            }
            if (!begun.isEmpty()) {
                encode(begun, listener, control);
            }
        } finally {
            begun.forEach(Begun::close);
        }
    }

    private Optional<Begun> begin(Job job, MakingListener listener) {
        WorkingCopy copy = job.copy();
        try {
            CopyFolder folder = host.folder(copy, job.clip());
            Path inFolder = folder.root().relativize(copy.file());
            var subFolders = new ArrayList<String>();
            for (int i = 0; i < inFolder.getNameCount() - 1; i++) {
                subFolders.add(inFolder.getName(i).toString());
            }
            String name = String.valueOf(copy.file().getFileName());
            PartialFile partial = folder.begin(subFolders, name);
            CopyOrder order = job.order(partial.working());
            Optional<PartialFile> small = checksAll && order.mayTellFrames() && hasRoomToTell(partial, job)
                    ? Optional.of(folder.begin(subFolders, name + ".frames"))
                    : Optional.empty();
            Optional<PartialFile> packets = checksAll && PacketHashes.mayTell(order)
                    ? Optional.of(folder.begin(subFolders, name + ".packets"))
                    : Optional.empty();
            CopyOrder telling = small.map(file -> order.telling(file.working())).orElse(order);
            return Optional.of(new Begun(
                    job,
                    partial,
                    small,
                    packets,
                    packets.map(file -> telling.hashing(file.working())).orElse(telling)));
        } catch (StorageFailed e) {
            setbacks.failOrWait(job, e.problem(), CopyMaker.Lack.NOTHING, listener, Spent.NOTHING);
            return Optional.empty();
        }
    }

    /// A volume that is nearly full is left to the copies.
    private static boolean hasRoomToTell(PartialFile partial, Job job) {
        Path folder = Objects.requireNonNull(partial.working().getParent());
        long free = Room.of(folder).free().bytes();
        return FrameSamples.size(job.form().frames(), job.form().interlaced()).bytes() < free / ROOM_TO_TELL;
    }

    private void encode(List<Begun> begun, MakingListener listener, ProcessControl control)
            throws InterruptedException {
        List<WorkingCopy> copies = begun.stream().map(each -> each.job().copy()).toList();
        copies.forEach(copy -> listener.state(copy.withState(CopyState.MAKING, "")));
        Instant start = Instant.now();
        long before = System.nanoTime();
        long heldBefore = heldNanos.getAsLong();
        var progress = new CopyMaker.Listener() {
            @Override
            public void progressed(long frames, List<Long> bytes) {
                listener.progressed(copies, frames, bytes);
            }

            @Override
            public double processors() {
                return listener.processors();
            }

            @Override
            public void segmented(int segments) {
                String note = "in " + segments + " segments at the same time";
                copies.forEach(copy -> listener.state(copy.withState(CopyState.MAKING, note)));
            }
        };
        CopyMaker.Outcome outcome =
                tools.maker().make(begun.stream().map(Begun::order).toList(), progress, control);
        long held = heldNanos.getAsLong() - heldBefore;
        var spent = new Spent(start, (System.nanoTime() - before - held) / 1e9, held > 0, "", begun.size(), 1);
        switch (outcome) {
            case CopyMaker.Outcome.Cancelled() -> listener.cancelled(copies);
            case CopyMaker.Outcome.Failed(var problem, var lack) -> {
                boolean full = lack == CopyMaker.Lack.ROOM;
                if (lack == CopyMaker.Lack.MEMORY && listener.lackedMemory(copies)) {
                    return; // they wait, and are made while fewer others are
                }
                if (begun.size() > 1 && !full) {
                    oneByOne(begun, listener, control);
                } else {
                    begun.forEach(each -> setbacks.failOrWait(each.job(), problem, lack, listener, spent));
                }
            }
            case CopyMaker.Outcome.Written(var encoder, var frames, var repeated, var complaint, var segments) -> {
                if (endsEarly(begun, frames)) {
                    // The original is damaged at its end: what decodes keeps its place, and the rest is held.
                    encode(begun.stream().map(Begun::holdingToEnd).toList(), listener, control);
                    return;
                }
                var done = new Spent(start, spent.seconds(), spent.held(), encoder, begun.size(), segments);
                Optional<Original> original = original(begun, repeated, complaint, control);
                if (original.isEmpty()) {
                    listener.cancelled(copies);
                    return;
                }
                for (int i = 0; i < begun.size(); i++) {
                    if (!publishing.checkAndPublish(begun, i, original.get(), listener, done, control)) {
                        listener.cancelled(copies.subList(i, copies.size()));
                        return;
                    }
                }
            }
        }
    }

    /// Whether a clip of constant rate and certain length gave fewer frames than it has.
    private static boolean endsEarly(List<Begun> begun, long frames) {
        Job job = begun.getFirst().job();
        return frames > 0
                && !begun.getFirst().order().heldToEnd()
                && frames < job.form().frames()
                && !job.form().framesMayRound()
                && job.form().target().isPresent()
                && !(job.clip().source() instanceof ClipSource.NumberedStills)
                && job.clip()
                        .facts()
                        .video()
                        .map(v -> v.rateKind() == VideoFacts.RateKind.CONSTANT)
                        .orElse(false);
    }

    /// @return empty when it was cancelled
    private Optional<Original> original(List<Begun> begun, long repeated, String complaint, ProcessControl control)
            throws InterruptedException {
        Clip clip = begun.getFirst().job().clip();
        List<CopyForm> forms = begun.stream().map(each -> each.job().form()).toList();
        Optional<VideoFacts> picture = clip.facts().video();
        Map<SoundMix, SoundCheck.Reference> sound = new HashMap<>();
        Set<SoundMix> mixes = new HashSet<>();
        for (CopyForm form : forms) {
            if (mixes.add(form.sound().mix())) {
                tools.sound()
                        .reference(clip.source(), clip.facts(), form, control)
                        .ifPresent(heard -> sound.put(form.sound().mix(), heard));
            }
        }
        if (control.cancellation().isCancelled()) {
            return Optional.empty();
        }
        if (picture.isEmpty()) {
            return Optional.of(new Original(Optional.empty(), sound, List.of(), false));
        }
        boolean damaged = !complaint.isEmpty();
        boolean mayHaveHoles =
                (repeated > 0 || damaged || begun.getFirst().order().heldToEnd())
                        && picture.get().rateKind() != VideoFacts.RateKind.VARIABLE
                        && !(clip.source() instanceof ClipSource.NumberedStills);
        Optional<List<FrameRange>> holes = mayHaveHoles
                ? tools.pictures().holes(clip.source(), picture.get(), forms.getFirst(), damaged, control)
                : Optional.of(List.of());
        boolean heldToEnd = begun.getFirst().order().heldToEnd();
        return holes.map(found -> new Original(
                Optional.of(tools.pictures().reference(clip.source(), picture.get(), forms, found)),
                sound,
                OriginalFaults.told(found, complaint, heldToEnd),
                !found.isEmpty()));
    }

    /// Finds out which one it was.
    private void oneByOne(List<Begun> begun, MakingListener listener, ProcessControl control)
            throws InterruptedException {
        for (int i = 0; i < begun.size(); i++) {
            if (control.cancellation().isCancelled()) {
                listener.cancelled(begun.subList(i, begun.size()).stream()
                        .map(each -> each.job().copy())
                        .toList());
                return;
            }
            make(List.of(begun.get(i).job()), listener, control);
        }
    }
}
