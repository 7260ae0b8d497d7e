package docksort.desktop.workshop;

import docksort.catalogue.WorkingCopy;
import docksort.run.CopyProgress;
import docksort.run.RunSnapshot;
import docksort.stock.StockLine;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// What the project's queue holds while no run goes on here: others put it there, or make it, or a run left it.
final class Queued {
    private Queued() {}

    /// @param over the run that was here last
    /// @return its copies as they are now, and behind them what waits or is made elsewhere
    static RunSnapshot beside(RunSnapshot over, List<StockLine> stock) {
        Map<String, CopyProgress> own = over.copies().stream()
                .collect(Collectors.toMap(row -> row.copy().id(), row -> row, (first, _) -> first));
        Map<String, WorkingCopy> now = new HashMap<>();
        var others = new ArrayList<CopyProgress>();
        for (StockLine line : stock) {
            for (WorkingCopy copy : line.copies()) {
                if (own.containsKey(copy.id())) {
                    now.put(copy.id(), copy);
                } else if (copy.state().isQueued()) {
                    others.add(CopyProgress.before(copy, Optional.of(line.clip())));
                }
            }
        }
        others.sort(Comparator.comparingLong(row -> row.copy().position()));
        var all = new ArrayList<CopyProgress>();
        for (CopyProgress row : over.copies()) {
            if (!row.copy().state().isQueued()) {
                all.add(row); // what the run knows of it is never older than the view
            } else {
                // Made elsewhere since; one that was taken out of the queue is gone.
                Optional.ofNullable(now.get(row.copy().id())).map(row::asItIs).ifPresent(all::add);
            }
        }
        all.addAll(others);
        return over.with(all);
    }
}
