package docksort.engine;

import java.util.HashMap;
import java.util.Map;
import java.util.function.LongConsumer;

/// Reads `key=value` lines of `-progress`; a line `progress=…` ends each report.
final class EncodingProgress {
    private static final int LONGEST_REPORT = 100;

    private final LongConsumer frames;
    private final Map<String, String> report = new HashMap<>();
    private long written;
    private long repeated;

    /// @param frames hears how many frames were written
    EncodingProgress(LongConsumer frames) {
        this.frames = frames;
    }

    /// Frames that were written so far.
    long written() {
        return written;
    }

    /// Frames among them that stand in for others that did not come out of the decoder.
    long repeated() {
        return repeated;
    }

    void line(String line) {
        int equals = line.indexOf('=');
        if (equals < 0 || report.size() > LONGEST_REPORT) {
            return;
        }
        String key = line.substring(0, equals);
        if (key.equals("progress")) {
            written = number("frame");
            repeated = number("dup_frames");
            report.clear();
            frames.accept(written);
        } else {
            report.put(key, line.substring(equals + 1).strip());
        }
    }

    private long number(String key) {
        try {
            return Math.max(0, Long.parseLong(report.getOrDefault(key, "0")));
        } catch (NumberFormatException e) {
            return 0; // the engine writes N/A until it knows
        }
    }
}
