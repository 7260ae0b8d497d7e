package docksort.catalogue;

import java.nio.file.Path;

/// A named storage place with its path on this workstation.
public record Root(String id, String name, Path path) {
    /// The root that copies are made in.
    public static final String COPIES = "copies";
}
