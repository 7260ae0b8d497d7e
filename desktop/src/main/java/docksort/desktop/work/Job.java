package docksort.desktop.work;

import docksort.engine.Cancellation;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// One piece of work that a person asked for. It ends by itself, when a person stops it, or with the
/// window. Used on the window's thread.
public final class Job {
    /// Where it stands.
    public enum State {
        GOING,
        STOPPING,
        DONE,
        STOPPED,
        /// It broke down; what happened was told.
        FAILED;

        public boolean isOver() {
            return this == DONE || this == STOPPED || this == FAILED;
        }
    }

    /// How far it is.
    ///
    /// @param all 0 where it is not known
    public record Progress(int done, int all) {
        static final Progress NONE = new Progress(0, 0);
    }

    private final String what;
    private final String unit;
    private final Cancellation cancellation = new Cancellation();
    private final Runnable putAway;
    private final ReadOnlyObjectWrapper<State> state = new ReadOnlyObjectWrapper<>(State.GOING);
    private final ReadOnlyObjectWrapper<Progress> progress = new ReadOnlyObjectWrapper<>(Progress.NONE);
    private final AtomicBoolean told = new AtomicBoolean();
    private volatile Progress heard = Progress.NONE;
    private Optional<Runnable> show = Optional.empty();

    /// @param putAway takes it out of the list
    Job(String what, String unit, Consumer<Job> putAway) {
        this.what = what;
        this.unit = unit;
        this.putAway = () -> putAway.accept(this);
    }

    /// What is done, for instance "Searching Moved".
    public String what() {
        return what;
    }

    /// Of the figures of the progress, empty for pieces.
    public String unit() {
        return unit;
    }

    public ReadOnlyObjectProperty<State> state() {
        return state.getReadOnlyProperty();
    }

    public ReadOnlyObjectProperty<Progress> progress() {
        return progress.getReadOnlyProperty();
    }

    /// Ends it before its end. It goes on until what it is at can be left.
    public void stop() {
        if (!state.get().isOver()) {
            state.set(State.STOPPING);
            cancellation.cancel();
        }
    }

    /// Keeps it listed after its end until what came of it was seen.
    ///
    /// @param page shows what came of it
    public void shownBy(Runnable page) {
        show = Optional.of(page);
    }

    /// What shows what came of it, where that is somewhere else.
    public Optional<Runnable> show() {
        return show;
    }

    /// Takes it out of the list, when it is over.
    public void seen() {
        if (state.get().isOver()) {
            putAway.run();
        }
    }

    Cancellation cancellation() {
        return cancellation;
    }

    /// Hears how far the work is, on any thread.
    ///
    /// @return whether the window is to be told: however often it is heard, one look at a time is enough
    boolean hears(int done, int all) {
        heard = new Progress(done, all);
        return !told.getAndSet(true);
    }

    void tellProgress() {
        told.set(false);
        if (!state.get().isOver()) {
            progress.set(heard);
        }
    }

    void over(State end) {
        state.set(end);
        if (show.isEmpty() || end == State.STOPPED) { // who stopped it knows
            seen();
        }
    }
}
