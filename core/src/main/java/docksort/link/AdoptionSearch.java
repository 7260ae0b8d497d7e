package docksort.link;

import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.engine.Cancellation;
import docksort.engine.Conduct;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.files.Fingerprinter;
import docksort.link.Adoption.Level;
import docksort.link.Adoption.Own;
import docksort.link.Adoption.Pair;
import docksort.link.Adoption.Unpaired;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.VideoFacts;
import docksort.problem.Causes;
import docksort.run.CopyTags;
import docksort.run.PictureCheck;
import docksort.sort.CopyKind;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
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
/// 1. A file that this program made says so itself: its metadata hold the fingerprint of its original.
/// 2. Otherwise the name suggests clips, by patterns learned from the whole set; several may bear one name.
/// 3. Facts refuse: another rate, length, timecode or shape, a larger picture, the original itself.
/// 4. What is left is sure when name and timecode agree and no other clip or file could be meant; otherwise the
///    pictures are compared at several places, and one that fits alone is sure.
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

    /// A file of the folder that can be read.
    private record Candidate(Path file, ClipFacts facts, Fingerprint fingerprint) {
        String name() {
            return new ClipSource.SingleFile(file).name();
        }

        VideoFacts picture() {
            return facts.video().orElseThrow();
        }
    }

    /// @param known files of the folder that are in the stock already, and clips of the project: both are left
    ///     out
    /// @param wanted patterns to go by; empty to learn them from the set
    public Adoption search(Path folder, List<Clip> clips, Set<Path> known, List<NamePattern> wanted)
            throws InterruptedException {
        var unpaired = new ArrayList<Unpaired>();
        List<Candidate> candidates = candidates(folder, known, unpaired);
        List<NamePattern> patterns = wanted.isEmpty() ? learned(clips, candidates) : wanted;
        var matching = new Matching(clips, candidates, patterns);
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

    // Pairing

    private final class Matching {
        private final List<NamePattern> patterns;
        private final Map<String, List<Clip>> byName = new HashMap<>();
        private final Map<Fingerprint, Clip> byContent = new HashMap<>();
        private final Map<String, Integer> clipsAlike = new HashMap<>();
        private final Map<String, Integer> filesAlike = new HashMap<>();

        Matching(List<Clip> clips, List<Candidate> candidates, List<NamePattern> patterns) {
            this.patterns = patterns;
            for (Clip clip : clips) {
                byName.computeIfAbsent(key(clip.name()), _ -> new ArrayList<>()).add(clip);
                byContent.putIfAbsent(clip.fingerprint(), clip);
                clipsAlike.merge(looks(clip.facts()), 1, Integer::sum);
            }
            candidates.forEach(candidate -> {
                filesAlike.merge(key(candidate.name()), 1, Integer::sum);
                filesAlike.merge(looks(candidate.facts()), 1, Integer::sum);
            });
        }

        private static String key(String name) {
            return name.toLowerCase(Locale.ROOT);
        }

        /// What two recordings rarely share.
        private static String looks(ClipFacts facts) {
            return facts.video()
                            .map(v -> v.frames().count() + " at " + v.rate())
                            .orElse("")
                    + facts.startTimecode().map(tc -> " from " + tc).orElse("");
        }

        Unpaired nobody(Candidate candidate) {
            return new Unpaired(
                    candidate.file,
                    Own.NOTHING.equals(own(candidate))
                            ? "no clip of the project has the name that this one follows from"
                            : "its original is not in the project");
        }

        Optional<Pair> pair(Candidate candidate) throws InterruptedException {
            Clip same = byContent.get(candidate.fingerprint);
            if (same != null) {
                return Optional.of(of(candidate, same, Level.REFUSED, "it is the original itself, or a twin of it"));
            }
            Own own = own(candidate);
            Optional<Fingerprint> source = source(candidate);
            if (source.isPresent()) {
                Clip clip = byContent.get(source.get());
                if (clip == null) {
                    return Optional.empty();
                }
                Optional<String> refusal = Likeness.refusal(
                        clip.facts(), candidate.facts, own.of(clip).range());
                return Optional.of(of(
                        candidate,
                        clip,
                        refusal.isEmpty() ? Level.SURE : Level.REFUSED,
                        refusal.orElse("its own metadata name this original")));
            }
            return byName(candidate);
        }

        private Optional<Pair> byName(Candidate candidate) throws InterruptedException {
            Map<Clip, NamePattern> suggested = new LinkedHashMap<>();
            for (NamePattern pattern : patterns) {
                pattern.original(candidate.name())
                        .map(name -> byName.getOrDefault(name, List.of()))
                        .ifPresent(found -> found.forEach(clip -> suggested.putIfAbsent(clip, pattern)));
            }
            var possible = new ArrayList<Clip>();
            var refusals = new LinkedHashMap<Clip, String>();
            for (Clip clip : suggested.keySet()) {
                Likeness.refusal(clip.facts(), candidate.facts, Optional.empty())
                        .ifPresentOrElse(why -> refusals.put(clip, why), () -> possible.add(clip));
            }
            if (possible.isEmpty()) {
                return refusals.entrySet().stream()
                        .findFirst()
                        .map(entry -> of(candidate, entry.getKey(), Level.REFUSED, entry.getValue()));
            }
            if (possible.size() == 1 && isBeyondDoubt(candidate, possible.getFirst())) {
                return Optional.of(
                        of(candidate, possible.getFirst(), Level.SURE, "name, length, rate and timecode agree"));
            }
            return Optional.of(byPicture(candidate, possible));
        }

        /// A timecode that tells something, and no other clip or file that could be meant.
        private boolean isBeyondDoubt(Candidate candidate, Clip clip) {
            boolean timecode = candidate.facts.startTimecode().isPresent()
                    && clip.facts()
                            .startTimecode()
                            .map(tc -> tc.frameOfDay() != 0)
                            .orElse(false);
            return timecode
                    && clipsAlike.getOrDefault(looks(clip.facts()), 0) == 1
                    && filesAlike.getOrDefault(looks(candidate.facts), 0) == 1
                    && filesAlike.getOrDefault(key(candidate.name()), 0) == 1;
        }

        private Pair byPicture(Candidate candidate, List<Clip> possible) throws InterruptedException {
            var fitting = new ArrayList<Clip>();
            for (Clip clip : possible) {
                if (showsTheSame(candidate, clip)) {
                    fitting.add(clip);
                }
            }
            if (fitting.size() == 1) {
                return of(
                        candidate, fitting.getFirst(), Level.SURE, "name, length and rate agree, and the pictures do");
            }
            if (fitting.size() > 1) {
                return nearest(candidate, fitting)
                        .map(clip -> of(
                                candidate, clip, Level.SURE, "the pictures agree, and so does the folder it lies in"))
                        .orElseGet(() -> of(
                                candidate,
                                fitting.getFirst(),
                                Level.DOUBTFUL,
                                fitting.size() + " clips look the same: choose the right one"));
            }
            boolean reachable = possible.stream()
                    .allMatch(clip -> Files.exists(clip.source().head()));
            return of(
                    candidate,
                    possible.getFirst(),
                    reachable ? Level.REFUSED : Level.DOUBTFUL,
                    reachable
                            ? "another clip: its pictures are not the original's"
                            : "the original is away, so the pictures could not be compared");
        }

        /// The one whose folders bear the names of the candidate's.
        private Optional<Clip> nearest(Candidate candidate, List<Clip> fitting) {
            Set<String> folders = folders(candidate.file);
            Map<Clip, Long> shared = new HashMap<>();
            for (Clip clip : fitting) {
                shared.put(
                        clip,
                        folders(clip.source().head()).stream()
                                .filter(folders::contains)
                                .count());
            }
            List<Clip> ordered = fitting.stream()
                    .sorted(Comparator.comparingLong((Clip clip) -> -shared.getOrDefault(clip, 0L)))
                    .toList();
            boolean clear = shared.getOrDefault(ordered.get(0), 0L) > shared.getOrDefault(ordered.get(1), 0L);
            return clear ? Optional.of(ordered.getFirst()) : Optional.empty();
        }

        private static Set<String> folders(Path file) {
            Set<String> names = new HashSet<>();
            for (Path up = file.getParent(); up != null && up.getFileName() != null; up = up.getParent()) {
                names.add(key(up.getFileName().toString()));
            }
            return names;
        }

        private static Pair of(Candidate candidate, Clip clip, Level level, String reason) {
            Own own = own(candidate).of(clip);
            return new Pair(clip, candidate.file, candidate.facts, kind(candidate, clip, own), level, reason, own);
        }

        private static CopyKind kind(Candidate candidate, Clip clip, Own own) {
            if (own.range().isPresent()) {
                return CopyKind.RANGE;
            }
            boolean whole = clip.facts()
                    .video()
                    .map(v -> v.displayRaster().height()
                            <= candidate.picture().displayRaster().height())
                    .orElse(false);
            return whole ? CopyKind.FULL : CopyKind.LIGHT;
        }
    }

    private boolean showsTheSame(Candidate candidate, Clip clip) throws InterruptedException {
        VideoFacts original = clip.facts().video().orElseThrow();
        if (!Files.exists(clip.source().head())) {
            return false;
        }
        var form = Likeness.form(original, candidate.picture());
        var reference = pictures.reference(clip.source(), original, List.of(form), List.of());
        return pictures.check(
                        reference,
                        form,
                        new ClipSource.SingleFile(candidate.file),
                        candidate.picture().frames(),
                        false,
                        Conduct.of(cancellation))
                .map(findings -> findings.stream()
                        .allMatch(finding -> finding.passes()
                                // What another program drew into it, or how it graded it, is no other clip.
                                || finding.fact().equals("levels")))
                .orElse(false);
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

    // What a file tells of itself

    private static Map<String, String> tags(Candidate candidate) {
        return candidate.facts.tags().containsKey(CopyTags.SOURCE)
                ? candidate.facts.tags()
                : CopyTags.read(CopyTags.besides(candidate.file));
    }

    private static Optional<Fingerprint> source(Candidate candidate) {
        try {
            return Optional.ofNullable(tags(candidate).get(CopyTags.SOURCE)).map(Fingerprint::parse);
        } catch (IllegalArgumentException e) {
            return Optional.empty(); // somebody else's words under our name
        }
    }

    private static Own own(Candidate candidate) {
        Map<String, String> tags = tags(candidate);
        if (!tags.containsKey(CopyTags.SOURCE)) {
            return Own.NOTHING;
        }
        String recipe = tags.getOrDefault(CopyTags.RECIPE, "");
        return new Own(
                recipe,
                tags.getOrDefault(CopyTags.RECIPE_MARK, ""),
                Optional.ofNullable(tags.get(CopyTags.RANGE)).flatMap(FrameRange::parse));
    }
}
