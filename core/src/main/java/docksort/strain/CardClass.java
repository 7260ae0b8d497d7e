package docksort.strain;

import java.util.List;
import java.util.Optional;

/// Video speed classes of memory cards: the least sustained write speed they guarantee (SD Association, Video
/// Speed
/// Class).
public enum CardClass {
    V6(6),
    V10(10),
    V30(30),
    V60(60),
    V90(90);

    private final int megabytesPerSecond;

    CardClass(int megabytesPerSecond) {
        this.megabytesPerSecond = megabytesPerSecond;
    }

    public int megabytesPerSecond() {
        return megabytesPerSecond;
    }

    public int megabitsPerSecond() {
        return megabytesPerSecond * 8;
    }

    /// A way of shooting with the data rates it writes.
    ///
    /// @param proxyMegabits data rate of the camera's own small file; empty where cameras write none
    public record Mode(String name, int mainMegabits, Optional<Integer> proxyMegabits) {
        public int allMegabits() {
            return mainMegabits + proxyMegabits.orElse(0);
        }
    }

    /// Usual data rates of shooting modes (common practice, no source); a camera's own figures go before these.
    public static final List<Mode> USUAL = List.of(
            new Mode("HD 25 or 30, 8 bit", 50, Optional.of(6)),
            new Mode("UHD 24 or 25, 8 bit", 100, Optional.of(9)),
            new Mode("4K 24, 10 bit", 200, Optional.of(16)),
            new Mode("UHD 30, 10 bit", 230, Optional.of(16)),
            new Mode("UHD 50 or 60, 10 bit", 400, Optional.of(28)),
            new Mode("4K 25, all-intra", 600, Optional.of(16)),
            new Mode("HD 100 or 120, slow motion", 200, Optional.empty()));

    /// What a card lets a mode record.
    public enum Fit {
        MAIN_AND_PROXY("main and proxy"),
        MAIN_ONLY("main only: too slow for both"),
        NO_PROXY_MADE("main; cameras make no proxy here"),
        TOO_SLOW("too slow for the main stream");

        private final String label;

        Fit(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    public Fit fit(Mode mode) {
        if (mode.mainMegabits > megabitsPerSecond()) {
            return Fit.TOO_SLOW;
        }
        if (mode.proxyMegabits.isEmpty()) {
            return Fit.NO_PROXY_MADE;
        }
        return mode.allMegabits() <= megabitsPerSecond() ? Fit.MAIN_AND_PROXY : Fit.MAIN_ONLY;
    }

    /// The slowest class that records all of a mode; empty when none does.
    public static Optional<CardClass> needed(Mode mode) {
        for (CardClass card : values()) {
            if (mode.allMegabits() <= card.megabitsPerSecond()) {
                return Optional.of(card);
            }
        }
        return Optional.empty();
    }
}
