package docksort.run;

import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Inspection;
import docksort.engine.ProcessControl;
import docksort.files.Checksum;
import docksort.files.Fingerprinter;
import docksort.files.PartialFile;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Frames;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import docksort.run.CopyCheck.Finding;
import docksort.run.CopyCheck.Verdict;
import docksort.run.PictureCheck.Reference;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// Checks a copy that was written, and gives it its name when it is a stand-in for its original.
final class Publishing {
    private final RunTools tools;
    private final RunHost host;
    private final Terms terms;
    private final MeasuredClips measured;
    private final Setbacks setbacks;

    Publishing(RunTools tools, RunHost host, Terms terms, MeasuredClips measured, Setbacks setbacks) {
        this.tools = tools;
        this.host = host;
        this.terms = terms;
        this.measured = measured;
        this.setbacks = setbacks;
    }

    /// @return false when it was cancelled
    boolean checkAndPublish(
            List<Begun> all, int which, Original original, MakingListener listener, Spent spent, ProcessControl control)
            throws InterruptedException {
        Begun begun = all.get(which);
        Job job = begun.job();
        WorkingCopy copy = job.copy();
        PartialFile partial = begun.partial();
        listener.state(copy.withState(CopyState.CHECKING, ""));
        long before = System.nanoTime();
        var file = new ClipSource.SingleFile(partial.working());
        Inspection inspection = tools.inspector().inspect(file, job.form().rate(), control.cancellation());
        if (control.cancellation().isCancelled()) {
            return false;
        }
        if (inspection instanceof Inspection.Known known) {
            Optional<Verdict> checked = checked(begun, known.facts(), file, original, spent, control);
            if (control.cancellation().isCancelled()) {
                return false; // taken away meanwhile: it gets no name
            }
            if (checked.isEmpty()) {
                return false;
            }
            Optional<String> sum = checked.get().passes() ? sum(partial.working(), control) : Optional.of("");
            sum.ifPresent(whole -> publish(
                    all,
                    which,
                    new Made(known.facts(), whole, original.holes(), checked.get()),
                    listener,
                    spent,
                    since(before)));
            return sum.isPresent();
        }
        var problem = new Problem(
                "The copy of " + job.clip().source().head() + " is not readable",
                ((Inspection.Unreadable) inspection).problem().why(),
                "The original is as it was; the copy was thrown away.",
                "Retry.");
        setbacks.failOrWait(begun, problem, List.of(), listener, spent, since(before));
        return true;
    }

    /// What was made and checked.
    ///
    /// @param sum of all bytes of its file
    private record Made(ClipFacts facts, String sum, boolean holes, Verdict verdict) {}

    /// By which it is told later whether the file still has the bytes that were checked. It is read once more,
    /// from what the system mostly still has of it in memory.
    ///
    /// @return empty when it was cancelled
    private static Optional<String> sum(Path file, ProcessControl control) {
        try {
            return Checksum.XXH64.of(file, control.cancellation()::isCancelled);
        } catch (IOException e) {
            return Optional.of(""); // then it is taken when the file is first read whole again
        }
    }

    private static double since(long nanos) {
        return Duration.ofNanos(System.nanoTime() - nanos).toMillis() / 1e3;
    }

    /// Facts first; sound and pictures only of a copy whose facts hold.
    ///
    /// @return empty when it was cancelled
    private Optional<Verdict> checked(
            Begun begun, ClipFacts facts, ClipSource copy, Original original, Spent spent, ProcessControl control)
            throws InterruptedException {
        Job job = begun.job();
        Verdict verdict = CopyCheck.check(job.clip().facts(), job.form(), facts);
        if (!verdict.passes()) {
            // Many containers state no length of their sound, or that of the whole file: it is measured before a copy
            // is thrown away for it.
            verdict = CopyCheck.check(measured.of(job.clip(), control).facts(), job.form(), facts);
        }
        verdict = verdict.with(original.told());
        Optional<SoundCheck.Reference> sound = original.sound(job.form());
        if (verdict.passes() && sound.isPresent()) {
            Optional<List<Finding>> heard = tools.sound().check(sound.get(), job.form(), copy, facts, control);
            if (heard.isEmpty()) {
                return Optional.empty();
            }
            verdict = verdict.with(heard.get());
        }
        Optional<Reference> reference = original.reference();
        Told told = told(begun, original, spent);
        if (job.form().isSoundAlone()) {
            return soundReadBack(verdict, begun, told, copy, control);
        }
        if (!verdict.passes() || reference.isEmpty()) {
            return Optional.of(verdict);
        }
        Frames reached = facts.video().orElseThrow().frames();
        return tools.pictures()
                .check(reference.get(), job.form(), copy, reached, told, terms.checksAll(), control)
                .map(verdict::with);
    }

    /// Where frames of the original are lost, others stand in for them. In segments no frame is told of.
    private static Told told(Begun begun, Original original, Spent spent) {
        Optional<Path> pictures = begun.small()
                .map(PartialFile::working)
                .filter(file -> spent.segments() == 1
                        && !original.holes()
                        && begun.order().pictures().isPresent()
                        && file.toFile().length() > 0);
        Optional<Path> packets = begun.packets()
                .map(PartialFile::working)
                .filter(file -> file.toFile().length() > 0);
        return new Told(pictures, packets);
    }

    /// A copy without pictures is read back for nothing but that.
    private Optional<Verdict> soundReadBack(
            Verdict verdict, Begun begun, Told told, ClipSource copy, ProcessControl control)
            throws InterruptedException {
        if (!verdict.passes() || told.packets().isEmpty()) {
            return Optional.of(verdict);
        }
        return tools.packets()
                .ofSound(copy, begun.job().form(), told.readBack().orElseThrow(), control)
                .map(_ -> verdict.with(List.of(told.packetsFound())));
    }

    private void publish(List<Begun> all, int which, Made made, MakingListener listener, Spent spent, double checking) {
        Begun begun = all.get(which);
        Job job = begun.job();
        Verdict verdict = made.verdict;
        if (!verdict.passes()) {
            setbacks.failOrWait(
                    begun,
                    new Problem(
                            "The copy of " + job.clip().source().head() + " is no stand-in for it",
                            verdict.inWords(),
                            "The original is as it was; the copy was thrown away.",
                            "Look at the original, then retry or choose another recipe."),
                    verdict.findings(),
                    listener,
                    spent,
                    checking);
            return;
        }
        // The volume may have gone since the copy was begun: what stands under its mount point is another one.
        Path target = host.targetFolder(job.copy(), job.clip());
        Optional<String> fault = host.targetFault(target);
        if (fault.isPresent()) {
            var problem = new Problem(
                    "The copy of " + job.clip().source().head() + " did not get its name",
                    target + " cannot be used: " + fault.get(),
                    "The original is as it was; the copy was thrown away.",
                    "Mount the volume, then retry.");
            setbacks.failOrWait(begun, problem, List.of(), listener, spent, checking);
            return;
        }
        Optional<WorkingCopy> published;
        try {
            published = named(begun, made, listener);
        } catch (StorageFailed e) {
            setbacks.failOrWait(begun, e.problem(), List.of(), listener, spent, checking);
            return;
        }
        if (published.isEmpty()) {
            listener.takenOver(job.copy());
            return;
        }
        WorkingCopy ready = published.get();
        listener.line(ready, RunLine.of(job, ready, verdict.findings(), spent, checking));
        Optional<Double> seconds = spent.held()
                ? Optional.empty()
                : Optional.of(spent.seconds() / listener.groupsInWork() * share(all, which));
        host.made(job.copy(), job.clip(), job.form(), made.facts, seconds);
    }

    /// Gives a copy its name and its state.
    ///
    /// @return empty when another workstation took it over meanwhile: then it gets neither
    private Optional<WorkingCopy> named(Begun begun, Made made, MakingListener listener) {
        Job job = begun.job();
        var published = new ArrayList<WorkingCopy>(1);
        WorkingCopy.Place place = place(begun, made);
        // Said before: who has to make it after this program was killed knows the file as this copy's.
        listener.state(job.copy().withPlace(place).withState(CopyState.CHECKING, ""));
        boolean ours = tools.catalogue().claims().publish(job.copy().id(), () -> {
            begun.partial().publish(file -> isAsItWasMade(job.copy(), file));
            Path file = begun.partial().target();
            WorkingCopy named = file.getFileName().equals(job.copy().file().getFileName())
                    ? job.copy()
                    : job.copy().withFile(job.copy().rootId(), job.copy().file().resolveSibling(file.getFileName()));
            CopyTags.besideWhereNeeded(named, job.form(), begun.order().tags());
            WorkingCopy placed = named.withPlace(place);
            WorkingCopy ready = placed.withState(placed.finished(), made.verdict.inWords());
            listener.state(ready);
            published.add(ready);
        });
        Optional<WorkingCopy> named = published.stream().findFirst();
        if (!ours && named.isPresent() && !counts(named.get())) {
            // The connection was cut while it got its name, and another workstation took it over.
            begun.partial().withdraw(file -> isAsItWasMade(named.get(), file));
            return Optional.empty();
        }
        return named;
    }

    /// Whether the catalogue holds a copy as it is here.
    private boolean counts(WorkingCopy copy) {
        return tools.catalogue().copies().of(List.of(copy.id())).stream()
                .anyMatch(known -> known.state() == copy.state()
                        && known.file().equals(copy.file())
                        && known.place().fingerprint().equals(copy.place().fingerprint()));
    }

    /// Whether a file is the copy that this one is made in place of. Any other of its name, another
    /// project's for instance, stays.
    private static boolean isAsItWasMade(WorkingCopy copy, Path file) {
        try {
            return copy.place().bytes() > 0
                    && Files.size(file) == copy.place().bytes()
                    && Files.getLastModifiedTime(file).toMillis()
                            == copy.place().modifiedMillis();
        } catch (IOException e) {
            return false;
        }
    }

    /// The part that one of several copies has in the work they were made with: its own pixels, and its
    /// part of the pixels that were decoded for all.
    private static double share(List<Begun> all, int which) {
        double source = all.getFirst()
                        .job()
                        .clip()
                        .facts()
                        .video()
                        .map(v -> v.raster().pixels())
                        .orElse(0L)
                / (double) all.size();
        double work = 0;
        for (Begun each : all) {
            work += source + each.job().form().raster().pixels();
        }
        return (source + all.get(which).job().form().raster().pixels()) / work;
    }

    private static String fingerprint(Path file) {
        try {
            return Fingerprinter.of(file).toString();
        } catch (IOException e) {
            return ""; // then it is found again by its own metadata
        }
    }

    private static WorkingCopy.Place place(Begun begun, Made made) {
        ClipFacts facts = made.facts;
        return new WorkingCopy.Place(
                facts.size().bytes(),
                begun.partial().working().toFile().lastModified(),
                facts.video().map(v -> v.raster().width()).orElse(0),
                facts.video().map(v -> v.raster().height()).orElse(0),
                facts.video().map(v -> v.codec().label()).orElse("sound"),
                begun.job().recipe().mark(),
                fingerprint(begun.partial().working()),
                made.holes,
                made.verdict.leastAlike(),
                WorkingCopy.Whole.checked(made.sum));
    }
}
