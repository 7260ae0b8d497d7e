package docksort.strain;

import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.media.VideoTarget;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.io.IOException;
import java.util.Collections;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/// What one machine, for instance that of an editing bay, can decode and read; measured there and kept as a
/// file.
///
/// @param machine its name
/// @param readBytesPerSecond how fast its media volume was read, 0 where that was not measured
/// @param pixelsPerSecond how many pixels a second it decodes of each codec
public record BayProfile(
        String format,
        int version,
        String machine,
        double readBytesPerSecond,
        Map<VideoTarget, Double> pixelsPerSecond) {
    private static final String FORMAT = "dock-sort bay profile";
    private static final ObjectMapper JSON =
            new ObjectMapper().enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES);

    public BayProfile {
        pixelsPerSecond = Collections.unmodifiableMap(new TreeMap<>(pixelsPerSecond));
    }

    public static BayProfile of(String machine, double readBytesPerSecond, Map<VideoTarget, Double> pixelsPerSecond) {
        return new BayProfile(FORMAT, 1, machine, readBytesPerSecond, pixelsPerSecond);
    }

    public Optional<Double> pixels(VideoTarget target) {
        return Optional.ofNullable(pixelsPerSecond.get(target));
    }

    public byte[] bytes() {
        try {
            return JSON.writerWithDefaultPrettyPrinter().writeValueAsBytes(this);
        } catch (IOException e) {
            throw new IllegalStateException("a bay profile cannot be written", e);
        }
    }

    /// @param name what the text is called in messages
    /// @throws InputRefused when it is no such profile
    public static BayProfile read(byte[] text, String name) {
        try {
            BayProfile read = JSON.readValue(text, BayProfile.class);
            boolean sane = FORMAT.equals(read.format)
                    && read.version == 1
                    && read.pixelsPerSecond.values().stream().allMatch(speed -> speed > 0 && speed < 1e15);
            if (sane) {
                return read;
            }
            throw refused(name, "it does not say that it is one");
        } catch (IOException | NullPointerException e) {
            throw refused(name, "it cannot be understood: " + e.getMessage());
        }
    }

    private static InputRefused refused(String name, String why) {
        return new InputRefused(new Problem(
                name + " is no bay profile", why, "Nothing was changed.", "Measure it there with dock-sort bay."));
    }
}
