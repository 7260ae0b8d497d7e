package docksort.catalogue;

import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.problem.Problem;
import java.io.File;
import java.nio.file.Path;
import java.util.List;

/// Paths of the catalogue: relative to a root, with slashes.
final class CataloguePaths {
    private CataloguePaths() {}

    // Paths

    static Root root(List<Root> roots, String id) {
        return roots.stream().filter(root -> root.id().equals(id)).findFirst().orElseThrow();
    }

    static String relative(Root root, Path path) {
        String text = root.path().relativize(path).toString();
        return File.separatorChar == '/' ? text : text.replace(File.separatorChar, '/');
    }

    static Path absolute(String root, String relative) {
        return below(Path.of(root), relative);
    }

    /// A path of the catalogue, which may be a stranger's: none leads out of its root.
    ///
    /// @throws CatalogueUnavailable when it does
    static Path below(Path root, String relative) {
        Path path = root.resolve(relative);
        boolean plain = !relative.contains("..") && !relative.startsWith("/") && !relative.contains(":");
        if (!plain && !path.normalize().startsWith(root.normalize())) {
            throw new CatalogueUnavailable(
                    new Problem(
                            "The project's catalogue names a file outside of its folders: " + relative,
                            "it is damaged, or was changed by somebody",
                            "Nothing was changed.",
                            "Put a backup of the catalogue in place."),
                    new IllegalStateException("a path outside of " + root));
        }
        return path;
    }
}
