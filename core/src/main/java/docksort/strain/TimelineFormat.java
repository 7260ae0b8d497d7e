package docksort.strain;

import docksort.media.ClipFacts;
import docksort.media.Colour;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// What the project's timeline is; clips are compared with it.
///
/// @param pixelAspect width of a pixel over its height
/// @param primaries colour primaries by the engine's name, for instance `bt709`
/// @param samplesPerSecond rate of the sound
public record TimelineFormat(
        Raster raster, FrameRate rate, Rational pixelAspect, String primaries, int samplesPerSecond) {
    public static final TimelineFormat HD_25 =
            new TimelineFormat(new Raster(1920, 1080), FrameRate.FPS_25, Rational.of(1), "bt709", 48_000);

    public TimelineFormat {
        if (!pixelAspect.isPositive() || samplesPerSecond <= 0) {
            throw new IllegalArgumentException("not a timeline: " + pixelAspect + ", " + samplesPerSecond);
        }
    }

    public String label() {
        return raster + " · " + rate.label() + " fps";
    }

    /// In what a clip differs, each with the clip's own value. What the clip does not state does not differ.
    public List<String> differences(ClipFacts facts) {
        var found = new ArrayList<String>();
        facts.video().ifPresent(video -> picture(video, found));
        facts.audio().stream()
                .filter(stream -> stream.samplesPerSecond() > 0 && stream.samplesPerSecond() != samplesPerSecond)
                .findFirst()
                .ifPresent(stream ->
                        found.add(String.format(Locale.ROOT, "sound %.1f kHz", stream.samplesPerSecond() / 1000.0)));
        return found;
    }

    private void picture(VideoFacts video, List<String> found) {
        if (!video.displayRaster().equals(raster)) {
            found.add("raster " + video.displayRaster());
        }
        if (!video.rate().equals(rate)) {
            found.add("rate " + video.rate().label());
        }
        if (!video.pixelAspect().equals(pixelAspect)) {
            found.add("pixel aspect " + video.pixelAspect());
        }
        Colour colour = video.colour();
        if (!colour.primaries().isEmpty() && !colour.primaries().equals(primaries)) {
            found.add("colour " + colour.primaries());
        }
    }
}
