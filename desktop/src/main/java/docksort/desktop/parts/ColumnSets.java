package docksort.desktop.parts;

import java.util.List;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.prefs.BackingStoreException;
import java.util.prefs.Preferences;

/// Forms of one list under names, kept for a person on a machine.
public final class ColumnSets {
    private static final int LONGEST_NAME = 40;

    private final Preferences kept;

    /// @param kept where they are kept
    public ColumnSets(Preferences kept) {
        this.kept = kept;
    }

    /// @param list id of the list
    public static ColumnSets ofThisPerson(String list) {
        return new ColumnSets(Preferences.userRoot().node("dock-sort/columns/" + list));
    }

    /// By their names, as [ColumnForm] writes them.
    public SortedMap<String, String> all() {
        var all = new TreeMap<String, String>(String.CASE_INSENSITIVE_ORDER);
        try {
            for (String name : List.of(kept.keys())) {
                all.put(name, kept.get(name, ""));
            }
        } catch (BackingStoreException e) {
            told("sets of columns cannot be read", e);
        }
        return all;
    }

    /// What is wrong with a name; empty where nothing is.
    public static Optional<String> fault(String name) {
        if (name.strip().length() > LONGEST_NAME) {
            return Optional.of("at most " + LONGEST_NAME + " letters");
        }
        return name.chars().anyMatch(Character::isISOControl) ? Optional.of("one line of letters") : Optional.empty();
    }

    /// Keeps a form; one of that name is replaced.
    public void keep(String name, String form) {
        if (name.isBlank() || fault(name).isPresent() || form.length() > Preferences.MAX_VALUE_LENGTH) {
            return;
        }
        kept.put(name.strip(), form);
        flush();
    }

    public void forget(String name) {
        kept.remove(name);
        flush();
    }

    private void flush() {
        try {
            kept.flush();
        } catch (BackingStoreException e) {
            told("a set of columns was not kept", e);
        }
    }

    private static void told(String what, BackingStoreException failure) {
        System.getLogger(ColumnSets.class.getName()).log(System.Logger.Level.WARNING, what, failure);
    }
}
