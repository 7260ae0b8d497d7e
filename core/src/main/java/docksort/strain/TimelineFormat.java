package docksort.strain;

import docksort.media.FrameRate;
import docksort.media.Raster;

/// What the project's timeline is: the raster and rate that clips are compared with.
public record TimelineFormat(Raster raster, FrameRate rate) {
    public static final TimelineFormat HD_25 = new TimelineFormat(new Raster(1920, 1080), FrameRate.FPS_25);

    public String label() {
        return raster + " · " + rate.label() + " fps";
    }
}
