package docksort.desktop.workshop;

import docksort.catalogue.Overheard;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.Executor;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// Whether the database of a shared project answers, and what others change in it. While it does not, the window
/// goes on showing what it last read.
public final class SharedWatch implements Overheard.Listener {
    private final ProjectThread thread;
    private final ViewFeed feed;
    private final Troubles troubles;
    private final Executor window;
    private final ReadOnlyObjectWrapper<Optional<Outage>> outage = new ReadOnlyObjectWrapper<>(Optional.empty());
    private volatile boolean away; // for other threads than the window's

    SharedWatch(ProjectThread thread, ViewFeed feed, Troubles troubles, Executor window) {
        this.thread = thread;
        this.feed = feed;
        this.troubles = troubles;
        this.window = window;
    }

    /// @param since when it was noticed that it does not answer
    /// @param why in the words of who should know it
    public record Outage(Instant since, String why) {}

    /// Empty while it answers. Set and read on the window's thread.
    public ReadOnlyObjectProperty<Optional<Outage>> outage() {
        return outage.getReadOnlyProperty();
    }

    boolean isAway() {
        return away;
    }

    @Override
    public void heard() {
        feed.reloadForOthers();
    }

    @Override
    public void away(String why) {
        away = true;
        var now = new Outage(Instant.now(), why);
        window.execute(() -> outage.set(Optional.of(now)));
    }

    @Override
    public void back() {
        away = false;
        window.execute(() -> outage.set(Optional.empty()));
        troubles.putAwayOutage();
        thread.step(() -> feed.reload(true));
    }
}
