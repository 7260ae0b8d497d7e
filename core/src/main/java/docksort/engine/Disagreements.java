package docksort.engine;

import docksort.index.PictureSays;
import docksort.media.Colour;
import docksort.media.Contradiction;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.VideoFacts.RateKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// Collects the facts on which two sources of one file disagree, and says which is used.
final class Disagreements {
    private static final int MOST = 1_000; // frames a second; headers that state more mean something else

    private final List<Contradiction> found = new ArrayList<>();

    List<Contradiction> found() {
        return List.copyOf(found);
    }

    /// The pixel aspect to use: the container's where both state one, because players stretch by it.
    ///
    /// @param engine what the engine makes of both
    Rational pixelAspect(Rational engine, PictureSays container, PictureSays stream) {
        Rational outer = container.pixelAspect().orElse(engine);
        stream.pixelAspect().filter(own -> !isNear(own, outer)).ifPresent(own -> {
            found.add(new Contradiction(
                    "pixel aspect",
                    "container",
                    outer.toString(),
                    "stream",
                    own.toString(),
                    "the container's is used, as players do"));
        });
        return container.pixelAspect().filter(own -> !isNear(own, engine)).orElse(engine);
    }

    /// Containers state whole display rasters, which round the aspect.
    private static boolean isNear(Rational a, Rational b) {
        return a.minus(b).absolute().times(Rational.of(200)).compareTo(b) <= 0;
    }

    /// The scan to use: where one of them says interlaced, interlaced, because treating fields as whole
    /// pictures damages them and the reverse does not.
    ScanType scan(ScanType engine, PictureSays container, PictureSays stream) {
        ScanType own = stream.scan();
        ScanType outer = container.scan() == ScanType.UNKNOWN ? engine : container.scan();
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
    Raster raster(Raster decoded, PictureSays container) {
        container.raster().filter(outer -> !outer.equals(decoded)).ifPresent(outer -> {
            found.add(new Contradiction(
                    "raster", "container", outer.toString(), "stream", decoded.toString(), "what is decoded is used"));
        });
        return decoded;
    }

    /// The colour to use: the stream's tags where it has any, because it is by them that pictures are
    /// decoded.
    Colour colour(Colour engine, PictureSays container, PictureSays stream) {
        Colour own = stream.colour();
        compare("primaries", container.colour().primaries(), own.primaries());
        compare("transfer", container.colour().transfer(), own.transfer());
        compare("matrix", container.colour().matrix(), own.matrix());
        compare("range", container.colour().range(), own.range());
        return new Colour(
                first(own.primaries(), engine.primaries()),
                first(own.transfer(), engine.transfer()),
                first(own.matrix(), engine.matrix()),
                first(own.range(), engine.range()));
    }

    private void compare(String tag, String container, String own) {
        if (!container.isEmpty() && !own.isEmpty() && !container.equals(own)) {
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
        stated.filter(rate -> rate.nominal() <= MOST && !isNear(rate, timing.rate()))
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

    /// What was written one behind the other: times do not lead to the second part.
    void clock() {
        found.add(new Contradiction(
                Contradiction.CLOCK,
                "first part",
                "one clock",
                "second part",
                "another, which begins anew",
                "pictures are counted; a copy would lose sound against picture"));
    }

    /// @param recovery places at which a decoder only begins to recover
    /// @param whole pictures at which it can begin
    void recoveryPoints(int recovery, int whole) {
        found.add(new Contradiction(
                "keyframes",
                "container",
                Integer.toString(recovery + whole),
                "stream",
                whole + ", and " + recovery + " recovery points, at which no picture is whole yet",
                "only whole pictures count as keyframes; frames are reached from the first one"));
    }

    void timecode(String one, String oneSays, String other, String otherSays) {
        found.add(new Contradiction("timecode", one, oneSays, other, otherSays, "the first is used"));
    }
}
