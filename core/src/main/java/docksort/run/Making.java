package docksort.run;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Brake;
import docksort.engine.Cancellation;
import docksort.engine.Conduct;
import docksort.engine.Conduct.Rank;
import docksort.engine.CopyCommand;
import docksort.engine.CopyMaker;
import docksort.engine.CopyOrder;
import docksort.engine.Inspection;
import docksort.files.CopyFolder;
import docksort.files.Fingerprinter;
import docksort.files.PartialFile;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.media.Frames;
import docksort.media.VideoFacts;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import docksort.run.CopyCheck.Finding;
import docksort.run.CopyCheck.Verdict;
import docksort.run.PictureCheck.Reference;
import docksort.sort.Recipe;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.LongSupplier;

/// Makes copies of one clip from one decode, checks each, and gives it its name.
final class Making {
    private final RunTools tools;
    private final RunHost host;
    private final Terms terms;
    private final LongSupplier heldNanos;
    private final Map<Fingerprint, Clip> measured = new ConcurrentHashMap<>();

    Making(RunTools tools, RunHost host, Terms terms, LongSupplier heldNanos) {
        this.tools = tools;
        this.host = host;
        this.terms = terms;
        this.heldNanos = heldNanos;
    }

    /// Hears what becomes of the copies.
    interface Listener {
        void state(WorkingCopy copy);

        void progressed(List<WorkingCopy> copies, long frames, List<Long> bytes);

        /// How many groups are in the making, this one among them.
        int groupsInWork();

        /// How many processors this group may keep busy.
        double processors();

        void cancelled(List<WorkingCopy> copies);

        void obstructed(WorkingCopy copy, Obstacle obstacle);

        /// Copies whose making lacked memory.
        ///
        /// @return whether they wait to be made again
        boolean lackedMemory(List<WorkingCopy> copies);

        void line(WorkingCopy copy, RunLine line);
    }

    /// One copy, ready to be made.
    private record Job(WorkingCopy copy, Clip clip, Recipe recipe, CopyForm form) {}

    /// A job with its file in the making.
    private record Begun(Job job, PartialFile partial, CopyOrder order) {
        Begun holdingToEnd() {
            return new Begun(job, partial, order.holdingToEnd());
        }
    }

    /// Carries out a group to its end. Nothing is thrown for a copy that fails.
    void make(
            List<WorkingCopy> copies,
            Map<ClipId, Clip> clips,
            Listener listener,
            Pace pace,
            Brake brake,
            Cancellation cancellation)
            throws InterruptedException {
        var conduct = new Conduct(cancellation, brake, pace.gently() ? Rank.LAST : Rank.BELOW_WINDOWS, pace.speedCap());
        var jobs = new ArrayList<Job>();
        Map<ClipId, Optional<Clip>> counted = new HashMap<>();
        for (WorkingCopy copy : copies) {
            Optional<Clip> clip = Optional.ofNullable(clips.get(copy.clip()));
            if (copy.range().isEmpty() && clip.filter(Making::isGuessed).isPresent()) {
                if (!counted.containsKey(copy.clip())) {
                    counted.put(copy.clip(), Optional.of(measured(clip.get(), conduct)));
                }
                clip = counted.getOrDefault(copy.clip(), clip);
            }
            prepare(copy, clip, listener).ifPresent(jobs::add);
        }
        if (cancellation.isCancelled()) {
            listener.cancelled(jobs.stream().map(Job::copy).toList());
            return;
        }
        while (!jobs.isEmpty()) {
            Job first = jobs.getFirst();
            List<Job> together =
                    jobs.stream().filter(job -> goTogether(first, job)).toList();
            jobs.removeAll(together);
            make(together, listener, conduct);
        }
    }

    /// Whether nobody has counted its frames.
    private static boolean isGuessed(Clip clip) {
        return clip.facts()
                .video()
                .filter(picture -> picture.frames().origin() == Frames.Origin.ESTIMATED)
                .isPresent();
    }

    /// The clip as long as it is. A copy is never held against an estimate.
    private Clip measured(Clip clip, Conduct conduct) throws InterruptedException {
        Clip known = measured.get(clip.fingerprint());
        if (known != null && known.id().equals(clip.id())) {
            return known;
        }
        Optional<Clip> exact = tools.extents()
                .measured(clip.source(), clip.facts(), conduct)
                .map(facts -> new Clip(clip.id(), clip.arrival(), clip.source(), facts, clip.fingerprint()));
        exact.ifPresent(found -> {
            measured.put(clip.fingerprint(), found);
            host.measured(found);
        });
        return exact.orElse(clip);
    }

    private static boolean goTogether(Job one, Job other) {
        return one.equals(other) || CopyCommand.goTogether(order(one, Path.of("")), order(other, Path.of("")));
    }

    private Optional<Job> prepare(WorkingCopy copy, Optional<Clip> clip, Listener listener) {
        Optional<Recipe> recipe = host.recipe(copy.recipeId());
        if (clip.isEmpty() || recipe.isEmpty()) {
            listener.state(failed(
                    copy,
                    new Problem(
                            "The copy " + copy.file() + " cannot be made",
                            "its clip or recipe is gone",
                            "The original is as it was.",
                            "Plan it anew.")));
            return Optional.empty();
        }
        Recipe.Resolution resolution = recipe.get().resolve(clip.get(), host.circumstances(), copy.range());
        if (resolution instanceof Recipe.Resolution.Impossible(var why)) {
            listener.state(failed(
                    copy,
                    new Problem(
                            "No copy of " + clip.get().source().head(),
                            why,
                            "The original is as it was.",
                            "Leave it as it is.")));
            return Optional.empty();
        }
        CopyForm form = ((Recipe.Resolution.Possible) resolution).form();
        var job = new Job(copy, clip.get(), recipe.get(), form);
        Optional<Obstacle> obstacle = obstacle(job, false);
        obstacle.ifPresent(found -> {
            if (waits()) {
                listener.obstructed(copy, found);
            } else {
                fail(job, found.problem(copy, terms.patience()), List.of(), listener, Spent.NOTHING, 0);
            }
        });
        return obstacle.isPresent() ? Optional.empty() : Optional.of(job);
    }

    private boolean waits() {
        return !terms.patience().isZero();
    }

    /// What is in the way now and may not be later.
    private Optional<Obstacle> obstacle(Job job, boolean full) {
        Path source = host.sourceFolder(job.clip());
        if (!Files.isDirectory(source)) {
            return Optional.of(new Obstacle.SourceAway(source));
        }
        Path target = host.targetFolder(job.copy(), job.clip());
        if (host.targetFault(target).isPresent()) {
            return Optional.of(new Obstacle.TargetAway(target, host));
        }
        return full
                ? Optional.of(new Obstacle.VolumeFull(target, host.need(job.clip(), job.recipe(), job.form())))
                : Optional.empty();
    }

    private void make(List<Job> jobs, Listener listener, Conduct conduct) throws InterruptedException {
        var begun = new ArrayList<Begun>();
        try {
            for (Job job : jobs) {
                begin(job, listener).ifPresent(begun::add);
            }
            if (!begun.isEmpty()) {
                encode(begun, listener, conduct);
            }
        } finally {
            begun.forEach(each -> each.partial().close());
        }
    }

    private Optional<Begun> begin(Job job, Listener listener) {
        WorkingCopy copy = job.copy();
        try {
            CopyFolder folder = host.folder(copy, job.clip());
            Path inFolder = folder.root().relativize(copy.file());
            var subFolders = new ArrayList<String>();
            for (int i = 0; i < inFolder.getNameCount() - 1; i++) {
                subFolders.add(inFolder.getName(i).toString());
            }
            PartialFile partial =
                    folder.begin(subFolders, String.valueOf(copy.file().getFileName()));
            return Optional.of(new Begun(job, partial, order(job, partial.working())));
        } catch (StorageFailed e) {
            failOrWait(job, e.problem(), false, listener, Spent.NOTHING);
            return Optional.empty();
        }
    }

    private static CopyOrder order(Job job, Path output) {
        Clip clip = job.clip();
        return new CopyOrder(
                clip.source(),
                clip.facts(),
                job.form(),
                clip.name(),
                CopyTags.of(clip, job.copy(), job.recipe()),
                output);
    }

    /// What making took so far.
    ///
    /// @param seconds since it was begun, without the time it was held
    /// @param held whether it was held meanwhile
    private record Spent(Instant begun, double seconds, boolean held, String encoder, int together, int segments) {
        static final Spent NOTHING = new Spent(Instant.EPOCH, 0, false, "", 1, 1);

        Instant since() {
            return begun.equals(Instant.EPOCH) ? Instant.now() : begun;
        }
    }

    private void encode(List<Begun> begun, Listener listener, Conduct conduct) throws InterruptedException {
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
                tools.maker().make(begun.stream().map(Begun::order).toList(), progress, conduct);
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
                    oneByOne(begun, listener, conduct);
                } else {
                    begun.forEach(each -> failOrWait(each.job(), problem, full, listener, spent));
                }
            }
            case CopyMaker.Outcome.Written(var encoder, var frames, var repeated, var complaint, var segments) -> {
                if (endsEarly(begun, frames)) {
                    // The original is damaged at its end: what decodes keeps its place, and the rest is held.
                    encode(begun.stream().map(Begun::holdingToEnd).toList(), listener, conduct);
                    return;
                }
                var done = new Spent(start, spent.seconds(), spent.held(), encoder, begun.size(), segments);
                Optional<Original> original = original(begun, repeated, complaint, conduct);
                if (original.isEmpty()) {
                    listener.cancelled(copies);
                    return;
                }
                for (int i = 0; i < begun.size(); i++) {
                    if (!checkAndPublish(begun, i, original.get(), listener, done, conduct)) {
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

    /// What the copies are held against, and what is told of it.
    private record Original(
            Optional<Reference> reference, Optional<SoundCheck.Reference> sound, List<Finding> told, boolean holes) {}

    /// @return empty when it was cancelled
    private Optional<Original> original(List<Begun> begun, long repeated, String complaint, Conduct conduct)
            throws InterruptedException {
        Clip clip = begun.getFirst().job().clip();
        List<CopyForm> forms = begun.stream().map(each -> each.job().form()).toList();
        Optional<VideoFacts> picture = clip.facts().video();
        Optional<SoundCheck.Reference> sound =
                tools.sound().reference(clip.source(), clip.facts(), forms.getFirst(), conduct);
        if (conduct.cancellation().isCancelled()) {
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
                ? tools.pictures().holes(clip.source(), picture.get(), forms.getFirst(), damaged, conduct)
                : Optional.of(List.of());
        boolean heldToEnd = begun.getFirst().order().heldToEnd();
        return holes.map(found -> new Original(
                Optional.of(tools.pictures().reference(clip.source(), picture.get(), forms, found)),
                sound,
                OriginalFaults.told(found, complaint, heldToEnd),
                !found.isEmpty()));
    }

    /// Finds out which one it was.
    private void oneByOne(List<Begun> begun, Listener listener, Conduct conduct) throws InterruptedException {
        for (int i = 0; i < begun.size(); i++) {
            if (conduct.cancellation().isCancelled()) {
                listener.cancelled(begun.subList(i, begun.size()).stream()
                        .map(each -> each.job().copy())
                        .toList());
                return;
            }
            make(List.of(begun.get(i).job()), listener, conduct);
        }
    }

    private void failOrWait(Job job, Problem problem, boolean full, Listener listener, Spent spent) {
        failOrWait(job, problem, List.of(), full, listener, spent, 0);
    }

    /// A copy that lacks its volume has not failed.
    private void failOrWait(
            Job job,
            Problem problem,
            List<Finding> findings,
            boolean full,
            Listener listener,
            Spent spent,
            double checking) {
        Optional<Obstacle> obstacle = waits() ? obstacle(job, full) : Optional.empty();
        if (obstacle.isPresent()) {
            listener.obstructed(job.copy(), obstacle.get());
            return;
        }
        fail(job, problem, findings, listener, spent, checking);
    }

    private void fail(
            Job job, Problem problem, List<Finding> findings, Listener listener, Spent spent, double checking) {
        WorkingCopy copy = failed(job.copy(), problem);
        listener.state(copy);
        listener.line(copy, line(job, copy, findings, spent, checking));
    }

    private static WorkingCopy failed(WorkingCopy copy, Problem problem) {
        return copy.withState(CopyState.FAILED, problem.sentence());
    }

    private static RunLine line(Job job, WorkingCopy copy, List<Finding> findings, Spent spent, double checking) {
        return new RunLine(
                job.clip().name(),
                job.clip().source().head().toString(),
                job.recipe().name(),
                copy.file().toString(),
                copy.state().label(),
                copy.note(),
                spent.since().toEpochMilli(),
                Instant.now().toEpochMilli(),
                spent.seconds(),
                checking,
                job.form().rate().secondsOf(job.form().frames()).toDouble(),
                job.form().frames(),
                copy.place().bytes(),
                spent.encoder(),
                spent.together(),
                spent.segments(),
                findings);
    }

    /// @return false when it was cancelled
    private boolean checkAndPublish(
            List<Begun> all, int which, Original original, Listener listener, Spent spent, Conduct conduct)
            throws InterruptedException {
        Begun begun = all.get(which);
        Job job = begun.job();
        WorkingCopy copy = job.copy();
        PartialFile partial = begun.partial();
        listener.state(copy.withState(CopyState.CHECKING, ""));
        long before = System.nanoTime();
        var file = new ClipSource.SingleFile(partial.working());
        Inspection inspection = tools.inspector().inspect(file, job.form().rate(), conduct.cancellation());
        if (conduct.cancellation().isCancelled()) {
            return false;
        }
        if (inspection instanceof Inspection.Known known) {
            Optional<Verdict> checked = checked(job, known.facts(), file, original, conduct);
            if (conduct.cancellation().isCancelled()) {
                return false; // taken away meanwhile: it gets no name
            }
            checked.ifPresent(verdict ->
                    publish(all, which, known.facts(), verdict, original.holes(), listener, spent, since(before)));
            return checked.isPresent();
        }
        var problem = new Problem(
                "The copy of " + job.clip().source().head() + " is not readable",
                ((Inspection.Unreadable) inspection).problem().why(),
                "The original is as it was; the copy was thrown away.",
                "Retry.");
        failOrWait(job, problem, List.of(), false, listener, spent, since(before));
        return true;
    }

    private static double since(long nanos) {
        return Duration.ofNanos(System.nanoTime() - nanos).toMillis() / 1e3;
    }

    /// Facts first; sound and pictures only of a copy whose facts hold.
    ///
    /// @return empty when it was cancelled
    private Optional<Verdict> checked(Job job, ClipFacts facts, ClipSource copy, Original original, Conduct conduct)
            throws InterruptedException {
        Verdict verdict = CopyCheck.check(job.clip().facts(), job.form(), facts);
        if (!verdict.passes()) {
            // Many containers state no length of their sound, or that of the whole file: it is measured before a copy
            // is thrown away for it.
            verdict = CopyCheck.check(measured(job.clip(), conduct).facts(), job.form(), facts);
        }
        verdict = verdict.with(original.told());
        if (verdict.passes() && original.sound().isPresent()) {
            Optional<List<Finding>> heard =
                    tools.sound().check(original.sound().get(), job.form(), copy, facts, conduct);
            if (heard.isEmpty()) {
                return Optional.empty();
            }
            verdict = verdict.with(heard.get());
        }
        Optional<Reference> reference = original.reference();
        if (!verdict.passes() || job.form().isSoundAlone() || reference.isEmpty()) {
            return Optional.of(verdict);
        }
        Frames reached = facts.video().orElseThrow().frames();
        return tools.pictures()
                .check(reference.get(), job.form(), copy, reached, terms.checksAll(), conduct)
                .map(verdict::with);
    }

    private void publish(
            List<Begun> all,
            int which,
            ClipFacts facts,
            Verdict verdict,
            boolean holes,
            Listener listener,
            Spent spent,
            double checking) {
        Begun begun = all.get(which);
        Job job = begun.job();
        if (!verdict.passes()) {
            failOrWait(
                    job,
                    new Problem(
                            "The copy of " + job.clip().source().head() + " is no stand-in for it",
                            verdict.inWords(),
                            "The original is as it was; the copy was thrown away.",
                            "Look at the original, then retry or choose another recipe."),
                    verdict.findings(),
                    false,
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
            failOrWait(job, problem, false, listener, spent);
            return;
        }
        WorkingCopy named;
        try {
            begun.partial().publish(file -> isAsItWasMade(job.copy(), file));
            Path file = begun.partial().target();
            named = file.getFileName().equals(job.copy().file().getFileName())
                    ? job.copy()
                    : job.copy().withFile(job.copy().rootId(), job.copy().file().resolveSibling(file.getFileName()));
            CopyTags.besideWhereNeeded(named, job.form(), begun.order().tags());
        } catch (StorageFailed e) {
            failOrWait(job, e.problem(), false, listener, spent);
            return;
        }
        WorkingCopy placed = named.withPlace(place(begun, facts, holes));
        WorkingCopy ready = placed.withState(placed.finished(), verdict.inWords());
        listener.state(ready);
        listener.line(ready, line(job, ready, verdict.findings(), spent, checking));
        Optional<Double> seconds = spent.held()
                ? Optional.empty()
                : Optional.of(spent.seconds() / listener.groupsInWork() * share(all, which));
        host.made(job.copy(), job.clip(), job.form(), facts, seconds);
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

    private static WorkingCopy.Place place(Begun begun, ClipFacts facts, boolean holes) {
        return new WorkingCopy.Place(
                facts.size().bytes(),
                begun.partial().target().toFile().lastModified(),
                facts.video().map(v -> v.raster().width()).orElse(0),
                facts.video().map(v -> v.raster().height()).orElse(0),
                facts.video().map(v -> v.codec().label()).orElse("sound"),
                begun.job().recipe().mark(),
                fingerprint(begun.partial().target()),
                holes);
    }
}
