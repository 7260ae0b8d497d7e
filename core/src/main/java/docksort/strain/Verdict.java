package docksort.strain;

/// How hard a clip is to play and scrub.
public enum Verdict {
    EASY("easy", 0),
    FAIR("fair", 1),
    HARD("hard", 2),
    OUT_OF_REACH("out of reach", 3);

    private final String label;
    private final int weight;

    Verdict(String label, int weight) {
        this.label = label;
        this.weight = weight;
    }

    /// Larger for harder.
    public int weight() {
        return weight;
    }

    public String label() {
        return label;
    }
}
