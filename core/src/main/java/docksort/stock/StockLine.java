package docksort.stock;

import docksort.arrival.Clip;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.sort.CopyKind;
import java.util.List;

/// One clip with all its copies and the file that serves it.
public record StockLine(Clip clip, Presence presence, List<WorkingCopy> copies, Served served) {
    public StockLine {
        copies = List.copyOf(copies);
    }

    /// Finished copies whose picture can be seen beside the original's; none while that is away.
    public List<WorkingCopy> copiesToSee() {
        boolean picture = presence.isOnline() && clip.facts().isDecodable();
        return copies.stream()
                .filter(copy -> picture && copy.state().serves() && copy.kind() != CopyKind.SOUND)
                .toList();
    }
}
