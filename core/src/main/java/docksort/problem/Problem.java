package docksort.problem;

/// A failure in words for the person at the desk.
///
/// @param what what happened, to which file or thing
/// @param why the cause as far as it is known; may be empty
/// @param untouched what is as it was before
/// @param next the one thing that helps
public record Problem(String what, String why, String untouched, String next) {
    private static final int LONGEST_PART = 2_000;

    public Problem {
        what = shortened(what);
        why = shortened(why);
    }

    /// All parts as one paragraph.
    public String sentence() {
        var text = new StringBuilder(what);
        if (!why.isEmpty()) {
            text.append(": ").append(why);
        }
        closeSentence(text);
        for (String part : new String[] {untouched, next}) {
            if (!part.isEmpty()) {
                text.append(' ').append(part);
                closeSentence(text);
            }
        }
        return text.toString();
    }

    private static void closeSentence(StringBuilder text) {
        if (text.charAt(text.length() - 1) != '.') {
            text.append('.');
        }
    }

    private static String shortened(String text) {
        return text.length() <= LONGEST_PART ? text : text.substring(0, LONGEST_PART) + "…";
    }
}
