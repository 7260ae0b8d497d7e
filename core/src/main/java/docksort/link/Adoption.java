package docksort.link;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.media.ClipFacts;
import docksort.media.FrameRange;
import docksort.sort.CopyKind;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/// What a folder of copies that were made elsewhere comes to, before anything of it is taken over.
///
/// @param patterns how the copies' names follow from the originals'
/// @param pairs each file with the clip it is, or is not, a copy of
/// @param unpaired files for which there is no clip at all
/// @param without clips that no file of the folder is a copy of
public record Adoption(
        Path folder, List<NamePattern> patterns, List<Pair> pairs, List<Unpaired> unpaired, List<Clip> without) {
    public Adoption {
        patterns = List.copyOf(patterns);
        pairs = List.copyOf(pairs);
        unpaired = List.copyOf(unpaired);
        without = List.copyOf(without);
    }

    /// How sure it is that a file is a copy of a clip.
    public enum Level {
        SURE("sure"),
        DOUBTFUL("doubtful"),
        REFUSED("refused");

        private final String label;

        Level(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /// One file and the clip that is nearest to it.
    ///
    /// @param reason what makes it sure, doubtful or refused
    public record Pair(Clip clip, Path file, ClipFacts facts, CopyKind kind, Level level, String reason, Own own) {
        /// Whether it rests on somebody's word once it is taken over.
        public boolean isOnTrust() {
            return level == Level.DOUBTFUL;
        }
    }

    /// What a file tells of itself, where this program made it.
    ///
    /// @param recipeId empty where it was made by something else
    public record Own(String recipeId, String recipeMark, Optional<FrameRange> range) {
        public static final Own NOTHING = new Own("", "", Optional.empty());

        /// The same for a known clip: a range that is all of it is none.
        Own of(Clip clip) {
            long frames = clip.facts().video().map(v -> v.frames().count()).orElse(0L);
            return new Own(recipeId, recipeMark, range.filter(r -> r.first() > 0 || r.count() < frames));
        }
    }

    public record Unpaired(Path file, String reason) {}

    public List<Pair> pairs(Level level) {
        return pairs.stream().filter(pair -> pair.level == level).toList();
    }

    /// Clips that get a copy by it.
    public Set<ClipId> served() {
        Set<ClipId> served = new HashSet<>();
        pairs(Level.SURE).forEach(pair -> served.add(pair.clip.id()));
        return served;
    }
}
