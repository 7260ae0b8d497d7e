package docksort.media;

import docksort.media.FrameLines.Area;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// All that is drawn into a copy's picture.
///
/// @param words each at another place
/// @param watermark lies over the frame lines, and below words
public record BurnIns(List<BurnIn> words, Optional<FrameLines> frame, Optional<Watermark> watermark) {
    public static final BurnIns NONE = new BurnIns(List.of(), Optional.empty(), Optional.empty());

    public BurnIns {
        words = List.copyOf(words);
    }

    public static BurnIns of(BurnIn... words) {
        return new BurnIns(List.of(words), Optional.empty(), Optional.empty());
    }

    public boolean isEmpty() {
        return words.isEmpty() && frame.isEmpty() && watermark.isEmpty();
    }

    /// What each is, for people.
    public List<String> labels() {
        return Stream.of(
                        words.stream().map(BurnIn::label),
                        frame.stream().map(FrameLines::label),
                        watermark.stream().map(Watermark::label))
                .flatMap(Function.identity())
                .toList();
    }

    /// Whether a part of a picture is as it would be without: beside words, not touched by the image, and wholly
    /// within frame lines.
    ///
    /// @param parts how many parts the picture is taken for, across and down
    public boolean leaves(int column, int line, Raster parts, Raster raster, Rational pixelAspect) {
        return (words.isEmpty() || isBesideWords((double) line / parts.height()))
                && frame.map(lines -> lies(column, line, parts, raster, lines.kept(raster, pixelAspect), true))
                        .orElse(true)
                && watermark
                        .map(image -> !lies(column, line, parts, raster, image.area(raster, pixelAspect), false))
                        .orElse(true);
    }

    /// The share of a picture that is as it would be without, see [#leaves]: 1 for all of it.
    public double left(Raster parts, Raster raster, Rational pixelAspect) {
        long left = IntStream.range(0, parts.width() * parts.height())
                .filter(i -> leaves(i % parts.width(), i / parts.width(), parts, raster, pixelAspect))
                .count();
        return (double) left / parts.pixels();
    }

    /// @param y from 0 at the top to 1
    private boolean isBesideWords(double y) {
        boolean centre = words.stream().anyMatch(burnIn -> burnIn.at() == BurnIn.At.CENTRE);
        return y > 0.15 && y < 0.85 && !(centre && y > 0.4 && y < 0.6);
    }

    /// @param wholly or by a piece of it
    private static boolean lies(int column, int line, Raster parts, Raster raster, Area area, boolean wholly) {
        long left = (long) column * raster.width();
        long right = left + raster.width();
        long top = (long) line * raster.height();
        long bottom = top + raster.height();
        long from = (long) area.x() * parts.width();
        long to = from + (long) area.width() * parts.width();
        long above = (long) area.y() * parts.height();
        long below = above + (long) area.height() * parts.height();
        return wholly
                ? left >= from && right <= to && top >= above && bottom <= below
                : right > from && left < to && bottom > above && top < below;
    }

    /// As marks of recipes have it: the same as before there were frame lines and images.
    @Override
    public String toString() {
        var all = new ArrayList<Object>(words);
        frame.ifPresent(all::add);
        watermark.ifPresent(all::add);
        return all.toString();
    }
}
