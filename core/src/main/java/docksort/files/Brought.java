package docksort.files;

import java.nio.file.Path;
import java.util.List;

/// What of a card was copied where.
///
/// @param folders the card's folder at each place
/// @param lists the lists of checksums beside what was copied
public record Brought(TreeCopy.Outcome outcome, List<Path> folders, List<Path> lists) {
    public Brought {
        folders = List.copyOf(folders);
        lists = List.copyOf(lists);
    }
}
