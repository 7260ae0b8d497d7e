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
        what = shortened(plain(what));
        why = shortened(plain(why));
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

    /// Names of files may hold what moves a terminal's cursor or turns its writing round: it is shown,
    /// not carried out.
    private static String plain(String text) {
        return text.replaceAll("[\\p{Cntrl}&&[^\n]]", "\uFFFD")
                .replaceAll("[\u200E\u200F\u202A-\u202E\u2066-\u2069]", "\uFFFD");
    }

    private static String shortened(String text) {
        return text.length() <= LONGEST_PART ? text : text.substring(0, LONGEST_PART) + "…";
    }
}
