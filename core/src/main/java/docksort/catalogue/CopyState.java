package docksort.catalogue;

/// Where a working copy stands.
public enum CopyState {
    WANTED("wanted"),
    WAITING("waiting"),
    MAKING("making"),
    CHECKING("checking"),
    READY("ready"),
    STALE("stale"),
    MISSING("missing"),
    SUSPECT("suspect"),
    FAILED("failed");

    private final String label;

    CopyState(String label) {
        this.label = label;
    }

    public String label() {
        return label;
    }

    /// Whether a run still has to do something about it.
    public boolean isQueued() {
        return this == WAITING || this == MAKING || this == CHECKING;
    }

    /// Whether it can stand in for its original.
    public boolean serves() {
        return this == READY;
    }
}
