package docksort.strain;

import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/// A way of shooting with the data rates it writes.
///
/// @param shape what it records, where that is said
/// @param mainMegabits data rate of the main stream, Mb/s
/// @param proxyMegabits data rate of the camera's own small file, Mb/s; empty where cameras write none
public record ShootingMode(String name, Optional<Shape> shape, int mainMegabits, Optional<Integer> proxyMegabits) {
    /// What is recorded: raster, range of rates in frames a second, bits a sample.
    public record Shape(Raster raster, Rational lowest, Rational highest, int bitDepth) {
        public static Shape of(Raster raster, FrameRate rate, int bitDepth) {
            return new Shape(raster, rate.exact(), rate.exact(), bitDepth);
        }

        private static Shape of(int width, int height, long lowest, long highest, int bitDepth) {
            return new Shape(new Raster(width, height), Rational.of(lowest), Rational.of(highest), bitDepth);
        }

        private boolean holds(Shape other) {
            return raster.equals(other.raster)
                    && bitDepth == other.bitDepth
                    && lowest.compareTo(other.lowest) <= 0
                    && highest.compareTo(other.highest) >= 0;
        }

        /// Bits of the samples of one second, before anything is compressed.
        private double bits() {
            return (double) raster.pixels() * highest.toDouble() * bitDepth;
        }

        private double distance(Shape other) {
            return Math.abs(Math.log(bits() / other.bits()));
        }
    }

    /// Usual data rates (common practice, no source); a camera's own figures go before these.
    public static final List<ShootingMode> USUAL = List.of(
            usual("HD 25 or 30, 8 bit", Shape.of(1920, 1080, 23, 30, 8), 50, Optional.of(6)),
            usual("UHD 24 or 25, 8 bit", Shape.of(3840, 2160, 23, 25, 8), 100, Optional.of(9)),
            usual("4K 24, 10 bit", Shape.of(4096, 2160, 23, 24, 10), 200, Optional.of(16)),
            usual("UHD 30, 10 bit", Shape.of(3840, 2160, 29, 30, 10), 230, Optional.of(16)),
            usual("UHD 50 or 60, 10 bit", Shape.of(3840, 2160, 50, 60, 10), 400, Optional.of(28)),
            new ShootingMode("4K 25, all-intra", Optional.empty(), 600, Optional.of(16)),
            usual("HD 100 or 120, slow motion", Shape.of(1920, 1080, 100, 120, 8), 200, Optional.empty()));

    private static ShootingMode usual(String name, Shape shape, int main, Optional<Integer> proxy) {
        return new ShootingMode(name, Optional.of(shape), main, proxy);
    }

    /// A mode for a shape.
    ///
    /// @param from the mode whose data rates were scaled; empty where the shape's own are known
    public record Found(ShootingMode mode, Optional<ShootingMode> from) {}

    /// Data rates of a shape: a camera's own where they were said, else the usual ones, else those of the
    /// nearest shape in proportion to the bits of its samples, its small file's in proportion to the rate
    /// (common practice, no source: an estimate).
    ///
    /// @param own modes with a camera's own figures
    public static Found of(Shape shape, List<ShootingMode> own) {
        List<ShootingMode> known = Stream.concat(own.stream(), USUAL.stream())
                .filter(mode -> mode.shape.isPresent())
                .toList();
        Optional<ShootingMode> exact = known.stream()
                .filter(mode -> mode.shape.orElseThrow().holds(shape))
                .findFirst();
        if (exact.isPresent()) {
            return new Found(exact.get(), Optional.empty());
        }
        ShootingMode near = known.stream()
                .min(Comparator.comparingDouble(mode -> mode.shape.orElseThrow().distance(shape)))
                .orElseThrow();
        Shape its = near.shape.orElseThrow();
        double more = shape.bits() / its.bits();
        double faster = shape.highest.toDouble() / its.highest.toDouble();
        var scaled = new ShootingMode(
                "scaled from " + near.name,
                Optional.of(shape),
                Math.max(1, (int) Math.ceil(near.mainMegabits * more)),
                near.proxyMegabits.map(proxy -> Math.max(1, (int) Math.ceil(proxy * faster))));
        return new Found(scaled, Optional.of(near));
    }

    public int allMegabits() {
        return mainMegabits + proxyMegabits.orElse(0);
    }

    /// How long a card takes to be full.
    ///
    /// @param gigabytes size of the card, of 10⁹ bytes
    public Duration fills(int gigabytes) {
        return Duration.ofSeconds(gigabytes * 8_000L / allMegabits());
    }
}
