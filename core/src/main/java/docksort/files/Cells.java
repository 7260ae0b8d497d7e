package docksort.files;

import java.util.Arrays;

/// Cells of tables that people open in a spreadsheet.
public final class Cells {
    private static final String FORMULA = "=+-@\t\r";

    private Cells() {}

    /// The same cells, where a text that a spreadsheet would take for a formula has an apostrophe before
    /// it (OWASP, "CSV Injection"). Numbers stay numbers.
    public static Object[] harmless(Object... cells) {
        return Arrays.stream(cells).map(Cells::harmless).toArray();
    }

    private static Object harmless(Object cell) {
        if (cell instanceof Number) {
            return cell;
        }
        String text = cell.toString();
        return !text.isEmpty() && FORMULA.indexOf(text.charAt(0)) >= 0 ? "'" + text : text;
    }
}
