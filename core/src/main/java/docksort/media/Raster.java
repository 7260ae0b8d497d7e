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

    /// Scaled to a number of lines with the width following, both even. Never enlarges.
    public Raster fittedToLines(int lines) {
        if (height <= lines) {
            return this;
        }
        return new Raster(even((long) width * lines, height), even(lines, 1));
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
