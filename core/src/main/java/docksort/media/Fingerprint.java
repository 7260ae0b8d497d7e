package docksort.media;

/// Recognises a recording by its size and a hash of three windows (head, middle, tail), so the cost does not
/// grow with the file. It tells recordings apart; it does not prove that every byte is intact.
public record Fingerprint(long bytes, String hash) {
    private static final int DIGITS = 32;

    public Fingerprint {
        if (bytes < 0 || hash.length() != DIGITS || !isHex(hash)) {
            throw new IllegalArgumentException("not a fingerprint: " + bytes + "-" + hash);
        }
    }

    private static boolean isHex(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (!((c >= '0' && c <= '9') || (c >= 'a' && c <= 'f'))) {
                return false;
            }
        }
        return true;
    }

    public static Fingerprint parse(String text) {
        int dash = text.indexOf('-');
        if (dash < 1) {
            throw new IllegalArgumentException("not a fingerprint: " + text);
        }
        try {
            return new Fingerprint(Long.parseLong(text.substring(0, dash)), text.substring(dash + 1));
        } catch (NumberFormatException e) {
            throw new IllegalArgumentException("not a fingerprint: " + text, e);
        }
    }

    @Override
    public String toString() {
        return bytes + "-" + hash;
    }
}
