package docksort.catalogue;

/// Where a working copy stands.
public enum CopyState {
    WANTED("wanted"),
    WAITING("waiting"),
    MAKING("making"),
    CHECKING("checking"),
    READY("ready"),
    /// Its original is damaged: where frames do not decode, the one before them stands. It serves only
    /// when a person accepted it.
    READY_WITH_HOLES("ready with holes"),
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

    /// Whether it can stand in for its original: a finished file is there that passed its check.
    public boolean serves() {
        return this == READY || this == READY_WITH_HOLES;
    }
}
