package docksort.desktop.parts;

import java.util.List;
import javafx.collections.ObservableList;

/// Rows of a table that come anew with every look at the project.
public final class Rows {
    private Rows() {}

    /// Brings rows to what is wanted. Where their number stays only those that differ are replaced, so that
    /// selection and scrolling stay and nothing else is drawn anew.
    ///
    /// @return whether anything changed
    public static <T> boolean bring(ObservableList<T> rows, List<T> wanted) {
        if (rows.size() != wanted.size()) {
            rows.setAll(wanted);
            return true;
        }
        boolean changed = false;
        for (int i = 0; i < wanted.size(); i++) {
            if (!wanted.get(i).equals(rows.get(i))) {
                rows.set(i, wanted.get(i));
                changed = true;
            }
        }
        return changed;
    }
}
