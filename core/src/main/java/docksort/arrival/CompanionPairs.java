package docksort.arrival;

import docksort.arrival.FootageWalk.Listed;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.VideoFacts;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// Recognises the small files that a camera writes beside its originals. Names only suggest: the name of
/// an original alone, in another folder or with another ending, or with a short code behind it, with or
/// without a sign between. Frame count, rate, timecode and shape decide; see [PairProof].
final class CompanionPairs {
    private static final int LONGEST_CODE = 8;

    /// An original that a small file may be of.
    ///
    /// @param scheme how the small file is named and where it lies, which others of the set share
    /// @param usual whether such names hardly mean anything else
    record Suggestion(ClipSource original, String scheme, boolean usual) {}

    private final Map<String, List<Listed>> byName = new HashMap<>();
    private final Set<String> schemes = new HashSet<>();

    CompanionPairs(List<Listed> sources) {
        for (Listed listed : sources) {
            names(listed.source())
                    .forEach(name -> byName.computeIfAbsent(key(name), _ -> new ArrayList<>())
                            .add(listed));
        }
        for (Listed listed : sources) {
            suggestions(listed).forEach(suggestion -> schemes.add(suggestion.scheme));
        }
    }

    /// What a recording is called, and what its parts are, where it goes on in others.
    private static Set<String> names(ClipSource source) {
        var names = new LinkedHashSet<>(Set.of(source.name()));
        if (source instanceof ClipSource.Spanned spanned) {
            spanned.files().forEach(part -> names.add(new ClipSource.SingleFile(part).name()));
        }
        return names;
    }

    /// Whether a file is named as a companion is, be its original there or missing.
    boolean mayBeOne(Listed small) {
        return small.source() instanceof ClipSource.SingleFile
                && (!suggestions(small).isEmpty()
                        || schemes(small.source().head()).stream().anyMatch(schemes::contains));
    }

    /// Originals that a file may be of by its name, those with the longest name first. Of several of one
    /// name, as on cards that lie beside each other, only the nearest.
    List<Suggestion> suggestions(Listed small) {
        if (!(small.source() instanceof ClipSource.SingleFile)) {
            return List.of();
        }
        String name = small.source().name();
        var found = new ArrayList<Suggestion>();
        for (int length = 0; length <= LONGEST_CODE && length < name.length(); length++) {
            String stem = name.substring(0, name.length() - length);
            String code = name.substring(stem.length());
            if (!isCode(stem, code)) {
                continue;
            }
            List<Listed> named = byName.getOrDefault(key(stem), List.of()).stream()
                    .filter(other -> mayBeOriginal(other, small, code))
                    .toList();
            int nearest = named.stream()
                    .mapToInt(other -> distance(other, small))
                    .min()
                    .orElse(0);
            List<Listed> near = named.stream()
                    .filter(other -> distance(other, small) == nearest)
                    .toList();
            near.forEach(other -> found.add(new Suggestion(
                    other.source(),
                    scheme(small.source().head(), code),
                    near.size() == 1 && isUsual(other, small, code))));
        }
        return found;
    }

    private static boolean mayBeOriginal(Listed other, Listed small, String code) {
        if (other.source().equals(small.source())) {
            return false; // a file is never its own companion
        }
        // The same name twice tells nothing of which is which; what is small has fewer bytes.
        return !code.isEmpty() || other.stamp().bytes() > small.stamp().bytes();
    }

    private static boolean isUsual(Listed other, Listed small, String code) {
        boolean elsewhere = !folder(other.source()).equals(folder(small.source()));
        return code.isEmpty() || (elsewhere && isSign(code.charAt(0)));
    }

    /// Whether what is behind a name may be a code: a number is not cut in two, and digits alone, without a
    /// sign before them, count takes.
    private static boolean isCode(String stem, String code) {
        if (code.isEmpty()) {
            return true;
        }
        if (isSign(code.charAt(0))) {
            return code.length() > 1;
        }
        boolean cutsNumber = Character.isDigit(code.charAt(0)) && Character.isDigit(stem.charAt(stem.length() - 1));
        return !cutsNumber && code.chars().anyMatch(Character::isLetter);
    }

    /// The schemes that a file could be named by.
    static Set<String> schemes(Path file) {
        String name = new ClipSource.SingleFile(file).name();
        var found = new HashSet<String>();
        for (int length = 0; length <= LONGEST_CODE && length < name.length(); length++) {
            String stem = name.substring(0, name.length() - length);
            if (isCode(stem, name.substring(stem.length()))) {
                found.add(scheme(file, name.substring(stem.length())));
            }
        }
        return found;
    }

    /// Where small files of one kind lie, and what their names end with.
    private static String scheme(Path file, String code) {
        String name = String.valueOf(file.getFileName());
        String ending = name.substring(name.lastIndexOf('.') + 1);
        return file.getParent() + "|" + key(code) + "|" + key(ending);
    }

    /// Why a small file is not a copy of an original; empty when nothing speaks against it.
    static Optional<String> refusal(ClipFacts original, ClipFacts small) {
        Optional<String> form = formRefusal(original, small);
        if (form.isPresent()) {
            return form;
        }
        long full = original.video().orElseThrow().frames().count();
        long light = small.video().orElseThrow().frames().count();
        if (light != full) {
            return Optional.of("it has " + light + " frames, not " + full);
        }
        return small.startTimecode().isPresent() && !small.startTimecode().equals(original.startTimecode())
                ? Optional.of("its timecode starts elsewhere")
                : Optional.empty();
    }

    /// Why it has not even the form of one, however long it is.
    static Optional<String> formRefusal(ClipFacts original, ClipFacts small) {
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
        double aspect =
                (double) full.displayRaster().width() / full.displayRaster().height();
        double other =
                (double) light.displayRaster().width() / light.displayRaster().height();
        return Math.abs(aspect / other - 1) > 0.02 ? Optional.of("its shape is another") : Optional.empty();
    }

    private static boolean isSign(char c) {
        return c == '_' || c == '-' || c == '.' || c == ' ';
    }

    private static String key(String name) {
        return name.toLowerCase(Locale.ROOT);
    }

    private static Path folder(ClipSource source) {
        Path folder = source.head().getParent();
        return folder == null ? Path.of("") : folder;
    }

    /// Steps up and down from one folder to another.
    private static int distance(Listed one, Listed other) {
        Path way = folder(one.source()).relativize(folder(other.source()));
        return way.toString().isEmpty() ? 0 : way.getNameCount();
    }
}
