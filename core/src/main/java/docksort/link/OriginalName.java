package docksort.link;

import docksort.arrival.Clip;
import docksort.files.CopyFolder;
import docksort.media.ClipSource.SingleFile;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Optional;

/// Another name for an original, which somebody asked for in so many words. Nothing else ever renames one.
///
/// @param to its file under the new name, in the same folder
/// @param fault why it cannot have that name
public record OriginalName(Clip clip, Path to, Optional<String> fault) {
    /// What is to be known before it is done.
    public static final String WARNING = "Timelines, lists of checksums and other programs know an original by its name"
            + " and will not find it under another. Its copies go on standing in for it here. Files that belong to it"
            + " keep their names.";

    /// @param name the new name, with the ending of the old one or without
    public static OriginalName preview(Clip clip, String name) {
        Path from = clip.source().head();
        String ending = ending(from);
        String wanted = name.strip();
        String whole = wanted.toLowerCase(Locale.ROOT).endsWith(ending.toLowerCase(Locale.ROOT))
                ? wanted.substring(0, wanted.length() - ending.length()) + ending
                : wanted + ending;
        Optional<String> fault = fault(clip, from, whole, ending);
        return new OriginalName(clip, fault.isPresent() ? from : from.resolveSibling(whole), fault);
    }

    private static String ending(Path file) {
        String name = String.valueOf(file.getFileName());
        int dot = name.lastIndexOf('.');
        return dot > 0 ? name.substring(dot) : "";
    }

    private static Optional<String> fault(Clip clip, Path from, String name, String ending) {
        if (!(clip.source() instanceof SingleFile)) {
            return Optional.of("only an original in one file can be renamed");
        }
        if (name.equals(ending)) {
            return Optional.of("write a name");
        }
        if (!CopyFolder.safeName(name).equals(name)) {
            return Optional.of("not every system allows this name; " + CopyFolder.safeName(name) + " would do");
        }
        if (name.equals(String.valueOf(from.getFileName()))) {
            return Optional.of("it has this name already");
        }
        if (!Files.isRegularFile(from, LinkOption.NOFOLLOW_LINKS)) {
            return Optional.of("its file is not there");
        }
        boolean lettersOnly = name.equalsIgnoreCase(String.valueOf(from.getFileName()));
        return !lettersOnly && Files.exists(from.resolveSibling(name), LinkOption.NOFOLLOW_LINKS)
                ? Optional.of("there is a file of this name already")
                : Optional.empty();
    }
}
