package docksort.media;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Everything that inspecting one clip told: container, picture (absent for sound alone), sound,
/// duration, timecode, reel, size, what was noticed, the container's own tags that say what a copy is of.
/// Built only by inspection; always complete in itself, with `Optional` for what the medium may not have.
public record ClipFacts(
        String container,
        Optional<VideoFacts> video,
        List<AudioStream> audio,
        Rational seconds,
        Optional<Timecode> startTimecode,
        Optional<String> reel,
        Optional<String> recordedAt,
        ByteSize size,
        Findings findings,
        Map<String, String> tags) {

    public ClipFacts {
        audio = List.copyOf(audio);
        tags = Map.copyOf(tags);
    }

    public List<String> complaints() {
        return findings.complaints();
    }

    /// Whether there is a picture and the engine can decode it.
    public boolean isDecodable() {
        return video.isPresent() && findings.outOfReach().isEmpty();
    }

    /// Whether nothing states a rate, or one that no timeline has, and nobody has said yet how to read
    /// the clip.
    public boolean isRateOpen() {
        return video.map(v -> v.rateKind() == VideoFacts.RateKind.UNSTATED || v.hasOddRate())
                .orElse(false);
    }

    /// The clip read at a rate that somebody chose, where it states none itself or an odd one.
    public ClipFacts interpretedAt(FrameRate rate) {
        if (!isRateOpen()) {
            return this;
        }
        return measured(video.map(picture -> picture.interpretedAt(rate)), audio);
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

    /// The picture's facts alone.
    public ClipFacts withoutSound() {
        return new ClipFacts(
                container, video, List.of(), seconds, startTimecode, reel, recordedAt, size, findings, tags);
    }

    /// The same with more complaints behind those there are.
    public ClipFacts withComplaints(List<String> more) {
        var all = new ArrayList<>(findings.complaints());
        all.addAll(more);
        var with = new Findings(all, findings.contradictions(), findings.outOfReach());
        return new ClipFacts(container, video, audio, seconds, startTimecode, reel, recordedAt, size, with, tags);
    }

    /// The same with what was measured of its streams.
    public ClipFacts measured(Optional<VideoFacts> picture, List<AudioStream> sounds) {
        return new ClipFacts(
                container,
                picture,
                sounds,
                picture.map(VideoFacts::seconds).orElse(seconds),
                startTimecode,
                reel,
                recordedAt,
                size,
                findings,
                tags);
    }

    public ClipFacts withVideo(Optional<VideoFacts> other) {
        return new ClipFacts(container, other, audio, seconds, startTimecode, reel, recordedAt, size, findings, tags);
    }
}
