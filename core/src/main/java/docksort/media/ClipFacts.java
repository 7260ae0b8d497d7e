package docksort.media;

import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Everything that inspecting one clip told: container, picture (absent for sound alone), sound, duration,
/// timecode, reel, size, the container's own tags that say what a copy is of. Built only by inspection; always
/// complete in itself, with `Optional` for what the medium may not have.
public record ClipFacts(
        String container,
        Optional<VideoFacts> video,
        List<AudioStream> audio,
        Rational seconds,
        Optional<Timecode> startTimecode,
        Optional<String> reel,
        Optional<String> recordedAt,
        ByteSize size,
        List<String> complaints,
        Map<String, String> tags) {

    public ClipFacts {
        audio = List.copyOf(audio);
        complaints = List.copyOf(complaints);
        tags = Map.copyOf(tags);
    }

    public boolean isLongGop() {
        return video.map(v -> v.structure().isKnown() && !v.structure().isAllIntra())
                .orElse(false);
    }

    /// Bits a second over the whole file, 0 for a clip without duration.
    public long bitsPerSecond() {
        return seconds.isPositive()
                ? Rational.of(Math.multiplyExact(size.bytes(), 8))
                        .dividedBy(seconds)
                        .rounded()
                : 0;
    }

    public ClipFacts withVideo(Optional<VideoFacts> other) {
        return new ClipFacts(container, other, audio, seconds, startTimecode, reel, recordedAt, size, complaints, tags);
    }
}
