package docksort.arrival;

import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.files.Fingerprinter;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.FrameRate;
import docksort.problem.Causes;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorCompletionService;
import java.util.concurrent.Executors;

/// Looks into everything of a folder tree, several files at once, and tells of each clip as soon as it is known.
public final class ArrivalScan {
    private final Inspector inspector;
    private final int lookers;

    /// @param lookers how many files are looked into at the same time
    public ArrivalScan(Inspector inspector, int lookers) {
        this.inspector = inspector;
        this.lookers = lookers;
    }

    /// @param stillsRate how numbered stills are to be read
    /// @throws docksort.problem.CoreException.InputRefused when the folder cannot be listed
    public ScanResult scan(
            ArrivalId arrival, Path folder, FrameRate stillsRate, ScanListener listener, Cancellation cancellation)
            throws InterruptedException {
        FootageWalk.Found found = FootageWalk.of(folder);
        return new Pass(arrival, found, stillsRate, listener, cancellation).run();
    }

    private record Looked(ClipSource source, Inspection inspection, Optional<Fingerprint> fingerprint) {}

    /// One scan in progress.
    private final class Pass {
        private final ArrivalId arrival;
        private final FootageWalk.Found found;
        private final FrameRate stillsRate;
        private final ScanListener listener;
        private final Cancellation cancellation;
        private final CompanionPairs pairs;
        private final Map<ClipSource, Clip> clips = new HashMap<>();
        private final List<Looked> held = new ArrayList<>();
        private final List<Companion> companions = new ArrayList<>();
        private final List<Unreadable> unreadable = new ArrayList<>();

        Pass(
                ArrivalId arrival,
                FootageWalk.Found found,
                FrameRate stillsRate,
                ScanListener listener,
                Cancellation cancellation) {
            this.arrival = arrival;
            this.found = found;
            this.stillsRate = stillsRate;
            this.listener = listener;
            this.cancellation = cancellation;
            this.pairs = new CompanionPairs(found.sources());
        }

        ScanResult run() throws InterruptedException {
            for (Path folder : found.unlisted()) {
                refuse(
                        folder,
                        new Problem("Cannot list " + folder, "this account may not open it", "The rest goes on.", ""));
            }
            int all = found.sources().size();
            listener.progress(0, all);
            int done = 0;
            try (var pool = Executors.newFixedThreadPool(
                    lookers, Thread.ofPlatform().daemon().name("looker-", 0).factory())) {
                var answers = new ExecutorCompletionService<Looked>(pool);
                found.sources().forEach(source -> answers.submit(() -> look(source)));
                while (done < all && !cancellation.isCancelled()) {
                    take(answers.take().get());
                    listener.progress(++done, all);
                }
                if (cancellation.isCancelled()) {
                    pool.shutdownNow();
                }
            } catch (ExecutionException e) {
                throw new IllegalStateException("looking into " + found.sources() + " broke down", e.getCause());
            }
            pairUp();
            var ordered = new ArrayList<>(clips.values());
            ordered.sort(Comparator.comparing(clip -> clip.source().head().toString()));
            return new ScanResult(ordered, companions, unreadable, found.asides(), cancellation.isCancelled());
        }

        private Looked look(ClipSource source) throws InterruptedException {
            Inspection inspection = inspector.inspect(source, stillsRate, cancellation);
            if (inspection instanceof Inspection.Unreadable) {
                return new Looked(source, inspection, Optional.empty());
            }
            try {
                return new Looked(source, inspection, Optional.of(fingerprint(source)));
            } catch (IOException e) {
                var problem = new Problem(
                        "Cannot read " + source.head(),
                        Causes.inWords(e),
                        "The file is as it was.",
                        "Check its volume.");
                return new Looked(source, new Inspection.Unreadable(problem), Optional.empty());
            }
        }

        private void take(Looked looked) {
            switch (looked.inspection) {
                case Inspection.Unreadable bad -> {
                    if (!cancellation.isCancelled()) {
                        refuse(looked.source.head(), bad.problem());
                    }
                }
                case Inspection.Known good -> {
                    if (pairs.candidatesFor(looked.source).isEmpty()) {
                        add(looked, good.facts());
                    } else {
                        held.add(looked);
                    }
                }
            }
        }

        private void add(Looked looked, ClipFacts facts) {
            var clip = new Clip(ClipId.fresh(), arrival, looked.source, facts, looked.fingerprint.orElseThrow());
            clips.put(looked.source, clip);
            listener.clip(clip);
        }

        private void refuse(Path file, Problem problem) {
            var refused = new Unreadable(arrival, file, problem);
            unreadable.add(refused);
            listener.unreadable(refused);
        }

        private void pairUp() {
            for (Looked small : held) {
                ClipFacts facts = ((Inspection.Known) small.inspection).facts();
                Optional<Clip> original = pairs.candidatesFor(small.source).stream()
                        .flatMap(source -> Optional.ofNullable(clips.get(source)).stream())
                        .filter(clip ->
                                CompanionPairs.refusal(clip.facts(), facts).isEmpty())
                        .findFirst();
                if (original.isPresent()) {
                    companions.add(new Companion(
                            original.get().id(), small.source.head(), facts, small.fingerprint.orElseThrow()));
                } else {
                    add(small, facts);
                }
            }
        }
    }

    /// The fingerprint of a clip's file or files.
    public static Fingerprint fingerprint(ClipSource source) throws IOException {
        return switch (source) {
            case ClipSource.SingleFile single -> Fingerprinter.of(single.head());
            case ClipSource.NumberedStills stills -> Fingerprinter.ofAll(stills.files());
        };
    }
}
