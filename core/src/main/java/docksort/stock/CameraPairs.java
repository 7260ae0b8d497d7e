package docksort.stock;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.PairSearch;
import docksort.catalogue.WorkingCopy;
import docksort.media.Codec;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.VideoFacts;
import docksort.strain.Traits;
import docksort.strain.Verdict;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
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
    /// @param traits of the small file where it is a pair and they are known
    public record Line(Kind kind, Clip clip, Optional<WorkingCopy> copy, String words, Optional<Traits> traits) {}

    /// One way in which the camera wrote small files.
    ///
    /// @param clips how many
    /// @param pixelsForOne pixels decoded to show one frame, mean over the clips
    /// @param bitsPerSecond mean over the clips
    /// @param verdict of the hardest of them
    public record Setting(
            Codec codec,
            Raster raster,
            FrameRate rate,
            String pixels,
            int clips,
            double pixelsForOne,
            long bitsPerSecond,
            Verdict verdict) {
        public String label() {
            return codec.label() + " " + raster + ", " + rate.label() + " fps, " + pixels;
        }
    }

    /// @param cameras copies that cameras wrote, by their originals
    /// @param traits of such a copy, where they are known
    public static CameraPairs of(
            List<Clip> clips, Map<ClipId, List<WorkingCopy>> cameras, Function<WorkingCopy, Optional<Traits>> traits) {
        boolean any = clips.stream().anyMatch(clip -> cameras.containsKey(clip.id()));
        Optional<FrameRate> usual = usual(clips);
        var lines = new ArrayList<Line>();
        for (Clip clip : clips) {
            List<WorkingCopy> copies = cameras.getOrDefault(clip.id(), List.of());
            copies.forEach(
                    copy -> lines.add(new Line(Kind.PAIR, clip, Optional.of(copy), copy.proof(), traits.apply(copy))));
            Optional<String> alone = clip.facts().complaints().stream()
                    .filter(PairSearch::isSaidByIt)
                    .findFirst();
            if (alone.isPresent()) {
                lines.add(new Line(Kind.ALONE, clip, Optional.empty(), alone.get(), Optional.empty()));
            } else if (copies.isEmpty() && clip.facts().video().isPresent()) {
                lines.add(new Line(
                        Kind.WITHOUT, clip, Optional.empty(), any ? without(clip, usual) : "", Optional.empty()));
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

    /// Settings of the camera that its small files show, the one with the easiest copies first, for whoever
    /// shoots next. Copies whose traits are not known are left out.
    public List<Setting> settings() {
        return lines.stream()
                .flatMap(line -> line.traits().stream())
                .collect(Collectors.groupingBy(own -> List.of(
                        own.codec(), own.raster(), own.rate(), own.pixels().label())))
                .values()
                .stream()
                .map(CameraPairs::setting)
                .sorted(Comparator.comparing(Setting::verdict)
                        .thenComparingDouble(Setting::pixelsForOne)
                        .thenComparingLong(Setting::bitsPerSecond)
                        .thenComparing(Setting::label))
                .toList();
    }

    private static Setting setting(List<Traits> alike) {
        Traits first = alike.getFirst();
        return new Setting(
                first.codec(),
                first.raster(),
                first.rate(),
                first.pixels().label(),
                alike.size(),
                alike.stream()
                        .mapToDouble(own -> own.raster().pixels()
                                * own.scrubCost()
                                        .map(cost -> cost.mean().toDouble())
                                        .orElse(1.0))
                        .average()
                        .orElse(0),
                Math.round(alike.stream()
                        .mapToLong(Traits::bitsPerSecond)
                        .average()
                        .orElse(0)),
                alike.stream()
                        .map(Traits::verdict)
                        .max(Comparator.naturalOrder())
                        .orElse(Verdict.EASY));
    }

    /// Recordings of which the camera wrote no small file, where it wrote one of others.
    public List<Clip> lacking() {
        return of(Kind.PAIR).isEmpty()
                ? List.of()
                : of(Kind.WITHOUT).stream().map(Line::clip).toList();
    }

    /// Lines of a picture that most of the small files have.
    public Optional<Integer> usualLines() {
        return of(Kind.PAIR).stream()
                .flatMap(line -> line.copy().stream())
                .map(copy -> Math.min(copy.place().width(), copy.place().height()))
                .filter(lines -> lines > 0)
                .collect(Collectors.groupingBy(lines -> lines, Collectors.counting()))
                .entrySet()
                .stream()
                .max(Map.Entry.<Integer, Long>comparingByValue().thenComparing(Map.Entry.comparingByKey()))
                .map(Map.Entry::getKey);
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
