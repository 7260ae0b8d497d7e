package docksort.engine;

import docksort.index.MovTrack;
import docksort.media.Colour;
import docksort.media.Contradiction;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.VideoFacts.RateKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Collects the facts on which two sources of one file disagree, and says which is used.
final class Disagreements {
    private final List<Contradiction> found = new ArrayList<>();

    List<Contradiction> found() {
        return List.copyOf(found);
    }

    /// The pixel aspect to use: the container's where both state one, because players stretch by it.
    Rational pixelAspect(Rational container, Optional<FirstPicture> picture) {
        picture.flatMap(FirstPicture::pixelAspect)
                .filter(own -> !own.equals(container))
                .ifPresent(own -> found.add(new Contradiction(
                        "pixel aspect",
                        "container",
                        container.toString(),
                        "stream",
                        own.toString(),
                        "the container's is used, as players do")));
        return container;
    }

    /// The scan to use: where one of them says interlaced, interlaced, because treating fields as whole
    /// pictures
    /// damages them and the reverse does not.
    ScanType scan(ScanType stated, Optional<ScanType> container, Optional<FirstPicture> picture) {
        ScanType own = picture.map(FirstPicture::scan).orElse(ScanType.UNKNOWN);
        ScanType outer = container.filter(scan -> scan != ScanType.UNKNOWN).orElse(stated);
        if (own == ScanType.UNKNOWN || outer == ScanType.UNKNOWN) {
            return own == ScanType.UNKNOWN ? outer : own;
        }
        if (own != outer) {
            ScanType used = own.isInterlaced() || !outer.isInterlaced() ? own : outer;
            found.add(new Contradiction(
                    "scan", "header", outer.label(), "stream", own.label(), used.label() + " is used"));
            return used;
        }
        return own;
    }

    /// The raster to use: what is decoded.
    Raster raster(Raster stated, Optional<MovTrack> track) {
        track.map(t -> t.width() > 0 && t.height() > 0 ? t : null)
                .map(t -> new Raster(t.width(), t.height()))
                .filter(container -> !container.equals(stated))
                .ifPresent(container -> found.add(new Contradiction(
                        "raster",
                        "container",
                        container.toString(),
                        "stream",
                        stated.toString(),
                        "what is decoded is used")));
        return stated;
    }

    /// The colour to use: the stream's tags where it has any, because it is by them that pictures are decoded.
    Colour colour(Colour stated, Optional<MovTrack> track, Optional<FirstPicture> picture) {
        Colour own = picture.map(FirstPicture::colour).orElse(Colour.UNSTATED);
        track.flatMap(MovTrack::colour).ifPresent(codes -> {
            compare("primaries", PRIMARIES.get(codes.primaries()), own.primaries());
            compare("transfer", TRANSFERS.get(codes.transfer()), own.transfer());
            compare("matrix", MATRICES.get(codes.matrix()), own.matrix());
        });
        return new Colour(
                first(own.primaries(), stated.primaries()),
                first(own.transfer(), stated.transfer()),
                first(own.matrix(), stated.matrix()),
                first(own.range(), stated.range()));
    }

    private void compare(String tag, @org.jspecify.annotations.Nullable String container, String own) {
        if (container != null && !own.isEmpty() && !container.equals(own)) {
            found.add(new Contradiction(
                    "colour " + tag, "container", container, "stream", own, "the stream's is used, as decoders do"));
        }
    }

    private static String first(String one, String other) {
        return one.isEmpty() ? other : one;
    }

    void rate(Optional<FrameRate> stated, Timing timing) {
        if (timing.kind() != RateKind.CONSTANT) {
            return;
        }
        stated.filter(rate -> !isNear(rate, timing.rate()))
                .ifPresent(rate -> found.add(new Contradiction(
                        "frame rate",
                        "header",
                        rate.label(),
                        "time stamps",
                        timing.rate().label(),
                        "the time stamps are used")));
    }

    private static boolean isNear(FrameRate a, FrameRate b) {
        return a.exact().minus(b.exact()).absolute().times(Rational.of(500)).compareTo(b.exact()) <= 0;
    }

    void frames(long stated, long counted) {
        if (stated > 0 && stated != counted) {
            found.add(new Contradiction(
                    "frames",
                    "header",
                    Long.toString(stated),
                    "packets",
                    Long.toString(counted),
                    "what is there is used"));
        }
    }

    void keyframes(String streamSays) {
        found.add(new Contradiction(
                "keyframes",
                "container",
                "every picture is one",
                "stream",
                streamSays,
                "the stream is used: a player that believed the container would show damaged pictures"));
    }

    void timecode(String one, String oneSays, String other, String otherSays) {
        found.add(new Contradiction("timecode", one, oneSays, other, otherSays, "the first is used"));
    }

    // Code points of ISO/IEC 23091-2 (Rec. ITU-T H.273, tables 2 to 4) by the engine's names.
    private static final Map<Integer, String> PRIMARIES =
            Map.of(1, "bt709", 5, "bt470bg", 6, "smpte170m", 9, "bt2020", 11, "smpte431", 12, "smpte432");
    private static final Map<Integer, String> TRANSFERS = Map.of(
            1,
            "bt709",
            6,
            "smpte170m",
            8,
            "linear",
            13,
            "iec61966-2-1",
            14,
            "bt2020-10",
            15,
            "bt2020-12",
            16,
            "smpte2084",
            18,
            "arib-std-b67");
    private static final Map<Integer, String> MATRICES =
            Map.of(0, "gbr", 1, "bt709", 5, "bt470bg", 6, "smpte170m", 9, "bt2020nc", 10, "bt2020c");
}
