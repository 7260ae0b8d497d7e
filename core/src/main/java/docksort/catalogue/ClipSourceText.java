package docksort.catalogue;

import docksort.media.ClipSource;
import docksort.media.Rational;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.IntStream;

/// Files of a clip as text of the catalogue, below a root.
final class ClipSourceText {
    private ClipSourceText() {}

    static @org.jspecify.annotations.Nullable String stillsText(ClipSource source) {
        return switch (source) {
            case ClipSource.SingleFile _, ClipSource.Spanned _ -> null;
            case ClipSource.NumberedStills(
                    var _,
                    var prefix,
                    var digits,
                    var suffix,
                    var first,
                    var last,
                    var missing) -> Json.text(new Numbering(prefix, digits, suffix, first, last, missing));
        };
    }

    static @org.jspecify.annotations.Nullable String partsText(ClipSource source, Root root) {
        return source instanceof ClipSource.Spanned spanned
                ? Json.text(IntStream.range(0, spanned.parts().size())
                        .mapToObj(i -> new Part(
                                CataloguePaths.relative(root, spanned.parts().get(i)),
                                spanned.seconds().isEmpty()
                                        ? ""
                                        : spanned.seconds().get(i).toString()))
                        .toList())
                : null;
    }

    private record Numbering(String prefix, int digits, String suffix, int first, int last, List<Integer> missing) {}

    /// A file of a spanned recording.
    ///
    /// @param seconds as a fraction, empty where they are not known
    private record Part(String path, String seconds) {}

    static ClipSource source(
            Path root,
            String path,
            @org.jspecify.annotations.Nullable String stills,
            @org.jspecify.annotations.Nullable String parts) {
        Path head = CataloguePaths.below(root, path);
        Path folder = head.getParent();
        if (parts != null) {
            List<Part> each = List.of(Json.read(parts, Part[].class));
            return new ClipSource.Spanned(
                    each.stream()
                            .map(part -> CataloguePaths.below(root, part.path))
                            .toList(),
                    each.stream()
                            .filter(part -> !part.seconds.isEmpty())
                            .map(part -> Rational.parse(part.seconds))
                            .toList());
        }
        if (stills == null || folder == null) {
            return new ClipSource.SingleFile(head);
        }
        Numbering n = Json.read(stills, Numbering.class);
        CataloguePaths.below(folder, n.prefix + n.suffix);
        return new ClipSource.NumberedStills(folder, n.prefix, n.digits, n.suffix, n.first, n.last, n.missing);
    }
}
