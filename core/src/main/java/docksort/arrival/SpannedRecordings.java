package docksort.arrival;

import docksort.arrival.FootageWalk.Listed;
import docksort.media.ClipSource;
import docksort.media.ClipSource.SingleFile;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Finds files that may be parts of one recording: a recorder that reaches the largest file its card can
/// hold (2 GiB or 4 GiB less one byte on FAT volumes) goes on in the next file. Only a file that ends
/// just below such a limit has a continuation; whether the next number is it, the facts of both decide.
final class SpannedRecordings {
    private static final Pattern NUMBER = Pattern.compile("(.*?)(\\d{1,9})(\\D*)");
    private static final long[] LIMITS = {1L << 31, 1L << 32};
    private static final int SHARE_BELOW = 40; // a part may end a fortieth below the limit: recorders cut at keyframes

    private SpannedRecordings() {}

    private record Name(Path folder, String prefix, String suffix, long number) {}

    /// Groups of two or more files in order, each but the last as large as a part gets.
    static List<List<ClipSource>> candidates(List<Listed> sources) {
        Map<Name, Listed> byName = new HashMap<>();
        for (Listed listed : sources) {
            name(listed.source(), 0).ifPresent(name -> byName.put(name, listed));
        }
        var found = new ArrayList<List<ClipSource>>();
        for (Listed listed : sources) {
            boolean continues = name(listed.source(), -1)
                    .map(before -> byName.get(before))
                    .filter(before -> isFull(before.stamp().bytes()))
                    .isPresent();
            if (continues || !isFull(listed.stamp().bytes())) {
                continue;
            }
            var group = new ArrayList<ClipSource>(List.of(listed.source()));
            Listed last = listed;
            while (isFull(last.stamp().bytes())) {
                Listed next = name(last.source(), 1).map(byName::get).orElse(null);
                if (next == null) {
                    break;
                }
                group.add(next.source());
                last = next;
            }
            if (group.size() > 1) {
                found.add(group);
            }
        }
        return found;
    }

    static boolean isFull(long bytes) {
        for (long limit : LIMITS) {
            if (bytes < limit && bytes >= limit - limit / SHARE_BELOW) {
                return true;
            }
        }
        return false;
    }

    private static Optional<Name> name(ClipSource source, int step) {
        // A name with a line break cannot stand in a list of parts: such files stay alone.
        if (!(source instanceof SingleFile single)
                || source.head().toString().chars().anyMatch(c -> c == '\n' || c == '\r')) {
            return Optional.empty();
        }
        String file = String.valueOf(single.head().getFileName());
        int dot = file.lastIndexOf('.');
        Matcher form = NUMBER.matcher(dot < 0 ? file : file.substring(0, dot));
        if (!form.matches()) {
            return Optional.empty();
        }
        String ending = dot < 0 ? "" : file.substring(dot);
        return Optional.of(new Name(
                Objects.requireNonNullElse(single.head().getParent(), Path.of("")),
                form.group(1) + "#" + form.group(2).length(),
                form.group(3) + ending,
                Long.parseLong(form.group(2)) + step));
    }
}
