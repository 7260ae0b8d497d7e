package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;

/// Gives files other names in their folders, all of them or none. They go by names that nobody else uses first,
/// so that two may exchange theirs.
public final class Renames {
    private Renames() {}

    /// @param names the file that each gets to be, in the same folder
    /// @throws StorageFailed when one cannot be renamed or a name is taken; all files have their old names then
    public static void carryOut(Map<Path, Path> names) {
        refuse(names);
        var undo = new ArrayList<Map.Entry<Path, Path>>();
        var halfway = new LinkedHashMap<Path, Path>();
        try {
            for (Map.Entry<Path, Path> entry : names.entrySet()) {
                Path aside = entry.getKey().resolveSibling(".renaming-" + UUID.randomUUID());
                Files.move(entry.getKey(), aside, StandardCopyOption.ATOMIC_MOVE);
                undo.add(Map.entry(aside, entry.getKey()));
                halfway.put(aside, entry.getValue());
            }
            for (Map.Entry<Path, Path> entry : halfway.entrySet()) {
                // Not replacing: what came in between keeps its name, and everything goes back.
                Files.move(entry.getKey(), entry.getValue());
                undo.add(Map.entry(entry.getValue(), entry.getKey()));
            }
        } catch (IOException e) {
            List<String> lost = back(undo);
            throw new StorageFailed(
                    new Problem(
                            "The files were not renamed",
                            Causes.inWords(e),
                            lost.isEmpty()
                                    ? "All of them have the names they had."
                                    : "These could not get their names back: " + String.join(", ", lost),
                            "Check the folder's permissions, then try again."),
                    e);
        }
    }

    private static List<String> back(List<Map.Entry<Path, Path>> undo) {
        var lost = new ArrayList<String>();
        for (Map.Entry<Path, Path> entry : undo.reversed()) {
            try {
                Files.move(entry.getKey(), entry.getValue());
            } catch (IOException e) {
                lost.add(entry.getKey() + " (" + Causes.inWords(e) + ")");
            }
        }
        return lost;
    }

    private static void refuse(Map<Path, Path> names) {
        Set<Path> targets = new HashSet<>();
        names.forEach((from, to) -> {
            boolean stays = String.valueOf(from.getParent()).equals(String.valueOf(to.getParent()));
            boolean taken = Files.exists(to, LinkOption.NOFOLLOW_LINKS) && !names.containsKey(to);
            if (!stays || taken || !targets.add(to)) {
                throw new StorageFailed(new Problem(
                        "The files were not renamed",
                        !stays ? to + " is in another folder" : to + " is taken",
                        "All of them have the names they had.",
                        "Choose another pattern."));
            }
        });
    }
}
