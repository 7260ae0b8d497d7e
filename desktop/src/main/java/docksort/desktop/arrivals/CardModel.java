package docksort.desktop.arrivals;

import docksort.strain.CardClass;
import docksort.strain.CardClass.Fit;
import docksort.strain.CardClass.Mode;
import java.util.List;
import java.util.Optional;

/// What a memory card of a class lets shooting modes record.
final class CardModel {
    private CardModel() {}

    /// @param megabits data rates of the main stream and of the small file, Mb/s
    /// @param words what fits, and which class takes all of it where this one does not
    record Line(String name, String megabits, Fit fit, String words) {}

    static List<Line> usual(CardClass card) {
        return CardClass.USUAL.stream().map(mode -> line(card, mode)).toList();
    }

    /// @param proxy blank where a camera writes none
    /// @return empty where these are no data rates
    static Optional<Line> typed(CardClass card, String main, String proxy) {
        Optional<Integer> mainMegabits = megabits(main);
        Optional<Integer> proxyMegabits = megabits(proxy);
        return mainMegabits.isEmpty() || (proxyMegabits.isEmpty() && !proxy.isBlank())
                ? Optional.empty()
                : Optional.of(line(
                        card,
                        new Mode(
                                "Together, of " + card.megabitsPerSecond() + " Mb/s",
                                mainMegabits.get(),
                                proxyMegabits)));
    }

    private static Optional<Integer> megabits(String typed) {
        try {
            return Optional.of(Integer.parseInt(typed.strip()))
                    .filter(megabits -> megabits > 0 && megabits < 1_000_000);
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    private static Line line(CardClass card, Mode mode) {
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
