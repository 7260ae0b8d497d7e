package docksort.sort;

/// The kinds of working copy that can live side by side for a clip.
public enum CopyKind {
    LIGHT("light"),
    FULL("full");

    private final String label;

    CopyKind(String label) {
        this.label = label;
    }

    public String label() {
        return label;
    }
}
