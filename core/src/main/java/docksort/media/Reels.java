package docksort.media;

import java.util.Locale;

/// Names of reels, which programs write with and without marks between their parts.
public final class Reels {
    private Reels() {}

    /// What two spellings of one reel share: letters and digits, in capitals.
    public static String key(String reel) {
        return reel.replaceAll("[^A-Za-z0-9]", "").toUpperCase(Locale.ROOT);
    }
}
