package docksort.arrival;

import docksort.arrival.FootageWalk.Listed;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.FrameRate;
import docksort.media.Rational;
import docksort.media.SpannedFacts;
import docksort.media.VideoFacts;
import docksort.problem.Causes;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorCompletionService;
import java.util.concurrent.Executors;
import java.util.stream.Collectors;

/// One look through a folder.
final class ArrivalPass {
    private static final Looked NOT_YET = new Looked(
            new Listed(new ClipSource.SingleFile(Path.of("")), Stamp.NONE),
            new Inspection.Unreadable(new Problem("", "", "", "")),
            Optional.empty());

    /// What was looked at, and what came of it.
    private record Looked(Listed listed, Inspection inspection, Optional<Fingerprint> fingerprint) {
        ClipSource source() {
            return listed.source();
        }

        ClipFacts facts() {
            return ((Inspection.Known) inspection).facts();
        }
    }

    private final Inspector inspector;
    private final SameScene sameScene;
    private final int lookers;
    private final ArrivalId arrival;
    private final FootageWalk.Found found;
    private final FrameRate stillsRate;
    private final ScanListener listener;
    private final Cancellation cancellation;
    private final CompanionPairs pairs;
    private final List<List<ClipSource>> spans;
    private final Map<ClipSource, Clip> clips = new HashMap<>();
    private final Map<ClipSource, Looked> parts = new HashMap<>();
    private final List<Looked> held = new ArrayList<>();
    private final List<Companion> companions = new ArrayList<>();
    private final List<Unreadable> unreadable = new ArrayList<>();
    private final Map<Path, Stamp> stamps = new HashMap<>();
    private final List<Path> gone;
    private final List<Listed> wanted = new ArrayList<>();
    private final Map<Path, Clip> known;

    ArrivalPass(
            Inspector inspector,
            SameScene sameScene,
            int lookers,
            ArrivalId arrival,
            FootageWalk.Found found,
            ArrivalScan.Before before,
            FrameRate stillsRate,
            ScanListener listener,
            Cancellation cancellation) {
        this.inspector = inspector;
        this.sameScene = sameScene;
        this.lookers = lookers;
        this.arrival = arrival;
        this.found = found;
        this.stillsRate = stillsRate;
        this.listener = listener;
        this.cancellation = cancellation;
        this.gone = new ArrayList<>();
        var there = new HashSet<Path>();
        for (Listed listed : found.sources()) {
            there.add(listed.source().head());
            if (!listed.stamp().equals(before.stamps().get(listed.source().head()))) {
                wanted.add(listed);
            }
        }
        before.stamps().keySet().stream().filter(head -> !there.contains(head)).forEach(gone::add);
        if (wanted.isEmpty()) {
            this.pairs = new CompanionPairs(List.of());
            this.spans = List.of();
        } else {
            this.pairs = new CompanionPairs(found.sources());
            this.spans = SpannedRecordings.candidates(wanted);
            before.clips().get().values().forEach(clip -> clips.put(clip.source(), clip));
        }
        this.known = clips.values().stream()
                .collect(Collectors.toMap(clip -> clip.source().head(), clip -> clip, (one, _) -> one));
    }

    ScanResult run() throws InterruptedException {
        for (Path folder : found.unlisted()) {
            refuse(folder, notListed(folder));
        }
        spans.stream().flatMap(List::stream).forEach(part -> parts.put(part, NOT_YET));
        if (!wanted.isEmpty()) {
            lookIntoAll();
        }
        joinParts();
        pairUp();
        Set<Clip> old = Collections.newSetFromMap(new IdentityHashMap<>());
        old.addAll(known.values());
        var ordered = new ArrayList<>(
                clips.values().stream().filter(clip -> !old.contains(clip)).toList());
        ordered.sort(Comparator.comparing(clip -> clip.source().head()));
        return new ScanResult(
                ordered,
                companions,
                unreadable,
                stamps,
                gone,
                found.asides(),
                found.sources().size() - wanted.size(),
                cancellation.isCancelled());
    }

    private static Problem notListed(Path place) {
        if (Files.isSymbolicLink(place)) {
            return new Problem(
                    "Not looked into: " + place,
                    "it is a link to another place, and links are not followed",
                    "The rest goes on.",
                    "Add the folder that it leads to.");
        }
        return new Problem("Cannot list " + place, "this account may not open it", "The rest goes on.", "");
    }

    private void lookIntoAll() throws InterruptedException {
        int all = wanted.size();
        listener.progress(0, all);
        int done = 0;
        try (var pool = Executors.newFixedThreadPool(
                lookers, Thread.ofPlatform().daemon().name("looker-", 0).factory())) {
            var answers = new ExecutorCompletionService<Looked>(pool);
            int next = 0;
            // Only a few wait in the queue at a time: memory stays flat however many files there are.
            while (next < all && next < lookers * 4) {
                Listed listed = wanted.get(next++);
                answers.submit(() -> look(listed));
            }
            while (done < all && !cancellation.isCancelled()) {
                take(answers.take().get());
                if (next < all) {
                    Listed listed = wanted.get(next++);
                    answers.submit(() -> look(listed));
                }
                listener.progress(++done, all);
            }
            if (cancellation.isCancelled()) {
                pool.shutdownNow();
            }
        } catch (ExecutionException e) {
            throw new IllegalStateException(
                    "looking into " + found.sources().size() + " files broke down", e.getCause());
        }
    }

    private Looked look(Listed listed) throws InterruptedException {
        ClipSource source = listed.source();
        Inspection inspection = inspector.inspect(source, stillsRate, cancellation);
        if (inspection instanceof Inspection.Unreadable) {
            return new Looked(listed, inspection, Optional.empty());
        }
        try {
            return new Looked(listed, inspection, Optional.of(ArrivalScan.fingerprint(source)));
        } catch (IOException e) {
            var problem = new Problem(
                    "Cannot read " + source.head(), Causes.inWords(e), "The file is as it was.", "Check its volume.");
            return new Looked(listed, new Inspection.Unreadable(problem), Optional.empty());
        }
    }

    private void take(Looked looked) {
        if (!cancellation.isCancelled() || looked.inspection instanceof Inspection.Known) {
            stamps.put(looked.source().head(), looked.listed.stamp());
        }
        switch (looked.inspection) {
            case Inspection.Unreadable bad -> {
                parts.remove(looked.source());
                if (!cancellation.isCancelled()) {
                    refuse(looked.source().head(), bad.problem());
                }
            }
            case Inspection.Known good -> {
                if (parts.containsKey(looked.source())) {
                    parts.put(looked.source(), looked);
                } else if (!pairs.mayBeOne(looked.listed)) {
                    add(looked, good.facts());
                } else {
                    held.add(looked);
                }
            }
        }
    }

    private void add(Looked looked, ClipFacts facts) {
        add(looked.source(), facts, looked.fingerprint.orElseThrow());
    }

    private void add(ClipSource source, ClipFacts facts, Fingerprint fingerprint) {
        Clip old = known.get(source.head());
        ClipId id = old == null ? ClipId.fresh() : old.id();
        if (old != null) {
            clips.remove(old.source());
        }
        var clip = new Clip(id, arrival, source, facts, fingerprint);
        clips.put(source, clip);
        listener.clip(clip);
    }

    private void refuse(Path file, Problem problem) {
        var refused = new Unreadable(arrival, file, problem);
        unreadable.add(refused);
        listener.unreadable(refused);
    }

    /// Parts whose facts carry on from one another are one clip; the others stand alone.
    private void joinParts() throws InterruptedException {
        for (List<ClipSource> group : spans) {
            var run = new ArrayList<Looked>();
            for (ClipSource part : group) {
                Looked looked = parts.getOrDefault(part, NOT_YET);
                boolean known = looked.inspection instanceof Inspection.Known;
                if (!run.isEmpty()
                        && !(known && SpannedFacts.follows(run.getLast().facts(), looked.facts()))) {
                    addRun(run);
                    run.clear();
                }
                if (known) {
                    run.add(looked);
                }
            }
            addRun(run);
        }
    }

    private void addRun(List<Looked> run) throws InterruptedException {
        if (run.size() == 1) {
            add(run.getFirst(), run.getFirst().facts());
        } else if (run.size() > 1) {
            List<Rational> seconds = run.stream()
                    .flatMap(part -> part.facts().video().stream())
                    .map(VideoFacts::seconds)
                    .toList();
            var source = new ClipSource.Spanned(
                    run.stream().map(part -> part.source().head()).toList(),
                    seconds.size() == run.size() ? seconds : List.of());
            try {
                add(
                        source,
                        inspector.joined(source, run.stream().map(Looked::facts).toList()),
                        ArrivalScan.fingerprint(source));
            } catch (IOException e) {
                run.forEach(part -> add(part, part.facts()));
            }
        }
    }

    private void pairUp() throws InterruptedException {
        Map<ClipSource, Looked> bySource = new HashMap<>();
        held.forEach(small -> bySource.put(small.source(), small));
        Map<ClipSource, ClipFacts> others = new HashMap<>();
        clips.forEach((source, clip) -> others.put(source, clip.facts()));
        PairSearch.Outcome found = PairSearch.of(
                pairs,
                held.stream()
                        .map(small -> new PairSearch.Small(small.listed, small.facts()))
                        .toList(),
                others,
                sameScene);
        found.alone().forEach((source, told) -> {
            Looked small = Objects.requireNonNull(bySource.get(source));
            add(
                    small,
                    told.map(why -> small.facts().withComplaints(List.of(why))).orElse(small.facts()));
        });
        for (PairSearch.Paired pair : found.pairs()) {
            Looked small =
                    Objects.requireNonNull(bySource.get(pair.small().listed().source()));
            Clip original = Objects.requireNonNull(clips.get(pair.original()));
            companions.add(new Companion(
                    original.id(),
                    small.source().head(),
                    small.facts(),
                    small.fingerprint.orElseThrow(),
                    pair.proof()));
        }
    }
}
