package docksort.sort;

/// The kinds of working copy that can live side by side for a clip.
public enum CopyKind {
    LIGHT("light"),
    FULL("full"),
    /// Only the stretches that a timeline uses, with handles.
    RANGE("range"),
    /// The sound alone; it never stands in for a picture.
    SOUND("sound");

    private final String label;

    CopyKind(String label) {
        this.label = label;
    }

    public String label() {
        return label;
    }
}
