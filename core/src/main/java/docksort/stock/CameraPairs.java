package docksort.stock;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.PairSearch;
import docksort.catalogue.WorkingCopy;
import docksort.media.FrameRate;
import docksort.media.VideoFacts;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// Originals of an arrival and the small files that their camera wrote beside them.
public record CameraPairs(List<Line> lines) {
    public CameraPairs {
        lines = List.copyOf(lines);
    }

    /// How a line stands.
    public enum Kind {
        /// A small file with its original.
        PAIR("pair"),
        /// A small file whose original is not there, or that is none of the original it is named after.
        ALONE("no original"),
        /// A recording that has no small file.
        WITHOUT("no small file");

        private final String label;

        Kind(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /// @param clip the original; of a small file without one, itself
    /// @param copy the small file where it is a pair
    /// @param words the proof, or what is wrong
    public record Line(Kind kind, Clip clip, Optional<WorkingCopy> copy, String words) {}

    /// @param cameras copies that cameras wrote, by their originals
    public static CameraPairs of(List<Clip> clips, Map<ClipId, List<WorkingCopy>> cameras) {
        boolean any = clips.stream().anyMatch(clip -> cameras.containsKey(clip.id()));
        Optional<FrameRate> usual = usual(clips);
        var lines = new ArrayList<Line>();
        for (Clip clip : clips) {
            List<WorkingCopy> copies = cameras.getOrDefault(clip.id(), List.of());
            copies.forEach(copy -> lines.add(new Line(Kind.PAIR, clip, Optional.of(copy), copy.proof())));
            Optional<String> alone = clip.facts().complaints().stream()
                    .filter(PairSearch::isSaidByIt)
                    .findFirst();
            if (alone.isPresent()) {
                lines.add(new Line(Kind.ALONE, clip, Optional.empty(), alone.get()));
            } else if (copies.isEmpty() && clip.facts().video().isPresent()) {
                lines.add(new Line(Kind.WITHOUT, clip, Optional.empty(), any ? without(clip, usual) : ""));
            }
        }
        return new CameraPairs(lines);
    }

    /// The rate that most of an arrival has.
    private static Optional<FrameRate> usual(List<Clip> clips) {
        return clips.stream()
                .flatMap(clip -> clip.facts().video().stream())
                .collect(Collectors.groupingBy(VideoFacts::rate, Collectors.counting()))
                .entrySet()
                .stream()
                .max(Map.Entry.<FrameRate, Long>comparingByValue()
                        .thenComparing(entry -> -entry.getKey().exact().toDouble(), Comparator.naturalOrder()))
                .map(Map.Entry::getKey);
    }

    private static String without(Clip clip, Optional<FrameRate> usual) {
        FrameRate own = clip.facts().video().orElseThrow().rate();
        boolean fast =
                usual.filter(rate -> own.exact().compareTo(rate.exact()) > 0).isPresent();
        return fast
                ? "a take at " + own.label() + " fps, of which the camera wrote none: Sort plans one"
                : "others of this arrival have one: it may have been left on the card; Sort plans one";
    }

    public List<Line> of(Kind kind) {
        return lines.stream().filter(line -> line.kind == kind).toList();
    }

    /// "12 pairs, 1 small file without an original, 3 originals without a small file"
    public String inWords() {
        int pairs = of(Kind.PAIR).size();
        int alone = of(Kind.ALONE).size();
        int without = of(Kind.WITHOUT).size();
        var words = new StringBuilder().append(pairs).append(pairs == 1 ? " pair" : " pairs");
        if (alone > 0) {
            words.append(", ")
                    .append(alone)
                    .append(alone == 1 ? " small file" : " small files")
                    .append(" without an original");
        }
        if (without > 0) {
            words.append(", ")
                    .append(without)
                    .append(without == 1 ? " original" : " originals")
                    .append(" without a small file");
        }
        return words.append(alone + without == 0 ? ", nothing without its partner" : "")
                .toString();
    }
}
