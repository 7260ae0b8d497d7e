package docksort.stock;

import docksort.arrival.Clip;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import java.util.List;

/// One clip with all its copies and the file that serves it.
public record StockLine(Clip clip, Presence presence, List<WorkingCopy> copies, Served served) {
    public StockLine {
        copies = List.copyOf(copies);
    }
}
