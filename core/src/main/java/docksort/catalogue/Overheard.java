package docksort.catalogue;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.postgresql.PGConnection;

/// Hears that other programs wrote into a catalogue: a server says so, of a file its version is asked for four
/// times a second. What was written while a connection was broken is heard once it is back.
public final class Overheard implements AutoCloseable {
    private static final int FILE_MILLIS = 250;
    private static final int SERVER_MILLIS = 5_000;
    private static final int AGAIN_MILLIS = 1_000;
    private static final int BETWEEN_MILLIS = 50; // what comes meanwhile is heard together

    /// Opens a connection that is this listener's alone.
    interface Line {
        Connection open() throws SQLException;
    }

    /// Who wants to know. Called on a thread of its own.
    @FunctionalInterface
    public interface Listener {
        /// Others wrote, once for what came together.
        void heard();

        /// The catalogue does not answer any more.
        default void away(String why) {}

        /// It answers again.
        default void back() {}
    }

    private final Line line;
    private final String program;
    private final Listener listener;
    private final CountDownLatch end = new CountDownLatch(1);
    private final Thread thread;
    private volatile long last;
    private volatile boolean away;

    private Overheard(Line line, String program, Listener listener) {
        this.line = line;
        this.program = program;
        this.listener = listener;
        this.thread = Thread.ofPlatform().daemon().name("overheard").unstarted(this::listen);
    }

    /// Hears of everything that is written from now on, on a thread of its own.
    ///
    /// @param program the one whose own writing is not meant
    static Overheard begin(Line line, String program, Listener listener) {
        var overheard = new Overheard(line, program, listener);
        try (Connection connection = line.open()) {
            overheard.last = overheard.newest(connection);
        } catch (SQLException e) {
            overheard.away(e); // it is listened to once it answers
        }
        overheard.thread.start();
        return overheard;
    }

    private long newest(Connection connection) throws SQLException {
        try (Statement ask = connection.createStatement();
                ResultSet answer = ask.executeQuery("SELECT coalesce(max(id), 0) FROM written")) {
            answer.next();
            return answer.getLong(1);
        }
    }

    private void listen() {
        try {
            while (end.getCount() > 0) {
                try (Connection connection = line.open()) {
                    listen(connection);
                } catch (SQLException e) {
                    away(e);
                    end.await(AGAIN_MILLIS, TimeUnit.MILLISECONDS);
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void away(SQLException why) {
        if (!away && end.getCount() > 0) {
            away = true;
            System.getLogger(Overheard.class.getName())
                    .log(System.Logger.Level.WARNING, "cannot hear of others' changes", why);
            listener.away(String.valueOf(why.getMessage()).lines().findFirst().orElse(""));
        }
    }

    private void answers() {
        if (away) {
            away = false;
            listener.back();
        }
    }

    private void listen(Connection connection) throws SQLException, InterruptedException {
        boolean server = connection.isWrapperFor(PGConnection.class);
        if (server) {
            try (Statement statement = connection.createStatement()) {
                statement.execute("LISTEN \"" + connection.getSchema() + "\"");
            }
        }
        long version = server ? 0 : version(connection); // before the look: what comes between is looked at again
        look(connection); // what was written before somebody listened again
        answers();
        while (end.getCount() > 0) {
            if (server) {
                connection.unwrap(PGConnection.class).getNotifications(SERVER_MILLIS);
                look(connection);
                end.await(BETWEEN_MILLIS, TimeUnit.MILLISECONDS);
            } else {
                end.await(FILE_MILLIS, TimeUnit.MILLISECONDS);
                long now = version(connection);
                if (now != version) {
                    version = now;
                    look(connection);
                }
            }
        }
    }

    /// SQLite's counter of what other connections wrote (documentation of PRAGMA data_version).
    private static long version(Connection connection) throws SQLException {
        try (Statement ask = connection.createStatement();
                ResultSet answer = ask.executeQuery("PRAGMA data_version")) {
            answer.next();
            return answer.getLong(1);
        }
    }

    private void look(Connection connection) throws SQLException {
        long until = newest(connection);
        if (until == last) {
            return;
        }
        boolean others;
        try (var ask = connection.prepareStatement("SELECT 1 FROM written WHERE id > ? AND program <> ? LIMIT 1")) {
            ask.setLong(1, last);
            ask.setString(2, program);
            try (ResultSet answer = ask.executeQuery()) {
                others = answer.next();
            }
        }
        last = until;
        if (others && end.getCount() > 0) {
            listener.heard();
        }
    }

    @Override
    public void close() {
        end.countDown();
        thread.interrupt();
    }
}
