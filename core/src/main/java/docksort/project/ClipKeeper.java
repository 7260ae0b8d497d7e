package docksort.project;

import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.arrival.Unreadable;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Root;
import java.util.ArrayList;
import java.util.List;

/// Keeps the clips of a scan in the catalogue while it goes on, some at a time, so that a scan that is broken off
/// has lost next to nothing.
final class ClipKeeper implements ScanListener {
    private static final int BATCH = 64;

    private final Catalogue catalogue;
    private final Root root;
    private final ScanListener next;
    private final List<Clip> waiting = new ArrayList<>();

    ClipKeeper(Catalogue catalogue, Root root, ScanListener next) {
        this.catalogue = catalogue;
        this.root = root;
        this.next = next;
    }

    @Override
    public void progress(int done, int all) {
        next.progress(done, all);
    }

    @Override
    public void clip(Clip clip) {
        List<Clip> due;
        synchronized (waiting) {
            waiting.add(clip);
            due = waiting.size() < BATCH ? List.of() : List.copyOf(waiting);
            if (!due.isEmpty()) {
                waiting.clear();
            }
        }
        if (!due.isEmpty()) {
            catalogue.clips().keep(due, root);
        }
        next.clip(clip);
    }

    void flush() {
        List<Clip> due;
        synchronized (waiting) {
            due = List.copyOf(waiting);
            waiting.clear();
        }
        if (!due.isEmpty()) {
            catalogue.clips().keep(due, root);
        }
    }

    @Override
    public void unreadable(Unreadable file) {
        next.unreadable(file);
    }
}
