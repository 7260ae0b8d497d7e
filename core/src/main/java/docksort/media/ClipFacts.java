package docksort.media;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/// Everything that inspecting one clip told: container, picture (absent for sound alone), sound,
/// duration, timecode, reel, size, what was noticed, and what else is stated: container's tags that say
/// what a copy is of, a camera's notes, and what [Described] keeps, by name. Built only by inspection;
/// always complete in itself, with `Optional` for what the medium may not have.
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
        ClipFacts read = measured(video.map(picture -> picture.interpretedAt(rate)), audio);
        return new ClipFacts(
                container,
                read.video,
                audio,
                read.seconds,
                startTimecode.or(() -> Described.of(tags).start(rate)),
                reel,
                recordedAt,
                size,
                findings,
                tags);
    }

    public boolean isLongGop() {
        return video.map(v -> v.structure().isKnown() && !v.structure().isAllIntra())
                .orElse(false);
    }

    /// What is still to be said before timelines can count on a recording whose picture is out of reach,
    /// in words; empty when nothing is.
    public List<String> lacking() {
        return video.isPresent() || findings.outOfReach().isEmpty()
                ? List.of()
                : Described.of(tags).lacking();
    }

    /// What is said besides of a recording that cannot be decoded here.
    public Described described() {
        return Described.of(tags);
    }

    /// What else is stated of it, by the trade's name.
    public Map<String, String> notes() {
        var notes = new TreeMap<>(tags);
        notes.keySet().removeIf(name -> name.contains(".") || Described.NAMES.contains(name));
        return notes;
    }

    /// A recording that cannot be decoded here, with what somebody says of it where nothing else tells.
    public ClipFacts describedAs(Described said) {
        if (findings.outOfReach().isEmpty()) {
            return this;
        }
        Described all = video.isPresent() ? said : said.or(Described.of(tags));
        Optional<VideoFacts> picture = video.or(all::picture);
        var kept = new TreeMap<>(tags);
        kept.putAll(said.tags());
        return new ClipFacts(
                container,
                picture,
                audio,
                picture.map(VideoFacts::seconds).orElse(seconds),
                startTimecode.or(() -> picture.flatMap(its -> all.start(its.rate()))),
                reel.or(all::reel),
                recordedAt,
                size,
                findings,
                kept);
    }

    /// The same with what the medium states besides its picture.
    ///
    /// @param stated what timelines count on; a rate counts where the medium has none
    /// @param date when it was recorded
    /// @param notes all of it, by name
    public ClipFacts stating(Described stated, Optional<String> date, Map<String, String> notes) {
        var all = new TreeMap<>(notes);
        all.putAll(tags);
        var with = new ClipFacts(
                container,
                video,
                audio,
                seconds,
                startTimecode,
                reel.or(stated::reel),
                recordedAt.or(() -> date),
                size,
                findings,
                all);
        return with.findings.outOfReach().isPresent()
                ? with.describedAs(stated)
                : stated.rate().map(with::interpretedAt).orElse(with);
    }

    /// The same, and why its picture cannot be decoded here.
    public ClipFacts outOfReach(String why) {
        var with = new Findings(findings.complaints(), findings.contradictions(), Optional.of(why));
        return new ClipFacts(container, video, audio, seconds, startTimecode, reel, recordedAt, size, with, tags);
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
