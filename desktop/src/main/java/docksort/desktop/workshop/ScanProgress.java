package docksort.desktop.workshop;

/// A look into arrivals while it goes on.
///
/// @param folder the folder that is looked into now
public record ScanProgress(String folder, int done, int all, boolean running) {
    public static final ScanProgress NONE = new ScanProgress("", 0, 0, false);
}
