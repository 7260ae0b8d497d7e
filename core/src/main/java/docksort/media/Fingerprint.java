package docksort.media;

import java.util.HexFormat;

/// Recognises a recording by its size and a hash of three windows (head, middle, tail), so the cost does not
/// grow with the file. It tells recordings apart; it does not prove that every byte is intact.
///
/// @param high the first 64 bits of the hash
/// @param low its last 64 bits
public record Fingerprint(long bytes, long high, long low) {
    private static final int DIGITS = 32;

    public Fingerprint {
        if (bytes < 0) {
            throw new IllegalArgumentException("not a fingerprint: of " + bytes + " bytes");
        }
    }

    /// @param hash as 32 hexadecimal digits
    public Fingerprint(long bytes, String hash) {
        this(bytes, half(hash, 0), half(hash, DIGITS / 2));
    }

    private static long half(String hash, int from) {
        if (hash.length() != DIGITS) {
            throw new IllegalArgumentException("not a hash of " + DIGITS + " digits: " + hash);
        }
        return HexFormat.fromHexDigitsToLong(hash, from, from + DIGITS / 2);
    }

    /// @param text as [#toString()] has it
    public static Fingerprint parse(String text) {
        int dash = text.indexOf('-');
        if (dash < 1 || text.length() != dash + 1 + DIGITS) {
            throw new IllegalArgumentException("not a fingerprint: " + text);
        }
        int middle = dash + 1 + DIGITS / 2;
        try {
            return new Fingerprint(
                    Long.parseLong(text, 0, dash, 10),
                    HexFormat.fromHexDigitsToLong(text, dash + 1, middle),
                    HexFormat.fromHexDigitsToLong(text, middle, text.length()));
        } catch (NumberFormatException e) {
            throw new IllegalArgumentException("not a fingerprint: " + text, e);
        }
    }

    /// The hash as 32 hexadecimal digits.
    public String hash() {
        HexFormat hex = HexFormat.of();
        return hex.toHexDigits(high) + hex.toHexDigits(low);
    }

    @Override
    public String toString() {
        return bytes + "-" + hash();
    }
}
