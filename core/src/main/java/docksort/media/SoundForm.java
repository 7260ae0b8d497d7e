package docksort.media;

import java.util.Comparator;
import java.util.List;

/// What becomes of a clip's sound in a copy. Channels and streams are kept unless they are muted.
///
/// @param bits bits a sample: 0 keeps what the source has (24 where it has more than 16), or 16, or 24
/// @param samplesPerSecond 0 keeps the source's
/// @param muted numbers of channels, counted through all streams from 1, that become silent
/// @param mix which of them the copy's channels are made of
public record SoundForm(int bits, int samplesPerSecond, List<Integer> muted, SoundMix mix) {
    public static final SoundForm KEPT = new SoundForm(0, 0, List.of());

    /// Channels kept.
    public SoundForm(int bits, int samplesPerSecond, List<Integer> muted) {
        this(bits, samplesPerSecond, muted, SoundMix.KEPT);
    }

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
        if (!muted.isEmpty() && !mix.isKept()) {
            throw new IllegalArgumentException("a mix is of the channels that it names: none is muted besides");
        }
    }

    /// As marks of recipes have it: the same as before there were mixes.
    @Override
    public String toString() {
        return "SoundForm[bits=" + bits + ", samplesPerSecond=" + samplesPerSecond + ", muted=" + muted
                + (mix.isKept() ? "]" : ", mix=" + mix + "]");
    }

    /// What a copy has of a clip's streams.
    public List<AudioStream> streams(List<AudioStream> of) {
        if (mix.isKept() || of.isEmpty()) {
            return of;
        }
        AudioStream first = of.getFirst();
        AudioStream longest =
                of.stream().max(Comparator.comparing(AudioStream::seconds)).orElse(first);
        AudioStream deepest =
                of.stream().max(Comparator.comparingInt(this::bitsFor)).orElse(first);
        return mix.sizes(of.stream().mapToInt(AudioStream::channels).sum()).stream()
                .map(channels -> first.as(channels, deepest.bitsPerSample(), longest.seconds()))
                .toList();
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
