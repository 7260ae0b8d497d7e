package docksort.desktop.workshop;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executor;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// Clips of the arrivals that are being looked into, before they are part of the project.
final class Incoming {
    private static final int FILL_MILLIS = 400;

    private final Executor window;
    private final ObservableList<Clip> shown = FXCollections.observableArrayList();
    private final List<Clip> waiting = new ArrayList<>(); // its own lock

    Incoming(Executor window) {
        this.window = window;
    }

    /// Changes on the window's thread.
    ObservableList<Clip> shown() {
        return shown;
    }

    /// Some at a time: filling the list anew for each of ten thousand clips would stop the window.
    void add(Clip clip) {
        synchronized (waiting) {
            waiting.add(clip);
            if (waiting.size() > 1) {
                return;
            }
        }
        CompletableFuture.delayedExecutor(FILL_MILLIS, TimeUnit.MILLISECONDS, window)
                .execute(() -> {
                    synchronized (waiting) {
                        shown.addAll(waiting);
                        waiting.clear();
                    }
                });
    }

    /// Leaves out what is part of the project by now. On the window's thread.
    void leave(Set<ClipId> known) {
        synchronized (waiting) {
            waiting.removeIf(clip -> known.contains(clip.id()));
        }
        shown.removeIf(clip -> known.contains(clip.id()));
    }

    /// Nothing is looked into any more. On the window's thread.
    void clear() {
        leave(ids(shown));
        synchronized (waiting) {
            waiting.clear();
        }
    }

    static Set<ClipId> ids(Collection<Clip> clips) {
        return clips.stream().map(Clip::id).collect(Collectors.toSet());
    }
}
