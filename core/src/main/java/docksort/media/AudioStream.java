package docksort.media;

import java.util.Locale;

/// One audio stream: codec by the engine's name, channels, layout as stated (may be empty), samples a
/// second, bits a sample (0 where the codec has none), duration in seconds.
public record AudioStream(
        String codec, int channels, String layout, int samplesPerSecond, int bitsPerSample, Rational seconds) {
    public AudioStream {
        if (channels < 0 || samplesPerSecond < 0 || bitsPerSample < 0) {
            throw new IllegalArgumentException("negative audio figure");
        }
    }

    /// The same stream of another length.
    public AudioStream lasting(Rational newSeconds) {
        return new AudioStream(codec, channels, layout, samplesPerSecond, bitsPerSample, newSeconds);
    }

    /// What a mix of it and others is.
    AudioStream as(int newChannels, int newBits, Rational newSeconds) {
        return new AudioStream(codec, newChannels, "", samplesPerSecond, newBits, newSeconds);
    }

    /// "2 ch 48 kHz 24-bit"
    public String label() {
        String rate = samplesPerSecond % 1000 == 0
                ? samplesPerSecond / 1000 + " kHz"
                : String.format(Locale.ROOT, "%.1f kHz", samplesPerSecond / 1000.0);
        return channels + " ch " + rate + (bitsPerSample > 0 ? " " + bitsPerSample + "-bit" : "");
    }
}
