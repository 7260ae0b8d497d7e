package docksort.link;

import docksort.arrival.Clip;
import docksort.link.Adoption.Level;
import docksort.link.Adoption.Own;
import docksort.link.Adoption.Pair;
import docksort.link.Adoption.Unpaired;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.media.Reels;
import docksort.run.CopyTags;
import docksort.sort.CopyKind;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// Which clip a file may be a copy of: by its own words, its content, its name, and, in doubt, its
/// pictures. Recordings that cannot be decoded here are also known by their reel.
final class CopyMatching {
    private final SamePictures pictures;
    private final List<NamePattern> patterns;
    private final Map<String, List<Clip>> byName = new HashMap<>();
    private final Map<Fingerprint, Clip> byContent = new HashMap<>();
    private final Map<String, List<Clip>> rawByReel = new HashMap<>();
    private final Map<String, Integer> clipsAlike = new HashMap<>();
    private final Map<String, Integer> filesAlike = new HashMap<>();

    CopyMatching(SamePictures pictures, List<Clip> clips, List<Candidate> candidates, List<NamePattern> patterns) {
        this.pictures = pictures;
        this.patterns = patterns;
        for (Clip clip : clips) {
            byName.computeIfAbsent(key(clip.name()), _ -> new ArrayList<>()).add(clip);
            byContent.putIfAbsent(clip.fingerprint(), clip);
            if (isOutOfReach(clip)) {
                clip.facts()
                        .reel()
                        .ifPresent(reel -> rawByReel
                                .computeIfAbsent(Reels.key(reel), _ -> new ArrayList<>())
                                .add(clip));
            }
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
        return facts.video().map(v -> v.frames().count() + " at " + v.rate()).orElse("")
                + facts.startTimecode().map(tc -> " from " + tc).orElse("");
    }

    Unpaired nobody(Candidate candidate) {
        return new Unpaired(
                candidate.file(),
                Own.NOTHING.equals(own(candidate))
                        ? "no clip of the project has the name that this one follows from"
                        : "its original is not in the project");
    }

    Optional<Pair> pair(Candidate candidate) throws InterruptedException {
        Clip same = byContent.get(candidate.fingerprint());
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
                    clip.facts(), candidate.facts(), own.of(clip).range());
            return Optional.of(of(
                    candidate,
                    clip,
                    refusal.isEmpty() ? Level.SURE : Level.REFUSED,
                    refusal.orElse("its own metadata name this original")));
        }
        return byName(candidate);
    }

    private Optional<Pair> byName(Candidate candidate) throws InterruptedException {
        Set<Clip> suggested = new LinkedHashSet<>();
        for (NamePattern pattern : patterns) {
            pattern.original(candidate.name())
                    .map(name -> byName.getOrDefault(name, List.of()))
                    .ifPresent(suggested::addAll);
        }
        String by = suggested.isEmpty() ? "reel" : "name";
        if (suggested.isEmpty()) {
            candidate
                    .facts()
                    .reel()
                    .ifPresent(reel -> suggested.addAll(rawByReel.getOrDefault(Reels.key(reel), List.of())));
        }
        var possible = new ArrayList<Clip>();
        var refusals = new LinkedHashMap<Clip, String>();
        for (Clip clip : suggested) {
            Likeness.refusal(clip.facts(), candidate.facts(), Optional.empty())
                    .ifPresentOrElse(why -> refusals.put(clip, why), () -> possible.add(clip));
        }
        if (possible.isEmpty()) {
            return refusals.entrySet().stream()
                    .findFirst()
                    .map(entry -> of(candidate, entry.getKey(), Level.REFUSED, entry.getValue()));
        }
        if (possible.size() == 1 && isBeyondDoubt(candidate, possible.getFirst())) {
            return Optional.of(
                    of(candidate, possible.getFirst(), Level.SURE, by + ", length, rate and timecode agree"));
        }
        return Optional.of(
                possible.stream().allMatch(CopyMatching::isOutOfReach)
                        ? outOfReach(candidate, possible, by)
                        : byPicture(
                                candidate,
                                possible.stream()
                                        .filter(clip -> !isOutOfReach(clip))
                                        .toList()));
    }

    private static boolean isOutOfReach(Clip clip) {
        return clip.facts().findings().outOfReach().isPresent();
    }

    /// Of a recording that cannot be decoded here no picture can be compared.
    private Pair outOfReach(Candidate candidate, List<Clip> possible, String by) {
        Clip clip = possible.size() == 1
                ? possible.getFirst()
                : nearest(candidate, possible).orElse(possible.getFirst());
        String agrees =
                clip.facts().video().isPresent() ? by + ", length and rate agree" : "only the " + by + " agrees";
        return of(
                candidate,
                clip,
                Level.DOUBTFUL,
                (possible.size() > 1 ? possible.size() + " recordings could be meant; " : "") + agrees
                        + ", and pictures cannot be compared here");
    }

    /// What speaks for or against a clip that somebody says is the original of a file.
    Pair said(Candidate candidate, Clip clip) throws InterruptedException {
        Optional<Pair> itself = candidate.fingerprint().equals(clip.fingerprint())
                        || source(candidate).isPresent()
                ? pair(candidate)
                : Optional.empty();
        if (itself.isPresent()) {
            return itself.get();
        }
        if (source(candidate).isPresent()) {
            return of(candidate, clip, Level.REFUSED, "its own metadata name another original");
        }
        Optional<String> refusal = Likeness.refusal(clip.facts(), candidate.facts(), Optional.empty());
        if (refusal.isPresent()) {
            return of(candidate, clip, Level.REFUSED, refusal.get());
        }
        return isOutOfReach(clip)
                ? of(candidate, clip, Level.DOUBTFUL, "somebody said so, and pictures cannot be compared here")
                : byPicture(candidate, List.of(clip));
    }

    /// A timecode that tells something, and no other clip or file that could be meant.
    private boolean isBeyondDoubt(Candidate candidate, Clip clip) {
        boolean timecode = clip.facts().video().isPresent()
                && candidate.facts().startTimecode().isPresent()
                && clip.facts().startTimecode().map(tc -> tc.frameOfDay() != 0).orElse(false);
        return timecode
                && clipsAlike.getOrDefault(looks(clip.facts()), 0) == 1
                && filesAlike.getOrDefault(looks(candidate.facts()), 0) == 1
                && filesAlike.getOrDefault(key(candidate.name()), 0) == 1;
    }

    private Pair byPicture(Candidate candidate, List<Clip> possible) throws InterruptedException {
        var fitting = new ArrayList<Clip>();
        for (Clip clip : possible) {
            if (pictures.shows(
                    clip.source(), clip.facts(), new ClipSource.SingleFile(candidate.file()), candidate.facts())) {
                fitting.add(clip);
            }
        }
        if (fitting.size() == 1) {
            return of(candidate, fitting.getFirst(), Level.SURE, "name, length and rate agree, and the pictures do");
        }
        if (fitting.size() > 1) {
            return nearest(candidate, fitting)
                    .map(clip ->
                            of(candidate, clip, Level.SURE, "the pictures agree, and so does the folder it lies in"))
                    .orElseGet(() -> of(
                            candidate,
                            fitting.getFirst(),
                            Level.DOUBTFUL,
                            fitting.size() + " clips look the same: choose the right one"));
        }
        boolean reachable =
                possible.stream().allMatch(clip -> Files.exists(clip.source().head()));
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
        Set<String> folders = folders(candidate.file());
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
        return new Pair(clip, candidate.file(), candidate.facts(), kind(candidate, clip, own), level, reason, own);
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

    private static Map<String, String> tags(Candidate candidate) {
        return candidate.facts().tags().containsKey(CopyTags.SOURCE)
                ? candidate.facts().tags()
                : CopyTags.read(CopyTags.besides(candidate.file()));
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
