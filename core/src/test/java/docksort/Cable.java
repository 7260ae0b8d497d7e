package docksort;

import docksort.catalogue.SharedAddress;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// The network between a program and the test's PostgreSQL, which can be pulled out and put back, and be cut at the
/// moment in which a change is kept.
public final class Cable implements AutoCloseable {
    /// When it is cut by itself, once.
    public enum Cut {
        NEVER,
        /// The server never hears that the change is to be kept.
        BEFORE_COMMIT,
        /// The server keeps the change, and nobody hears of it.
        AFTER_COMMIT
    }

    private final ServerSocket here;
    private final int server;
    private final Set<Socket> sockets = ConcurrentHashMap.newKeySet();
    private final AtomicReference<Cut> cut = new AtomicReference<>(Cut.NEVER);
    private final AtomicInteger left = new AtomicInteger(-1);
    private volatile boolean out;

    public Cable(SharedAddress to) {
        try {
            here = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        String host = to.hosts().getFirst();
        server = Integer.parseInt(host.substring(host.lastIndexOf(':') + 1));
        Thread.ofVirtual().start(this::accept);
    }

    /// The same schema by way of this cable. A connection that cannot be had is given up after a second.
    public SharedAddress address(SharedAddress to) {
        return SharedAddress.parse(
                "postgresql://" + to.user() + "@localhost:" + here.getLocalPort() + "/" + to.database()
                        + "?connect_timeout=1",
                to.schema());
    }

    public void cutAt(Cut when) {
        cut.set(when);
    }

    /// All connections break instead of one of the next questions.
    public void breakAfter(int questions) {
        left.set(questions);
    }

    /// How many questions are left until then; below zero when it took place.
    public int left() {
        return left.get();
    }

    /// All connections break, and there are no new ones until it is put in again.
    public void pullOut() {
        out = true;
        breakAll();
    }

    public void putIn() {
        out = false;
    }

    /// All connections break.
    public void breakAll() {
        sockets.forEach(Cable::close);
    }

    private static void log(IOException e) {
        System.getLogger(Cable.class.getName()).log(System.Logger.Level.DEBUG, "a connection ended", e);
    }

    private static void close(Socket socket) {
        try {
            socket.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private void accept() {
        while (!here.isClosed()) {
            try {
                Socket from = here.accept();
                if (out) {
                    from.close();
                    continue;
                }
                Socket to = new Socket(InetAddress.getLoopbackAddress(), server);
                sockets.add(from);
                sockets.add(to);
                if (out) { // pulled out since it was looked at
                    breakAll();
                }
                Thread.ofVirtual().start(() -> carry(from, to, true));
                Thread.ofVirtual().start(() -> carry(to, from, false));
            } catch (IOException e) {
                log(e); // closed, by the test or by the other side: who is connected notices it
            }
        }
    }

    /// Finds the end of transactions in what a driver asks (PostgreSQL documentation, 54.7 Message Formats): by its
    /// words, or by the name that it was once prepared under.
    private static final class Commits {
        private static final Pattern PREPARED = Pattern.compile("(S_\\d+)\0COMMIT\0");
        private String name = "none";

        boolean isIn(String asked) {
            Matcher prepared = PREPARED.matcher(asked);
            if (prepared.find()) {
                name = prepared.group(1);
            }
            return asked.contains("COMMIT") || asked.contains("\0" + name + "\0");
        }
    }

    private void carry(Socket from, Socket to, boolean asks) {
        var bytes = new byte[65_536];
        var commits = new Commits();
        boolean silent = false;
        try (from;
                to) {
            for (int read = from.getInputStream().read(bytes);
                    read > 0;
                    read = from.getInputStream().read(bytes)) {
                if (asks && left.getAndDecrement() == 0) {
                    breakAll();
                    return;
                }
                boolean commit = asks && commits.isIn(new String(bytes, 0, read, StandardCharsets.ISO_8859_1));
                if (commit && cut.compareAndSet(Cut.BEFORE_COMMIT, Cut.NEVER)) {
                    return;
                }
                if (commit && cut.compareAndSet(Cut.AFTER_COMMIT, Cut.NEVER)) {
                    silent = true;
                }
                to.getOutputStream().write(bytes, 0, read);
                to.getOutputStream().flush();
                if (silent) {
                    from.close(); // nothing of the answer arrives
                    to.getInputStream().read(); // the server has kept it once it answers, or saw the end
                    return;
                }
            }
        } catch (IOException e) {
            log(e); // the other direction, or the test, has closed it
        } finally {
            sockets.remove(from);
            sockets.remove(to);
        }
    }

    @Override
    public void close() {
        try {
            here.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        breakAll();
    }
}
