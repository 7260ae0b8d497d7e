package docksort.catalogue;

/// Whether an original is where the catalogue expects it.
///
/// @param note why, where it is not simply online
public record Presence(State state, String note) {
    public static final Presence ONLINE = new Presence(State.ONLINE, "");

    /// Where an original stands.
    public enum State {
        /// There, and the same recording.
        ONLINE("online"),
        /// Its volume is away.
        OFFLINE("offline"),
        /// Its volume is there, and it is not in its place.
        MOVED("not in place"),
        /// Something is in its place that is another recording.
        REFUSED("changed");

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
