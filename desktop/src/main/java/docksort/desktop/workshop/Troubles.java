package docksort.desktop.workshop;

import docksort.problem.CoreException;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.problem.Faults;
import docksort.problem.Problem;
import java.util.Optional;
import java.util.concurrent.Executor;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;

/// What went wrong last on any thread, until it is put away.
public final class Troubles {
    private final Executor window;
    private final ObjectProperty<Optional<Problem>> latest = new SimpleObjectProperty<>(Optional.empty());
    private final Runnable deaf;
    private Optional<Problem> outage = Optional.empty(); // the last one; the window's thread only

    Troubles(Executor window) {
        this.window = window;
        this.deaf = Faults.listen(this::show);
    }

    /// Set and read on the window's thread.
    public ObjectProperty<Optional<Problem>> latest() {
        return latest;
    }

    public void show(Problem what) {
        window.execute(() -> latest.set(Optional.of(what)));
    }

    /// What was told of a database that did not answer says nothing any more.
    void putAwayOutage() {
        window.execute(() -> {
            if (latest.get().equals(outage)) {
                latest.set(Optional.empty());
            }
        });
    }

    /// A known problem is shown; any other fault goes into the log as well.
    void tell(Throwable fault) {
        if (fault instanceof CatalogueUnavailable unavailable) {
            Problem what = unavailable.problem();
            window.execute(() -> {
                outage = Optional.of(what);
                latest.set(outage);
            });
        } else if (fault instanceof CoreException known) {
            show(known.problem());
        } else {
            Faults.tell(fault);
        }
    }

    void close() {
        deaf.run();
    }
}
