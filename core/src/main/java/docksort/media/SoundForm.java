package docksort.media;

import java.util.List;

/// What becomes of a clip's sound in a copy. Channels and streams are kept unless they are muted.
///
/// @param bits bits a sample: 0 keeps what the source has (24 where it has more than 16), or 16, or 24
/// @param samplesPerSecond 0 keeps the source's
/// @param muted numbers of channels, counted through all streams from 1, that become silent
public record SoundForm(int bits, int samplesPerSecond, List<Integer> muted) {
    public static final SoundForm KEPT = new SoundForm(0, 0, List.of());

    public SoundForm {
        muted = muted.stream().distinct().sorted().toList();
        if (bits != 0 && bits != 16 && bits != 24) {
            throw new IllegalArgumentException("sound has 16 or 24 bits, was " + bits);
        }
        if (samplesPerSecond != 0 && (samplesPerSecond < 8_000 || samplesPerSecond > 192_000)) {
            throw new IllegalArgumentException("sound has 8000 to 192000 samples a second, was " + samplesPerSecond);
        }
        if (muted.stream().anyMatch(channel -> channel < 1 || channel > 64)) {
            throw new IllegalArgumentException("channels are numbered 1 to 64, was " + muted);
        }
    }

    public int bitsFor(AudioStream stream) {
        if (bits > 0) {
            return bits;
        }
        return stream.bitsPerSample() > 16 ? 24 : 16;
    }

    public int rateFor(AudioStream stream) {
        return samplesPerSecond > 0 ? samplesPerSecond : stream.samplesPerSecond();
    }
}
