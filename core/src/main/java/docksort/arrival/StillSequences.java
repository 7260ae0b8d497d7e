package docksort.arrival;

import docksort.arrival.FootageWalk.Entry;
import docksort.arrival.FootageWalk.Listed;
import docksort.media.ClipSource.NumberedStills;
import docksort.media.ClipSource.SingleFile;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalInt;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Says which stills are one recording, by their names: all but one number in them is the same, and that
/// one counts. The counter may stand anywhere in the name, begin below zero, and grow by a digit; with
/// zeros before it, it has a fixed width.
final class StillSequences {
    private static final int MOST_GAPS = 100;
    private static final int MOST_NUMBERS = 6; // in one name
    private static final int MOST_DIGITS = 9;
    private static final Pattern NUMBER = Pattern.compile("\\d++");

    private StillSequences() {}

    /// Fewer numbered pictures are taken for photographs, each its own clip. Film scans and renders come in
    /// kinds of file that no camera for photographs writes.
    private static int fewest(String suffix) {
        String ending = suffix.substring(suffix.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
        return switch (ending) {
            case "dpx", "exr" -> 2;
            case "jpg", "jpeg", "dng" -> 8;
            default -> 3;
        };
    }

    /// What of a name counts.
    ///
    /// @param negative whether a minus sign stands before the digits
    private record Counter(String folder, String before, String digits, String after, boolean negative) {
        Numbering numbering() {
            return new Numbering(folder, before, after);
        }

        int number() {
            return negative ? -Integer.parseInt(digits) : Integer.parseInt(digits);
        }

        /// The width that zeros show; 0 where the digits may as well be a number without any.
        int width() {
            return digits.startsWith("0") && digits.length() > 1 ? digits.length() : 0;
        }
    }

    private record Numbering(String folder, String before, String after) {}

    private record Numbered(Entry entry, Counter counter) {
        int number() {
            return counter.number();
        }
    }

    static List<Listed> of(List<Entry> stills) {
        Map<Entry, List<Counter>> counters = new LinkedHashMap<>();
        Map<Numbering, Integer> sizes = new HashMap<>();
        for (Entry still : stills) {
            List<Counter> found = counters(still);
            counters.put(still, found);
            found.forEach(counter -> sizes.merge(counter.numbering(), 1, Integer::sum));
        }
        var found = new ArrayList<Listed>();
        Map<Numbering, List<Numbered>> groups = new LinkedHashMap<>();
        counters.forEach((still, its) -> its.stream()
                // The number that counts is the one by which most files differ; of equals, the last.
                .max(Comparator.comparingInt(counter -> sizes.getOrDefault(counter.numbering(), 0)))
                .ifPresentOrElse(
                        counter -> groups.computeIfAbsent(counter.numbering(), _ -> new ArrayList<>())
                                .add(new Numbered(still, counter)),
                        () -> found.add(single(still))));
        groups.forEach((numbering, group) ->
                widths(group).forEach((width, same) -> found.addAll(sequences(numbering, width, same))));
        return found;
    }

    /// From the last number in a name to the first, so that of equals the last one is found first.
    private static List<Counter> counters(Entry still) {
        var found = new ArrayList<Counter>();
        if (still.name().chars().anyMatch(Character::isISOControl)) {
            return found;
        }
        int ending = still.name().lastIndexOf('.');
        Matcher number = NUMBER.matcher(still.name()).region(0, Math.max(0, ending));
        while (number.find() && found.size() < MOST_NUMBERS) {
            String digits = number.group();
            if (digits.length() > MOST_DIGITS) {
                continue;
            }
            int from = number.start();
            boolean negative = isMinus(still.name(), from - 1);
            found.addFirst(new Counter(
                    String.valueOf(still.file().getParent()),
                    still.name().substring(0, negative ? from - 1 : from),
                    digits,
                    still.name().substring(number.end()),
                    negative));
        }
        return found;
    }

    /// A dash behind a letter or a digit sets a number apart; behind another mark it is a minus sign.
    private static boolean isMinus(String name, int at) {
        return at > 0 && name.charAt(at) == '-' && !Character.isLetterOrDigit(name.charAt(at - 1));
    }

    /// Stills of one numbering by the width of their numbers. Numbers without zeros before them belong to
    /// those of their width, and where there are none of it, together.
    private static Map<Integer, List<Numbered>> widths(List<Numbered> group) {
        Set<Integer> fixed = new HashSet<>();
        group.forEach(still -> fixed.add(still.counter.width()));
        fixed.remove(0);
        Map<Integer, List<Numbered>> found = new LinkedHashMap<>();
        for (Numbered still : group) {
            int digits = still.counter.digits.length();
            OptionalInt widest = fixed.stream()
                    .mapToInt(Integer::intValue)
                    .filter(w -> w <= digits)
                    .max();
            int width = still.counter.width() > 0 ? still.counter.width() : widest.orElse(1);
            found.computeIfAbsent(width, _ -> new ArrayList<>()).add(still);
        }
        return found;
    }

    private static Listed single(Entry entry) {
        return new Listed(new SingleFile(entry.file()), entry.stamp());
    }

    /// One sequence with its gaps; an empty file is a gap, and is told by itself. Where more is missing
    /// than there is, or in too many places, the numbers say nothing of one recording, and every run is a
    /// clip of its own.
    private static List<Listed> sequences(Numbering numbering, int width, List<Numbered> all) {
        var found = new ArrayList<Listed>();
        List<Numbered> group = all.stream()
                .filter(still -> still.entry.bytes() > 0)
                .sorted(Comparator.comparingInt(Numbered::number))
                .toList();
        all.stream().filter(still -> still.entry.bytes() == 0).forEach(still -> found.add(single(still.entry)));
        if (group.size() < fewest(numbering.after)) {
            group.forEach(still -> found.add(single(still.entry)));
            return found;
        }
        var missing = new ArrayList<Integer>();
        int gaps = 0;
        for (int i = 1; i < group.size(); i++) {
            int before = group.get(i - 1).number();
            int now = group.get(i).number();
            gaps += now > before + 1 ? 1 : 0;
            if (now - before > group.size() || now == before) {
                gaps = MOST_GAPS + 1;
                break;
            }
            for (int number = before + 1; number < now; number++) {
                missing.add(number);
            }
        }
        if (gaps <= MOST_GAPS && missing.size() < group.size()) {
            found.add(stills(numbering, width, group, missing));
            return found;
        }
        int from = 0;
        for (int i = 1; i <= group.size(); i++) {
            if (i == group.size() || group.get(i).number() != group.get(i - 1).number() + 1) {
                found.add(stills(numbering, width, group.subList(from, i), List.of()));
                from = i;
            }
        }
        return found;
    }

    private static Listed stills(Numbering numbering, int width, List<Numbered> run, List<Integer> missing) {
        Stamp stamp = Stamp.NONE;
        for (Numbered still : run) {
            stamp = stamp.plus(still.entry.bytes(), still.entry.modifiedMillis());
        }
        return new Listed(
                new NumberedStills(
                        Path.of(numbering.folder),
                        numbering.before,
                        width,
                        numbering.after,
                        run.getFirst().number(),
                        run.getLast().number(),
                        missing),
                stamp);
    }
}
