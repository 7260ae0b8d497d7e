package docksort.engine;

import com.fasterxml.jackson.databind.JsonNode;
import docksort.index.PictureSays;
import docksort.media.AudioStream;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Codec;
import docksort.media.Colour;
import docksort.media.Findings;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Frames;
import docksort.media.PixelFormat;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// Makes a clip's facts of an answer and of what its packets and first pictures told.
final class ProbeFacts {
    private final ProbeAnswer answer;
    private final PixelFormats pixelFormats;
    private final Known known;

    /// @param whole whether the structure is that of all pictures
    /// @param doubtful whether its count is only that of an index
    /// @param missingAtEnd pictures that an index lists and the file no longer holds
    /// @param seen the first picture, where it was decoded beside the answer
    record Known(
            FrameStructure structure,
            boolean whole,
            boolean doubtful,
            long missingAtEnd,
            boolean clockRestarts,
            Frames.Reach reach,
            Optional<FirstPicture> seen) {}

    ProbeFacts(ProbeAnswer answer, PixelFormats pixelFormats, Known known) {
        this.answer = answer;
        this.pixelFormats = pixelFormats;
        this.known = known;
    }

    ClipFacts read(
            ClipSource source,
            long bytes,
            FrameRate stillsRate,
            StatedPicture said,
            Disagreements disagreements,
            List<String> complaints) {
        Optional<VideoFacts> video =
                answer.videoStream().map(stream -> video(stream, source, stillsRate, said, disagreements));
        List<AudioStream> audio = answer.audioStreams().stream()
                .map(stream -> ProbeStream.audio(stream, answer.formatNode()))
                .toList();
        Rational seconds = video.map(VideoFacts::seconds)
                .or(() -> ProbeStream.rational(answer.root().path("format").path("duration")))
                .orElse(Rational.ZERO);
        Optional<Timecode> start =
                video.map(v -> timecode(v, disagreements)).orElseGet(() -> timeReference(audio, stillsRate));
        var all = new ArrayList<>(complaints);
        if (answer.videoStream().filter(ProbeStream::isMirrored).isPresent()) {
            all.add("it is shown mirrored, as its container says");
        }
        video.ifPresent(v -> soundEnds(v, audio).ifPresent(all::add));
        return new ClipFacts(
                answer.container(source),
                video,
                audio,
                seconds,
                start,
                answer.tag("reel_name").or(() -> answer.tag("reel")),
                answer.tag("creation_time"),
                new ByteSize(bytes),
                new Findings(all, disagreements.found(), answer.outOfReach()),
                answer.ownTags());
    }

    /// Sound that ends well before the picture, or long after it.
    private static Optional<String> soundEnds(VideoFacts video, List<AudioStream> audio) {
        return audio.stream()
                .map(stream -> video.seconds().minus(stream.seconds()))
                .filter(off -> off.absolute().compareTo(Rational.of(1)) > 0)
                .findFirst()
                .map(off -> String.format(
                        Locale.ROOT,
                        "sound ends %.1f s %s the picture",
                        Math.abs(off.toDouble()),
                        off.isPositive() ? "before" : "after"));
    }

    private VideoFacts video(
            JsonNode stream, ClipSource source, FrameRate stillsRate, StatedPicture said, Disagreements disagreements) {
        Codec codec = ProbeStream.codec(stream);
        Raster raster = ProbeStream.raster(stream);
        Rational timeBase = known.structure().timeBase();
        boolean stills = source instanceof ClipSource.NumberedStills;
        Timing timing = timing(stream, source, stillsRate);
        Optional<FirstPicture> picture =
                FirstPicture.of(answer.root(), answer.videoIndex()).or(known::seen);
        PictureSays own = said.stream(codec.name(), raster, picture.map(FirstPicture::says));
        if (!stills) {
            disagreements.rate(ProbeStream.statedRate(stream, "avg_frame_rate"), timing);
        }
        Frames frames = frameCount(stream, source, timing, timeBase, disagreements)
                .reached(stills ? Optional.empty() : answer.firstAt(), known.reach())
                .lacking(known.missingAtEnd());
        if (known.clockRestarts()) {
            disagreements.clock();
        }
        Colour colour = disagreements.colour(ProbeStream.colour(stream), said.container(), own);
        return new VideoFacts(
                codec,
                disagreements.raster(raster, said.container()),
                ProbeStream.codedRaster(stream, raster),
                disagreements.pixelAspect(
                        ProbeStream.rational(stream.path("sample_aspect_ratio"))
                                .filter(Rational::isPositive)
                                .orElse(Rational.of(1)),
                        said.container(),
                        own),
                ProbeStream.rotation(stream),
                disagreements.scan(ProbeStream.scan(stream), said.container(), own),
                pixels(stream),
                colour,
                HdrReader.read(stream, picture),
                timing.rate(),
                timing.kind(),
                frames,
                stills ? FrameStructure.NONE : known.structure());
    }

    /// VP8 and VP9 carry transparency beside the picture, as a second one, and say so in a tag of their
    /// container (WebM container guidelines, AlphaMode).
    private PixelFormat pixels(JsonNode stream) {
        PixelFormat own = pixelFormats.named(
                stream.path("pix_fmt").asText(""),
                stream.path("bits_per_raw_sample").asInt(0));
        boolean beside = ProbeAnswer.placesOf(stream, "alpha_mode").anyMatch("1"::equals);
        return beside ? own.withAlpha() : own;
    }

    /// Numbered stills and bare streams state no rate that could be relied on; somebody must say how to
    /// read them. A single still has none and needs none.
    private Timing timing(JsonNode stream, ClipSource source, FrameRate stillsRate) {
        if (source instanceof ClipSource.NumberedStills) {
            return new Timing(stillsRate, RateKind.UNSTATED);
        }
        String format = answer.format();
        if (format.endsWith("_pipe") || format.equals("image2")) {
            return new Timing(stillsRate, RateKind.INTERPRETED);
        }
        boolean bare = format.equals("h264") || format.equals("hevc");
        Optional<Timing> found = bare
                ? Optional.empty()
                : Timing.of(
                        known.structure(),
                        known.structure().timeBase(),
                        ProbeStream.statedRate(stream, "r_frame_rate"),
                        known.whole() && !answer.isMov()
                                ? Optional.empty()
                                : ProbeStream.statedRate(stream, "avg_frame_rate"),
                        known.whole());
        return found.orElse(new Timing(stillsRate, RateKind.UNSTATED));
    }

    private Frames frameCount(
            JsonNode stream, ClipSource source, Timing timing, Rational timeBase, Disagreements disagreements) {
        if (source instanceof ClipSource.NumberedStills stills) {
            return new Frames(stills.count(), Frames.Origin.COUNTED);
        }
        if (timing.kind() == RateKind.VARIABLE) {
            // A picture that stays on when a recording ends is in the header of MOV and MP4, which sums up how long
            // each is shown.
            long told = timing.rate().framesIn(ProbeStream.duration(stream, answer.formatNode(), timeBase));
            boolean summedUp = known.whole() && answer.isMov();
            return new Frames(
                    summedUp ? Math.max(told, seen(timing.rate())) : told,
                    summedUp ? Frames.Origin.STATED : Frames.Origin.ESTIMATED);
        }
        long stated = stream.path("nb_frames").asLong(0);
        if (known.whole() && known.structure().isKnown()) {
            disagreements.frames(stated, known.structure().count());
            return new Frames(
                    known.structure().count(), known.doubtful() ? Frames.Origin.STATED : Frames.Origin.COUNTED);
        }
        if (stated > 0) {
            return new Frames(stated, Frames.Origin.STATED);
        }
        long ticks = stream.path("duration_ts").asLong(0);
        Rational tick = ProbeStream.rational(stream.path("time_base")).orElse(timeBase);
        if (ticks > 0 && tick.times(timing.rate().exact()).equals(Rational.of(1))) {
            return new Frames(ticks, Frames.Origin.STATED);
        }
        return new Frames(
                timing.rate().framesIn(ProbeStream.duration(stream, answer.formatNode(), tick)),
                Frames.Origin.ESTIMATED);
    }

    /// Frames from the first picture to the last.
    private long seen(FrameRate rate) {
        var ends = new long[] {Long.MAX_VALUE, Long.MIN_VALUE};
        known.structure().forEach((_, at, _, _) -> {
            ends[0] = Math.min(ends[0], at);
            ends[1] = Math.max(ends[1], at);
        });
        return ends[1] < ends[0]
                ? 0
                : rate.framesIn(known.structure().timeBase().times(Rational.of(ends[1] - ends[0]))) + 1;
    }

    /// Broadcast WAVE counts samples since midnight (EBU Tech 3285, time reference).
    private Optional<Timecode> timeReference(List<AudioStream> audio, FrameRate rate) {
        return answer.tag("time_reference")
                .filter(text -> text.matches("\\d{1,15}") && !audio.isEmpty())
                .filter(_ -> audio.getFirst().samplesPerSecond() > 0)
                .map(text -> new Rational(Long.parseLong(text), audio.getFirst().samplesPerSecond())
                        .times(rate.exact())
                        .rounded())
                .filter(frames -> frames < 24L * 3600 * rate.nominal())
                .map(frames -> Timecode.zero(rate).plus(frames));
    }

    private Optional<Timecode> timecode(VideoFacts video, Disagreements disagreements) {
        Optional<String> used = answer.tag("timecode").or(this::groupTimecode);
        used.ifPresent(first -> answer.placesOf("timecode").stream()
                .filter(other -> !other.equals(first))
                .findFirst()
                .ifPresent(other -> disagreements.timecode("one stream", first, "another", other)));
        return used.flatMap(text -> {
            try {
                return Optional.of(Timecode.parse(text, video.rate()));
            } catch (IllegalArgumentException e) {
                return Optional.empty();
            }
        });
    }

    /// MPEG-2 counts time in the header of each group of pictures (ISO/IEC 13818-2, 6.3.8). Most encoders
    /// leave it at zero, which tells nothing.
    private Optional<String> groupTimecode() {
        return FirstPicture.of(answer.root(), answer.videoIndex())
                .or(known::seen)
                .flatMap(picture -> {
                    for (JsonNode side : picture.sideData()) {
                        String text = side.path("timecode").asText("");
                        if (text.matches("\\d\\d:\\d\\d:\\d\\d[:;]\\d\\d")
                                && text.chars().anyMatch(c -> c >= '1' && c <= '9')) {
                            return Optional.of(text);
                        }
                    }
                    return Optional.empty();
                });
    }
}
