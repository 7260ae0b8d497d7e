package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;

/// A folder that the program makes copies in. It refuses to lie inside an arrival, and hands out files
/// that get their final name only when they are published.
public final class CopyFolder {
    private static final String NOTHING_CHANGED = "Nothing was written.";
    private static final Pattern RESERVED =
            Pattern.compile("(?i)(con|prn|aux|nul|com\\d|lpt\\d)(\\..*)?"); // names a Windows share refuses
    private static final int LONGEST_NAME = 180;

    private final Path root;
    private final String owner;

    private CopyFolder(Path root, String owner) {
        this.root = root;
        this.owner = owner;
    }

    /// Creates the folder where it is missing.
    ///
    /// @param neverInside folders that hold originals
    /// @param owner tells files in the making of one project from those of others that use the folder:
    ///     letters and digits
    /// @throws StorageFailed when the folder lies in one of those or cannot be created
    public static CopyFolder open(Path root, Collection<Path> neverInside, String owner) {
        try {
            Files.createDirectories(root);
            Path real = root.toRealPath();
            for (Path originals : neverInside) {
                if (Files.exists(originals) && real.startsWith(originals.toRealPath())) {
                    throw new StorageFailed(new Problem(
                            "Copies cannot be made in " + root,
                            "it lies inside the arrival " + originals,
                            NOTHING_CHANGED,
                            "Choose a folder outside the originals."));
                }
            }
            return new CopyFolder(real, owner);
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "The folder for copies cannot be used: " + root,
                            Causes.inWords(e),
                            NOTHING_CHANGED,
                            "Check that its volume is mounted and may be written to."),
                    e);
        }
    }

    public Path root() {
        return root;
    }

    /// A file in the making for a sub-folder and name of this folder; both are made safe for every
    /// system's file names.
    public PartialFile begin(List<String> subFolders, String name) {
        Path folder = root;
        for (String sub : subFolders) {
            folder = folder.resolve(safeName(sub));
        }
        Path target = folder.resolve(safeName(name)).normalize();
        if (!target.startsWith(root)) {
            throw new IllegalArgumentException("a copy must stay below " + root + ", was " + target);
        }
        try {
            Files.createDirectories(folder);
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "The folder " + folder + " cannot be made",
                            Causes.inWords(e),
                            NOTHING_CHANGED,
                            "Check that its volume is mounted and has room."),
                    e);
        }
        return PartialFile.besides(target, owner);
    }

    /// Deletes what an interrupted run of the owner left below this folder: only files with its own
    /// partial name. Call it only while no run of its uses the folder.
    ///
    /// @return the files that were deleted
    public List<Path> sweepLeftovers() {
        var swept = new ArrayList<Path>();
        sweep(root, owner, swept, 0);
        return List.copyOf(swept);
    }

    private static void sweep(Path folder, String owner, List<Path> swept, int depth) {
        try (DirectoryStream<Path> entries = Files.newDirectoryStream(folder)) {
            for (Path entry : entries) {
                if (Files.isDirectory(entry, LinkOption.NOFOLLOW_LINKS)) {
                    if (depth < 16) {
                        sweep(entry, owner, swept, depth + 1);
                    }
                } else if (PartialFile.isPartialOf(entry, owner)) {
                    Files.deleteIfExists(entry);
                    swept.add(entry);
                }
            }
        } catch (IOException e) {
            // A leftover that cannot be deleted now hides under its partial name until the next sweep.
            System.getLogger(CopyFolder.class.getName()).log(System.Logger.Level.WARNING, "cannot sweep " + folder, e);
        }
    }

    /// A file name that every file system accepts and no shell or player takes for an option: separators,
    /// control and reserved characters become `_`, a leading dash or dot is prefixed.
    public static String safeName(String wanted) {
        String name = wanted.strip().replaceAll("[\\p{Cntrl}/\\\\:*?\"<>|]", "_");
        if (name.isEmpty()
                || name.startsWith("-")
                || name.startsWith(".")
                || RESERVED.matcher(name).matches()) {
            name = "_" + name;
        }
        if (name.length() > LONGEST_NAME) {
            int dot = name.lastIndexOf('.');
            String ending = dot > name.length() - 8 ? name.substring(dot) : "";
            String mark =
                    "_" + Integer.toHexString(name.toLowerCase(Locale.ROOT).hashCode());
            name = name.substring(0, LONGEST_NAME - ending.length() - mark.length()) + mark + ending;
        }
        int end = name.length();
        while (end > 0 && ". ".indexOf(name.charAt(end - 1)) >= 0) {
            end--;
        }
        return end == name.length() ? name : name.substring(0, end) + "_";
    }
}
