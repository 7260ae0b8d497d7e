package docksort.link;

import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;

/// How the name of a copy follows from that of its original: what stands before it and after it. File
/// endings do not count.
public record NamePattern(String before, String after) {
    /// Stands for the original's name where a pattern is written down.
    public static final String NAME = "*";

    private static final Pattern FOLDER = Pattern.compile("[/\\\\\\p{Cntrl}]");
    private static final int SHORTEST_NAME = 2;
    private static final int MOST_LOOKED_AT = 2_000;
    private static final int MOST_PATTERNS = 12;

    /// Reads `*_P` or `proxy_*`.
    ///
    /// @throws InputRefused when it has no star or several
    public static NamePattern parse(String text) {
        String pattern = text.strip();
        int star = pattern.indexOf(NAME);
        if (star < 0
                || star != pattern.lastIndexOf(NAME)
                || FOLDER.matcher(pattern).find()) {
            throw new InputRefused(new Problem(
                    "\"" + text + "\" is no pattern of names",
                    "it needs one star for the original's name, and no folders",
                    "Nothing was changed.",
                    "Write for instance *_P or small_*."));
        }
        return new NamePattern(pattern.substring(0, star), pattern.substring(star + 1));
    }

    public String label() {
        return before + NAME + after;
    }

    /// The original's name that a copy's name tells, in lower case; empty where the copy's does not
    /// follow the pattern.
    Optional<String> original(String copy) {
        String name = copy.toLowerCase(Locale.ROOT);
        String start = before.toLowerCase(Locale.ROOT);
        String end = after.toLowerCase(Locale.ROOT);
        boolean follows =
                name.length() >= start.length() + end.length() && name.startsWith(start) && name.endsWith(end);
        return follows ? Optional.of(name.substring(start.length(), name.length() - end.length())) : Optional.empty();
    }

    /// Learns the patterns of a set of names: those that explain the most copies first, each by the
    /// copies that no earlier one explains. A pattern of one copy alone is chance where there are many,
    /// and left out.
    ///
    /// @param originals names without endings
    /// @param copies names without endings
    public static List<NamePattern> learn(Collection<String> originals, List<String> copies) {
        Set<String> names = new HashSet<>();
        originals.forEach(name -> names.add(name.toLowerCase(Locale.ROOT)));
        List<String> looked = spread(copies);
        Map<NamePattern, Set<Integer>> explained = new HashMap<>();
        for (int i = 0; i < looked.size(); i++) {
            collect(looked.get(i), i, names, explained);
        }
        int fewest = looked.size() > 4 ? 2 : 1;
        var patterns = new ArrayList<NamePattern>();
        while (patterns.size() < MOST_PATTERNS) {
            var best = explained.entrySet().stream()
                    .max(Comparator.comparingInt((Map.Entry<NamePattern, Set<Integer>> entry) ->
                                    entry.getValue().size())
                            // Of two that explain as many the one that adds less to the name.
                            .thenComparingInt(entry -> -entry.getKey().length())
                            .thenComparing(entry -> entry.getKey().label()))
                    .filter(entry -> entry.getValue().size() >= fewest);
            if (best.isEmpty()) {
                break;
            }
            patterns.add(best.get().getKey());
            Set<Integer> done = Set.copyOf(best.get().getValue());
            explained.values().forEach(copiesOfIt -> copiesOfIt.removeAll(done));
        }
        return List.copyOf(patterns);
    }

    private int length() {
        return before.length() + after.length();
    }

    private static void collect(String copy, int number, Set<String> names, Map<NamePattern, Set<Integer>> explained) {
        String name = copy.toLowerCase(Locale.ROOT);
        for (int from = 0; from <= name.length() - SHORTEST_NAME; from++) {
            for (int to = name.length(); to >= from + SHORTEST_NAME; to--) {
                if (names.contains(name.substring(from, to))) {
                    var pattern = new NamePattern(copy.substring(0, from), copy.substring(to));
                    explained.computeIfAbsent(pattern, _ -> new HashSet<>()).add(number);
                }
            }
        }
    }

    /// Not more than can be looked at closely, from all over the list.
    private static List<String> spread(List<String> copies) {
        int step = Math.max(1, copies.size() / MOST_LOOKED_AT);
        var looked = new ArrayList<String>();
        for (int i = 0; i < copies.size(); i += step) {
            looked.add(copies.get(i));
        }
        return looked;
    }
}
