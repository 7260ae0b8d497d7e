package docksort.catalogue;

import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jdbi.v3.core.Handle;

/// Settings of the project by their names.
public final class SettingStore {
    private final Access jdbi;
    private final ActivityLog log;

    SettingStore(Access jdbi, ActivityLog log) {
        this.jdbi = jdbi;
        this.log = log;
    }

    // Settings

    public Optional<String> get(String name) {
        return jdbi.withHandle(h -> h.createQuery("SELECT value FROM setting WHERE name = :name")
                .bind("name", name)
                .mapTo(String.class)
                .findOne());
    }

    public void put(String name, String value) {
        jdbi.useTransaction(h -> set(h, name, value));
    }

    private static void set(Handle h, String name, String value) {
        h.execute(
                "INSERT INTO setting (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value ="
                        + " excluded.value",
                name,
                value);
    }

    /// Sets a value as a change that can be taken back.
    public void change(String name, String value, String what) {
        jdbi.useTransaction(h -> {
            var before = new Undo.SettingChanged(name, now(h, name));
            set(h, name, value);
            log.write(h, what, before);
        });
    }

    /// Sets a value as a change that can be taken back, where it still is what it was.
    ///
    /// @param was what it is thought to be; empty for none
    /// @return false when somebody set it otherwise meanwhile; then nothing is changed
    public boolean change(String name, String was, String value, String what) {
        return jdbi.inTransaction(h -> {
            boolean is = now(h, name).equals(was);
            if (is) {
                set(h, name, value);
                log.write(h, what, new Undo.SettingChanged(name, was));
            }
            return is;
        });
    }

    private static String now(Handle h, String name) {
        return h.createQuery("SELECT value FROM setting WHERE name = :name")
                .bind("name", name)
                .mapTo(String.class)
                .findOne()
                .orElse("");
    }

    /// All values by their names.
    public Map<String, String> all() {
        return jdbi.withHandle(SettingStore::all);
    }

    static Map<String, String> all(Handle h) {
        Map<String, String> all = new TreeMap<>();
        h.createQuery("SELECT name, value FROM setting")
                .map((row, _) -> Map.entry(row.getString(1), row.getString(2)))
                .forEach(entry -> all.put(entry.getKey(), entry.getValue()));
        return all;
    }

    static Undo takeBack(Handle h, Undo.SettingChanged changed) {
        var now = new Undo.SettingChanged(changed.name(), now(h, changed.name()));
        if (changed.before().isEmpty()) {
            h.execute("DELETE FROM setting WHERE name = ?", changed.name());
        } else {
            set(h, changed.name(), changed.before());
        }
        return now;
    }
}
