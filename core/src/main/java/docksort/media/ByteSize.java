package docksort.media;

import java.util.Locale;

/// A number of bytes. Shown in decimal units, as volumes and data rates are sold: 1 MB = 10^6 bytes.
public record ByteSize(long bytes) implements Comparable<ByteSize> {
    public static final ByteSize ZERO = new ByteSize(0);
    private static final String[] UNITS = {"B", "kB", "MB", "GB", "TB", "PB", "EB"};

    public ByteSize {
        if (bytes < 0) {
            throw new IllegalArgumentException("a size is not negative: " + bytes);
        }
    }

    public ByteSize plus(ByteSize other) {
        return new ByteSize(Math.addExact(bytes, other.bytes));
    }

    /// "41.2 GB": three digits at most, one of them after the point below a hundred.
    public String label() {
        double value = bytes;
        int unit = 0;
        while (value >= 999.5 && unit < UNITS.length - 1) {
            value /= 1000;
            unit++;
        }
        boolean whole = unit == 0 || value >= 99.95;
        return String.format(Locale.ROOT, whole ? "%.0f %s" : "%.1f %s", value, UNITS[unit]);
    }

    @Override
    public int compareTo(ByteSize other) {
        return Long.compare(bytes, other.bytes);
    }

    @Override
    public String toString() {
        return label();
    }
}
