package docksort.catalogue;

import org.jdbi.v3.core.Handle;

/// Where originals stand on each workstation. One without a row is online there.
final class PresenceRows {
    private PresenceRows() {}

    static Presence of(Handle h, String workstation, String clip) {
        return h.createQuery("SELECT state, note FROM presence WHERE clip_id = :clip AND workstation = :here")
                .bind("clip", clip)
                .bind("here", workstation)
                .map((row, _) -> new Presence(Presence.State.valueOf(row.getString(1)), row.getString(2)))
                .findOne()
                .orElse(Presence.ONLINE);
    }

    /// Keeps where a clip stands; one that is not in the catalogue any more stands nowhere.
    static void set(Handle h, String workstation, String clip, Presence presence) {
        if (presence.isOnline()) {
            h.execute("DELETE FROM presence WHERE clip_id = ? AND workstation = ?", clip, workstation);
            return;
        }
        h.createUpdate("""
            INSERT INTO presence (clip_id, workstation, state, note)
            SELECT id, :here, :state, :note FROM clip WHERE id = :clip
            ON CONFLICT (clip_id, workstation) DO UPDATE SET state = excluded.state, note = excluded.note\
            """)
                .bind("here", workstation)
                .bind("state", presence.state().name())
                .bind("note", presence.note())
                .bind("clip", clip)
                .execute();
    }
}
