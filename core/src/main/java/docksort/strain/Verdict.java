package docksort.strain;

/// How hard a clip is to play and scrub.
public enum Verdict {
    EASY("easy"),
    FAIR("fair"),
    HARD("hard"),
    OUT_OF_REACH("out of reach");

    private final String label;

    Verdict(String label) {
        this.label = label;
    }

    public String label() {
        return label;
    }
}
