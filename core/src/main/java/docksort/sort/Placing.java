package docksort.sort;

/// Where a recipe puts its copies.
public enum Placing {
    /// In the folder for copies: kind, arrival.
    BY_ARRIVAL("a folder for each arrival"),
    /// In the folder for copies: kind.
    ONE_FOLDER("one folder"),
    /// In the folder for copies: kind, arrival, and the folders the original lies in.
    MIRRORED("a tree like that of the originals"),
    /// In the folder for copies: root, kind, arrival.
    BY_ROOT("a folder for each root"),
    /// In a folder beside the arrival, on the volume of the originals; never inside the arrival.
    BESIDE("beside the arrival, on its volume");

    private final String label;

    Placing(String label) {
        this.label = label;
    }

    public String label() {
        return label;
    }
}
