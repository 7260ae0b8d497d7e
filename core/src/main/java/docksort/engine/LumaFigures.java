package docksort.engine;

import docksort.engine.FramePlayer.Shown;

/// How alike two frames are in their luma, brought to full range and one size.
///
/// SSIM after Wang, Bovik, Sheikh and Simoncelli, "Image quality assessment: from error visibility to
/// structural similarity", IEEE Transactions on Image Processing 13 (2004), with even windows of 8 by 8 pixels
/// that overlap by half, as the engine's `ssim` filter has them; PSNR from the mean squared error of 8-bit
/// luma.
///
/// @param ssim 1 for equal frames
/// @param psnr decibels, infinite for equal frames
public record LumaFigures(double ssim, double psnr) {
    private static final int WINDOW = 8;
    private static final int STEP = 4;
    private static final double PEAK = 255;
    private static final double C1 = (0.01 * PEAK) * (0.01 * PEAK);
    private static final double C2 = (0.03 * PEAK) * (0.03 * PEAK);

    /// @param one luma of a frame, see [FramePlayer.View#luma]
    /// @param other luma of another in the same size
    /// @throws IllegalArgumentException when the sizes differ or are below one window
    public static LumaFigures of(Shown one, Shown other) {
        if (one.width() != other.width() || one.height() != other.height()) {
            throw new IllegalArgumentException("frames of two sizes are not compared");
        }
        if (one.width() < WINDOW || one.height() < WINDOW) {
            throw new IllegalArgumentException("frames below 8 by 8 pixels are not compared");
        }
        double windows = 0;
        long count = 0;
        for (int y = 0; y + WINDOW <= one.height(); y += STEP) {
            for (int x = 0; x + WINDOW <= one.width(); x += STEP) {
                windows += window(one, other, x, y);
                count++;
            }
        }
        return new LumaFigures(windows / count, psnr(one, other));
    }

    private static double window(Shown one, Shown other, int left, int top) {
        double sumA = 0;
        double sumB = 0;
        double squares = 0;
        double products = 0;
        for (int y = top; y < top + WINDOW; y++) {
            for (int x = left; x < left + WINDOW; x++) {
                int at = y * one.width() + x;
                double a = one.pixels().get(at) & 0xff;
                double b = other.pixels().get(at) & 0xff;
                sumA += a;
                sumB += b;
                squares += a * a + b * b;
                products += a * b;
            }
        }
        double n = WINDOW * WINDOW;
        double meanA = sumA / n;
        double meanB = sumB / n;
        double variances = (squares - n * (meanA * meanA + meanB * meanB)) / (n - 1);
        double covariance = (products - n * meanA * meanB) / (n - 1);
        return (2 * meanA * meanB + C1)
                * (2 * covariance + C2)
                / ((meanA * meanA + meanB * meanB + C1) * (variances + C2));
    }

    private static double psnr(Shown one, Shown other) {
        double squares = 0;
        int pixels = one.width() * one.height();
        for (int at = 0; at < pixels; at++) {
            double difference = (one.pixels().get(at) & 0xff) - (other.pixels().get(at) & 0xff);
            squares += difference * difference;
        }
        return squares == 0 ? Double.POSITIVE_INFINITY : 10 * Math.log10(PEAK * PEAK * pixels / squares);
    }
}
