package docksort.sort;

import docksort.media.Measured;
import docksort.media.Rational;
import java.nio.ByteBuffer;

/// What some seconds of a clip came to by a recipe, or as they are.
///
/// @param name of the recipe, or that it is the original
/// @param form what it came to
/// @param frameBytes mean bytes of one frame of picture
/// @param secondsPerFrame how long making one took
/// @param playRatio frames a second it is decoded with, over its rate
/// @param scrubCost frames decoded to show one, mean
/// @param ssim 1 for a picture that is the original's
/// @param psnr decibels
/// @param crop a piece from the middle of its picture, as large as the original's pixels, PNG
public record Tried(
        String name,
        String form,
        double frameBytes,
        double secondsPerFrame,
        Measured playRatio,
        Rational scrubCost,
        double ssim,
        double psnr,
        ByteBuffer crop) {}
