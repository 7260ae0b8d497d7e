package docksort.media;

/// Whether a picture was taken at once or as two fields, and which field comes first.
public enum ScanType {
    PROGRESSIVE("progressive"),
    TOP_FIELD_FIRST("interlaced, top field first"),
    BOTTOM_FIELD_FIRST("interlaced, bottom field first"),
    UNKNOWN("not stated");

    private final String label;

    ScanType(String label) {
        this.label = label;
    }

    public String label() {
        return label;
    }

    public boolean isInterlaced() {
        return this == TOP_FIELD_FIRST || this == BOTTOM_FIELD_FIRST;
    }
}
