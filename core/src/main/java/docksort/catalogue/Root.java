package docksort.catalogue;

import java.nio.file.Path;

/// A named storage place with its path on this workstation.
public record Root(String id, String name, Path path) {
    /// The root that copies are made in.
    public static final String COPIES = "copies";

    private static final String NOWHERE = "not-on-this-workstation";

    /// What stands for the path of a root of a shared project on workstations that nobody gave one for. No
    /// other workstation's path does: something else may lie there.
    static Path nowhere(String name) {
        return Path.of("/", NOWHERE, name.replaceAll("[/\\\\:]", "_"));
    }

    /// Whether somebody said where it is on this workstation.
    public boolean isPlaced() {
        return !isNowhere(path);
    }

    /// Whether a path is below a root that nobody said where it is on this workstation.
    public static boolean isNowhere(Path path) {
        return path.getNameCount() > 0 && path.getName(0).toString().equals(NOWHERE);
    }
}
