package docksort.sort;

import docksort.arrival.Clip;
import docksort.media.CopyForm;
import docksort.media.Raster;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Fills in a recipe's naming pattern.
public final class Naming {
    private static final Pattern TOKEN = Pattern.compile("\\{([^{}]*)}");
    private static final int LONGEST = 120;

    private static final Pattern FORBIDDEN = Pattern.compile("[/\\\\:*?\"<>|\\p{Cntrl}]");

    private Naming() {}

    /// What is wrong with a pattern.
    public static Optional<String> fault(String pattern) {
        if (pattern.isBlank() || pattern.length() > LONGEST) {
            return Optional.of("a naming pattern has 1 to " + LONGEST + " characters");
        }
        if (!pattern.contains("{clip}")) {
            return Optional.of("a naming pattern needs {clip}, or all copies would have one name");
        }
        if (FORBIDDEN.matcher(pattern).find()) {
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
        String rest = TOKEN.matcher(pattern).replaceAll("");
        return rest.contains("{") || rest.contains("}")
                ? Optional.of("a naming pattern has a { or } that stands alone")
                : Optional.empty();
    }

    /// The file's name without its ending, not yet made safe for file systems.
    public static String fill(Recipe recipe, Clip clip, CopyForm form, String arrival) {
        return fill(recipe.naming(), recipe.kind(), recipe.id(), clip, form.raster(), arrival);
    }

    /// The same for a copy that is there, by any pattern.
    public static String fill(
            String pattern, CopyKind kind, String recipeId, Clip clip, Raster raster, String arrival) {
        return TOKEN.matcher(pattern)
                .replaceAll(token -> Matcher.quoteReplacement(
                        switch (token.group(1)) {
                            case "clip" -> clip.name();
                            case "kind" -> kind.label();
                            case "recipe" -> recipeId;
                            case "arrival" -> arrival;
                            case "reel" -> clip.facts().reel().orElse("no reel");
                            case "raster" -> raster.width() + "x" + raster.height();
                            default -> "";
                        }));
    }
}
