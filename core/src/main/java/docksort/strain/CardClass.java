package docksort.strain;

import java.util.Optional;

/// Video speed classes of memory cards: the least sustained write speed they guarantee (SD Association,
/// Video Speed Class).
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

    public Fit fit(ShootingMode mode) {
        if (mode.mainMegabits() > megabitsPerSecond()) {
            return Fit.TOO_SLOW;
        }
        if (mode.proxyMegabits().isEmpty()) {
            return Fit.NO_PROXY_MADE;
        }
        return mode.allMegabits() <= megabitsPerSecond() ? Fit.MAIN_AND_PROXY : Fit.MAIN_ONLY;
    }

    /// The slowest class that records all of a mode; empty when none does.
    public static Optional<CardClass> needed(ShootingMode mode) {
        for (CardClass card : values()) {
            if (mode.allMegabits() <= card.megabitsPerSecond()) {
                return Optional.of(card);
            }
        }
        return Optional.empty();
    }
}
