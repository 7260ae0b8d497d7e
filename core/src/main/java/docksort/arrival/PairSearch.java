package docksort.arrival;

import docksort.arrival.CompanionPairs.Suggestion;
import docksort.arrival.FootageWalk.Listed;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// Finds which files of an arrival are small ones that a camera wrote beside others of it.
public final class PairSearch {
    private static final String ORPHAN = "it lies among the camera's small copies and is named like them; its original"
            + " is missing: was all of the card copied?";

    private static final String PUT_ASIDE = ": put it aside";
    private static final String NAMED_LIKE = "it is named like a copy of ";

    /// Whether a complaint is what this search tells of a small file without an original.
    public static boolean isSaidByIt(String complaint) {
        return complaint.equals(ORPHAN) || complaint.startsWith(NAMED_LIKE);
    }

    /// A file that may be a small one.
    record Small(Listed listed, ClipFacts facts) {
        private long pixels() {
            return facts.video().map(video -> video.raster().pixels()).orElse(0L);
        }
    }

    /// @param proof what tells that they belong together
    record Paired(Small small, ClipSource original, String proof) {}

    /// @param alone those that are no copies, with what is to be told of it; empty where nothing is
    record Outcome(List<Paired> pairs, Map<ClipSource, Optional<String>> alone) {}

    private final CompanionPairs names;
    private final SameScene sameScene;
    private final Map<ClipSource, ClipFacts> originals = new HashMap<>();
    private final Map<ClipSource, ClipSource> copyOf = new HashMap<>();

    private PairSearch(CompanionPairs names, SameScene sameScene) {
        this.names = names;
        this.sameScene = sameScene;
    }

    /// @param held files that are named as small ones are
    /// @param others every other recording
    static Outcome of(
            CompanionPairs names, Collection<Small> held, Map<ClipSource, ClipFacts> others, SameScene sameScene)
            throws InterruptedException {
        var search = new PairSearch(names, sameScene);
        search.originals.putAll(others);
        return search.pairUp(held);
    }

    /// The largest first: what is a copy itself is no original for another.
    private Outcome pairUp(Collection<Small> held) throws InterruptedException {
        held.forEach(small -> originals.put(small.listed.source(), small.facts));
        var proof = new PairProof(List.copyOf(originals.values()));
        var pairs = new ArrayList<Paired>();
        var refused = new LinkedHashMap<Small, String>();
        for (Small small : held.stream()
                .sorted(Comparator.comparingLong(Small::pixels).reversed())
                .toList()) {
            originals.remove(small.listed.source());
            var why = new ArrayList<String>();
            Optional<Paired> pair = pair(small, proof, why);
            pair.ifPresent(found -> {
                pairs.add(found);
                copyOf.put(small.listed.source(), found.original);
                proof.isCopy(small.facts);
            });
            if (pair.isEmpty()) {
                originals.put(small.listed.source(), small.facts);
                refused.put(small, why.isEmpty() ? ORPHAN : why.getFirst());
            }
        }
        Set<String> schemes = new HashSet<>();
        pairs.forEach(pair ->
                schemes.addAll(CompanionPairs.schemes(pair.small.listed.source().head())));
        var alone = new LinkedHashMap<ClipSource, Optional<String>>();
        refused.forEach((small, why) -> {
            boolean ofTheSet = CompanionPairs.schemes(small.listed.source().head()).stream()
                    .anyMatch(schemes::contains);
            boolean isPart = why.endsWith(PUT_ASIDE);
            alone.put(small.listed.source(), ofTheSet || isPart ? Optional.of(why) : Optional.empty());
        });
        return new Outcome(pairs, alone);
    }

    /// @param why gets the reasons of those that were refused
    private Optional<Paired> pair(Small small, PairProof proof, List<String> why) throws InterruptedException {
        for (Suggestion suggestion : names.suggestions(small.listed)) {
            // Named like a larger copy, it is of the same original.
            ClipSource original = copyOf.getOrDefault(suggestion.original(), suggestion.original());
            ClipFacts facts = originals.get(original);
            if (facts == null) {
                continue; // it cannot be read
            }
            String named = NAMED_LIKE + original.name() + ", but ";
            Optional<String> refusal = original instanceof ClipSource.Spanned spanned
                    ? CompanionPairs.formRefusal(facts, small.facts).or(() -> ofAPart(spanned))
                    : CompanionPairs.refusal(facts, small.facts);
            if (refusal.isPresent()) {
                why.add(named + refusal.get());
                continue;
            }
            Optional<String> proven = proof.of(facts, small.facts, suggestion.usual());
            if (proven.isEmpty() && sameScene.shows(original, facts, small.listed.source(), small.facts)) {
                proven = Optional.of("length, rate, shape and the pictures are the original's");
            }
            if (proven.isPresent()) {
                return Optional.of(new Paired(small, original, proven.get()));
            }
            why.add(named + "its pictures are not the same");
        }
        return Optional.empty();
    }

    /// What stands in for a clip is one file: a camera's small files of its parts cannot.
    private static Optional<String> ofAPart(ClipSource.Spanned original) {
        return Optional.of("that goes on over " + original.files().size()
                + " files, and a copy that stands in for it is one" + PUT_ASIDE);
    }

    /// A clip that is a small copy of another one.
    public record Pair(Clip small, Clip original, String proof) {}

    /// The same among clips that are listed already, by what is known of them.
    public static List<Pair> among(List<Clip> clips, SameScene sameScene) throws InterruptedException {
        Map<ClipSource, Clip> bySource = new HashMap<>();
        clips.forEach(clip -> bySource.put(clip.source(), clip));
        List<Listed> all = clips.stream().map(PairSearch::listed).toList();
        var names = new CompanionPairs(all);
        var held = new ArrayList<Small>();
        Map<ClipSource, ClipFacts> others = new HashMap<>();
        for (int i = 0; i < all.size(); i++) {
            if (names.mayBeOne(all.get(i))) {
                held.add(new Small(all.get(i), clips.get(i).facts()));
            } else {
                others.put(clips.get(i).source(), clips.get(i).facts());
            }
        }
        var pairs = new ArrayList<Pair>();
        for (Paired pair : of(names, held, others, sameScene).pairs) {
            Clip small = bySource.get(pair.small.listed.source());
            Clip original = bySource.get(pair.original);
            if (small != null && original != null) {
                pairs.add(new Pair(small, original, pair.proof));
            }
        }
        return pairs;
    }

    private static Listed listed(Clip clip) {
        return new Listed(clip.source(), Stamp.NONE.plus(clip.facts().size().bytes(), 0));
    }

    /// Why one recording cannot be a small copy of another; empty where nothing speaks against it.
    public static Optional<String> refusal(Clip original, Clip small) {
        return original.id().equals(small.id())
                ? Optional.of("a file is no copy of itself")
                : CompanionPairs.refusal(original.facts(), small.facts());
    }
}
