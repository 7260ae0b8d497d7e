package docksort.media;

import java.util.Locale;

/// Width and height of a picture in samples.
public record Raster(int width, int height) {
    public Raster {
        if (width < 1 || height < 1 || width > 65_536 || height > 65_536) {
            throw new IllegalArgumentException("raster sides must be 1 to 65536, was " + width + "x" + height);
        }
    }

    /// Reads `1920x1080`.
    public static Raster parse(String text) {
        String[] sides = text.strip().toLowerCase(Locale.ROOT).replace('×', 'x').split("x", -1);
        if (sides.length != 2) {
            throw new IllegalArgumentException("not a raster: " + text);
        }
        try {
            return new Raster(Integer.parseInt(sides[0].strip()), Integer.parseInt(sides[1].strip()));
        } catch (NumberFormatException e) {
            throw new IllegalArgumentException("not a raster: " + text, e);
        }
    }

    public long pixels() {
        return (long) width * height;
    }

    /// Blocks of 16x16 samples that cover the picture; what VC-3 and ProRes sizes grow with.
    public long macroblocks() {
        return (long) ((width + 15) / 16) * ((height + 15) / 16);
    }

    /// Each side divided, then rounded to the nearest even number (4:2:0 and 4:2:2 need even sides).
    public Raster dividedBy(int perSide) {
        return new Raster(even(width, perSide), even(height, perSide));
    }

    /// Lines of the picture as they are counted of formats: an upright picture has as many as the same one lying.
    public int lines() {
        return Math.min(width, height);
    }

    /// Scaled to a number of lines with the other side following, both even. Never enlarges.
    public Raster fittedToLines(int lines) {
        if (lines() <= lines) {
            return this;
        }
        return height > width
                ? turned().fittedToLines(lines).turned()
                : new Raster(even((long) width * lines, height), even(lines, 1));
    }

    /// Scaled to lie within another one. Never enlarges.
    public Raster within(Raster box) {
        if (!exceeds(box)) {
            return this;
        }
        return (long) width * box.height > (long) height * box.width
                ? new Raster(even(box.width, 1), even((long) height * box.width, width))
                : new Raster(even((long) width * box.height, height), even(box.height, 1));
    }

    /// As wide as its longer side.
    public Raster lying() {
        return height > width ? turned() : this;
    }

    public Raster turned() {
        return new Raster(/* width= */ height, /* height= */ width);
    }

    /// Larger in both meanings of the word: wider or taller.
    public boolean exceeds(Raster other) {
        return width > other.width || height > other.height;
    }

    private static int even(long side, long divisor) {
        long half = (side + divisor) / (2 * divisor);
        return (int) Math.max(2, 2 * half);
    }

    @Override
    public String toString() {
        return width + "×" + height;
    }
}
