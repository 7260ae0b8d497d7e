package docksort.catalogue;

/// Whether an original is where the catalogue expects it.
///
/// @param note why, where it is not simply online
public record Presence(State state, String note) {
    public static final Presence ONLINE = new Presence(State.ONLINE, "");

    /// ONLINE: there, and the same recording. OFFLINE: not there. REFUSED: something is there that is another
    /// recording.
    public enum State {
        ONLINE("online"),
        OFFLINE("offline"),
        REFUSED("another recording");

        private final String label;

        State(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    public boolean isOnline() {
        return state == State.ONLINE;
    }
}
