package docksort.link;

import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.files.Fingerprinter;
import docksort.link.Adoption.Level;
import docksort.link.Adoption.Pair;
import docksort.link.Adoption.Unpaired;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.problem.Causes;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.run.PictureCheck;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.BiConsumer;

/// Finds out which files of a folder are copies of which clips.
///
/// 1. A file that this program made says so itself: its metadata hold the fingerprint of its original. 2.
/// Otherwise the name suggests clips, by patterns learned from the whole set; several may bear one name.
/// 3. Facts refuse: another rate, length, timecode or shape, a larger picture, the original itself. 4.
/// What is left is sure when name and timecode agree and no other clip or file could be meant; otherwise
/// the pictures are compared at several places, and one that fits alone is sure.
///
/// Nothing is written; safe to be called again.
public final class AdoptionSearch {
    private final Inspector inspector;
    private final PictureCheck pictures;
    private final Cancellation cancellation;
    private final BiConsumer<Integer, Integer> progress;

    /// @param progress hears how many files of how many were looked at
    public AdoptionSearch(
            Inspector inspector,
            PictureCheck pictures,
            Cancellation cancellation,
            BiConsumer<Integer, Integer> progress) {
        this.inspector = inspector;
        this.pictures = pictures;
        this.cancellation = cancellation;
        this.progress = progress;
    }

    /// @param known files of the folder that are in the stock already, and clips of the project: both are
    ///     left out
    /// @param wanted patterns to go by; empty to learn them from the set
    public Adoption search(Path folder, List<Clip> clips, Set<Path> known, List<NamePattern> wanted)
            throws InterruptedException {
        var unpaired = new ArrayList<Unpaired>();
        List<Candidate> candidates = candidates(folder, known, unpaired);
        List<NamePattern> patterns = wanted.isEmpty() ? learned(clips, candidates) : wanted;
        var matching = new CopyMatching(new SamePictures(pictures, cancellation), clips, candidates, patterns);
        var pairs = new ArrayList<Pair>();
        for (Candidate candidate : candidates) {
            matching.pair(candidate).ifPresentOrElse(pairs::add, () -> unpaired.add(matching.nobody(candidate)));
        }
        List<Pair> settled = onlyOneOfAKind(pairs);
        Set<ClipId> served = new HashSet<>();
        settled.stream()
                .filter(pair -> pair.level() == Level.SURE)
                .forEach(pair -> served.add(pair.clip().id()));
        return new Adoption(
                folder,
                patterns,
                settled,
                unpaired,
                clips.stream().filter(clip -> !served.contains(clip.id())).toList());
    }

    /// What speaks for or against a file of which somebody says that it is a copy of a clip.
    ///
    /// @throws InputRefused when it cannot be a copy of anything
    public Pair pair(Path file, Clip clip) throws InterruptedException {
        Read read = read(new ClipSource.SingleFile(file));
        Candidate candidate = read.candidate.orElseThrow(() -> new InputRefused(new Problem(
                file + " was not taken over", read.refusal, "Nothing was changed.", "Choose another file.")));
        return new CopyMatching(new SamePictures(pictures, cancellation), List.of(clip), List.of(candidate), List.of())
                .said(candidate, clip);
    }

    private static List<NamePattern> learned(List<Clip> clips, List<Candidate> candidates) {
        return NamePattern.learn(
                clips.stream().map(Clip::name).toList(),
                candidates.stream().map(Candidate::name).toList());
    }

    // Reading

    private List<Candidate> candidates(Path folder, Set<Path> known, List<Unpaired> unpaired)
            throws InterruptedException {
        List<ClipSource> sources = ArrivalScan.listing(folder).stream()
                .filter(source -> !known.contains(source.head()))
                .toList();
        var candidates = new ArrayList<Candidate>();
        int workers = Math.max(2, Runtime.getRuntime().availableProcessors());
        try (ExecutorService readers = Executors.newFixedThreadPool(workers)) {
            var reading = new LinkedHashMap<ClipSource, Future<Read>>();
            for (ClipSource source : sources) {
                reading.put(source, readers.submit(() -> read(source)));
            }
            int done = 0;
            for (Map.Entry<ClipSource, Future<Read>> entry : reading.entrySet()) {
                Read read = entry.getValue().get();
                read.candidate.ifPresentOrElse(
                        candidates::add,
                        () -> unpaired.add(new Unpaired(entry.getKey().head(), read.refusal)));
                progress.accept(++done, sources.size());
            }
        } catch (ExecutionException e) {
            throw new IllegalStateException("a file could not be looked at", e.getCause());
        }
        return candidates;
    }

    private record Read(Optional<Candidate> candidate, String refusal) {
        static Read refused(String why) {
            return new Read(Optional.empty(), why);
        }
    }

    private Read read(ClipSource source) throws InterruptedException {
        if (cancellation.isCancelled()) {
            return Read.refused("not looked at: stopped");
        }
        if (!(source instanceof ClipSource.SingleFile)) {
            return Read.refused("several files that are one clip; only single files are taken over");
        }
        return switch (inspector.inspect(source, FrameRate.FPS_25, cancellation)) {
            case Inspection.Unreadable(var problem) -> Read.refused(problem.why());
            case Inspection.Known(var facts) when facts.video().isEmpty() -> Read.refused("it has no picture");
            case Inspection.Known(var facts) -> {
                try {
                    yield new Read(
                            Optional.of(new Candidate(source.head(), facts, Fingerprinter.of(source.head()))), "");
                } catch (IOException e) {
                    yield Read.refused(Causes.inWords(e));
                }
            }
        };
    }

    /// Two copies of one clip and kind cannot both be meant: the second is for a person to decide.
    private static List<Pair> onlyOneOfAKind(List<Pair> pairs) {
        Set<String> taken = new HashSet<>();
        var settled = new ArrayList<Pair>();
        for (Pair pair : pairs) {
            String place = pair.clip().id() + " " + pair.kind() + " "
                    + pair.own().recipeId() + " " + pair.own().range();
            boolean second = pair.level() == Level.SURE && !taken.add(place);
            settled.add(
                    second
                            ? new Pair(
                                    pair.clip(),
                                    pair.file(),
                                    pair.facts(),
                                    pair.kind(),
                                    Level.DOUBTFUL,
                                    "a second " + pair.kind().label() + " copy of the same clip",
                                    pair.own())
                            : pair);
        }
        return settled;
    }
}
