package docksort.desktop.arrivals;

import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.strain.CardClass;
import docksort.strain.CardClass.Fit;
import docksort.strain.ShootingMode;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// What a memory card of a class lets shooting modes record.
final class CardModel {
    private static final int LARGEST = 1_000_000; // Mb/s, and GB
    private static final int MOST_BITS = 64;
    private static final Rational FASTEST = Rational.of(20_000); // frames a second

    private CardModel() {}

    /// @param megabits data rates of the main stream and of the small file, Mb/s
    /// @param words what fits, and which class takes all of it where this one does not
    record Line(String name, String megabits, Fit fit, String words) {}

    static List<Line> of(CardClass card, List<ShootingMode> modes) {
        return modes.stream().map(mode -> line(card, mode)).toList();
    }

    /// What is written in the fields.
    ///
    /// @param main data rate, blank for the usual one of such a shape
    /// @param proxy blank where the camera writes none, or for the usual one where the main one is blank too
    record Typed(String raster, String rate, String bits, String main, String proxy, String gigabytes) {}

    /// What comes of it.
    ///
    /// @param mode what is reckoned with
    /// @param own whether the data rates are those that were typed, so that they can be kept
    /// @param words where the data rates come from, and how long a card lasts
    record Reckoned(ShootingMode mode, boolean own, Line line, String words) {}

    /// @return empty where the fields do not make sense
    static Optional<Reckoned> reckon(CardClass card, Typed typed, List<ShootingMode> kept) {
        Optional<ShootingMode.Shape> shape = shape(typed);
        Optional<Integer> main = whole(typed.main, LARGEST);
        Optional<Integer> proxy = whole(typed.proxy, LARGEST);
        boolean odd = (main.isEmpty() && !typed.main.isBlank()) || (proxy.isEmpty() && !typed.proxy.isBlank());
        if (shape.isEmpty() || odd) {
            return Optional.empty();
        }
        String name = typed.raster.strip().replace('x', '×') + " at " + typed.rate.strip() + ", " + typed.bits.strip()
                + " bit";
        if (main.isPresent()) {
            var own = new ShootingMode(name, shape, main.get(), proxy);
            return Optional.of(new Reckoned(own, true, line(card, own), lasts(own, typed.gigabytes)));
        }
        ShootingMode.Found found = ShootingMode.of(shape.get(), kept);
        var named = new ShootingMode(name, shape, found.mode().mainMegabits(), proxy.or(found.mode()::proxyMegabits));
        String from = found.from()
                .map(mode -> "About: in proportion to " + mode.name() + ". ")
                .orElse("As " + found.mode().name() + ". ");
        return Optional.of(new Reckoned(named, false, line(card, named), from + lasts(named, typed.gigabytes)));
    }

    private static Optional<ShootingMode.Shape> shape(Typed typed) {
        try {
            FrameRate rate = FrameRate.parse(typed.rate);
            if (!rate.exact().isPositive() || rate.exact().compareTo(FASTEST) > 0) {
                return Optional.empty();
            }
            Raster raster = Raster.parse(typed.raster);
            return whole(typed.bits, MOST_BITS).map(bits -> ShootingMode.Shape.of(raster, rate, bits));
        } catch (IllegalArgumentException | ArithmeticException e) {
            return Optional.empty();
        }
    }

    private static String lasts(ShootingMode mode, String gigabytes) {
        return whole(gigabytes, LARGEST)
                .map(size -> {
                    Duration time = mode.fills(size);
                    String words = time.toHours() > 0
                            ? String.format(Locale.ROOT, "%d h %02d min", time.toHours(), time.toMinutesPart())
                            : time.toMinutes() + " min";
                    return size + " GB hold " + words + (mode.proxyMegabits().isPresent() ? " of both." : ".");
                })
                .orElse("");
    }

    private static Optional<Integer> whole(String typed, int most) {
        try {
            return Optional.of(Integer.parseInt(typed.strip())).filter(number -> number > 0 && number <= most);
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    private static Line line(CardClass card, ShootingMode mode) {
        Fit fit = card.fit(mode);
        String more = fit == Fit.MAIN_AND_PROXY
                ? ""
                : CardClass.needed(mode)
                        .filter(needed -> needed != card)
                        .map(needed -> "; " + needed + " for all of it")
                        .orElse("");
        return new Line(
                mode.name(),
                mode.mainMegabits()
                        + mode.proxyMegabits().map(proxy -> " + " + proxy).orElse(""),
                fit,
                fit.label() + more);
    }
}
