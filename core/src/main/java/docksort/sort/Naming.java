package docksort.sort;

import docksort.arrival.Clip;
import docksort.media.CopyForm;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Fills in a recipe's naming pattern.
public final class Naming {
    private static final Pattern TOKEN = Pattern.compile("\\{([^}]*)}");
    private static final int LONGEST = 120;

    private Naming() {}

    /// What is wrong with a pattern.
    static Optional<String> fault(String pattern) {
        if (pattern.isBlank() || pattern.length() > LONGEST) {
            return Optional.of("a naming pattern has 1 to " + LONGEST + " characters");
        }
        if (!pattern.contains("{clip}")) {
            return Optional.of("a naming pattern needs {clip}, or all copies would have one name");
        }
        if (pattern.matches(".*[/\\\\:*?\"<>|\\p{Cntrl}].*")) {
            return Optional.of("a naming pattern must not have / \\ : * ? \" < > |");
        }
        Matcher token = TOKEN.matcher(pattern);
        while (token.find()) {
            switch (token.group(1)) {
                case "clip", "kind", "recipe", "arrival", "reel", "raster" -> {}
                default -> {
                    return Optional.of("a naming pattern does not know {" + token.group(1) + "}");
                }
            }
        }
        return Optional.empty();
    }

    /// The file's name without its ending, not yet made safe for file systems.
    public static String fill(Recipe recipe, Clip clip, CopyForm form, String arrival) {
        return TOKEN.matcher(recipe.naming())
                .replaceAll(token -> Matcher.quoteReplacement(
                        switch (token.group(1)) {
                            case "clip" -> clip.name();
                            case "kind" -> recipe.kind().label();
                            case "recipe" -> recipe.id();
                            case "arrival" -> arrival;
                            case "reel" -> clip.facts().reel().orElse("no reel");
                            case "raster" ->
                                form.raster().width() + "x" + form.raster().height();
                            default -> "";
                        }));
    }
}
