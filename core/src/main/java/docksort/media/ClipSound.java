package docksort.media;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// How loud each channel of a clip is, over all of it.
///
/// @param channels counted through all streams
/// @param floating whether its samples are floating-point numbers, which keep what lies above full scale
public record ClipSound(List<Channel> channels, boolean floating) {
    /// Below this no sample of a channel counts as sound: 60 dB below full scale (common practice, no source).
    private static final double SILENCE = 0.001;

    public ClipSound {
        channels = List.copyOf(channels);
    }

    /// One channel.
    ///
    /// @param peak the largest sample, 1 for full scale
    /// @param rms root mean square of all samples
    /// @param clips places where at least three samples in a row are at full scale; what follows within a second
    ///     is the same place (common practice, no source)
    /// @param firstClip where the first of them is, in seconds; 0 for none
    public record Channel(double peak, double rms, int clips, double firstClip) {
        private static final double SINE = 2; // power of a square wave over that of a sine of the same peak

        /// Sample peak in dBFS; negative infinity for digital silence.
        public double peakDecibels() {
            return 20 * Math.log10(peak);
        }

        /// Level in dBFS, where a sine that reaches full scale has 0 (AES17, IEC 61606; from memory).
        public double levelDecibels() {
            return 20 * Math.log10(rms) + 10 * Math.log10(SINE);
        }

        public boolean isSilent() {
            return peak < SILENCE;
        }

        /// "−12.3", or "nothing" for digital silence.
        public static String label(double decibels) {
            return Double.isInfinite(decibels)
                    ? "nothing"
                    : String.format(Locale.ROOT, "%.1f", decibels).replace('-', '−');
        }
    }

    /// What somebody should know before the sound is relied on, in sentences without a full stop.
    public List<String> told() {
        var told = new ArrayList<String>();
        for (int i = 0; i < channels.size(); i++) {
            Channel channel = channels.get(i);
            String name = channels.size() == 1 ? "The only channel" : "Channel " + (i + 1);
            if (channel.isSilent()) {
                told.add(name + " is silent: nothing above −60 dBFS");
            } else if (floating && channel.peak > 1) {
                told.add(String.format(
                        Locale.ROOT,
                        "%s peaks %.1f dB above full scale: the clip keeps it, copies in whole numbers clip there",
                        name,
                        channel.peakDecibels()));
            } else if (channel.clips > 0 && !floating) {
                told.add(String.format(
                        Locale.ROOT,
                        "%s clips at %s, %.1f s from the start",
                        name,
                        channel.clips == 1 ? "one place" : channel.clips + " places, the first",
                        channel.firstClip));
            }
        }
        return List.copyOf(told);
    }
}
