package docksort.arrival;

import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.VideoFacts;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// Recognises the small files that a camera writes beside its originals. A name only suggests a pair: the
/// name of an original with a short ending such as `_P`, in another folder of the arrival. Frame count,
/// rate, timecode and aspect decide.
final class CompanionPairs {
    private static final int LONGEST_ENDING = 8;

    private final Map<String, List<ClipSource>> byName = new HashMap<>();
    private final Set<String> homes = new HashSet<>();

    CompanionPairs(List<ClipSource> sources) {
        for (ClipSource source : sources) {
            byName.computeIfAbsent(key(source.name()), _ -> new java.util.ArrayList<>())
                    .add(source);
        }
        for (ClipSource source : sources) {
            if (!candidatesFor(source).isEmpty()) {
                home(source.head()).ifPresent(homes::add);
            }
        }
    }

    /// Whether a source is named as a companion is, be its original there or missing.
    boolean mayBeOne(ClipSource source) {
        return source instanceof ClipSource.SingleFile
                && (!candidatesFor(source).isEmpty()
                        || home(source.head()).filter(homes::contains).isPresent());
    }

    /// The sources that this one may be a companion of, by name.
    List<ClipSource> candidatesFor(ClipSource source) {
        if (!(source instanceof ClipSource.SingleFile)) {
            return List.of();
        }
        String name = source.name();
        for (int cut = 1; cut <= LONGEST_ENDING && cut < name.length(); cut++) {
            String stem = name.substring(0, name.length() - cut);
            if (!isSeparator(name.charAt(stem.length()))) {
                continue;
            }
            List<ClipSource> found = byName.getOrDefault(key(stem), List.of()).stream()
                    .filter(other -> !folder(other).equals(folder(source)))
                    .toList();
            if (!found.isEmpty()) {
                return found;
            }
        }
        return List.of();
    }

    /// Where copies of one kind lie: their folder, and what their names end with behind the last separator.
    static Optional<String> home(Path file) {
        String name = new ClipSource.SingleFile(file).name();
        for (int at = name.length() - 2; at > 0 && at >= name.length() - LONGEST_ENDING; at--) {
            if (isSeparator(name.charAt(at))) {
                return Optional.of(file.getParent() + "|" + key(name.substring(at)));
            }
        }
        return Optional.empty();
    }

    /// Why a small file is not a copy of an original; empty when it is.
    static Optional<String> refusal(ClipFacts original, ClipFacts small) {
        if (original.video().isEmpty() || small.video().isEmpty()) {
            return Optional.of("one of them has no picture");
        }
        VideoFacts full = original.video().get();
        VideoFacts light = small.video().get();
        if (light.raster().pixels() >= full.raster().pixels()) {
            return Optional.of("its raster is not smaller");
        }
        if (!light.rate().equals(full.rate())) {
            return Optional.of("its rate is " + light.rate().label() + ", not "
                    + full.rate().label());
        }
        if (light.frames().count() != full.frames().count()) {
            return Optional.of("it has " + light.frames().count() + " frames, not "
                    + full.frames().count());
        }
        if (small.startTimecode().isPresent() && !small.startTimecode().equals(original.startTimecode())) {
            return Optional.of("its timecode starts elsewhere");
        }
        double aspect =
                (double) full.displayRaster().width() / full.displayRaster().height();
        double other =
                (double) light.displayRaster().width() / light.displayRaster().height();
        return Math.abs(aspect / other - 1) > 0.02 ? Optional.of("its shape is another") : Optional.empty();
    }

    private static boolean isSeparator(char c) {
        return c == '_' || c == '-' || c == '.' || c == ' ';
    }

    private static String key(String name) {
        return name.toLowerCase(Locale.ROOT);
    }

    private static Path folder(ClipSource source) {
        Path folder = source.head().getParent();
        return folder == null ? Path.of("") : folder;
    }
}
