package docksort.engine;

import java.io.File;
import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.TimeUnit;

/// Holds the engine's children still and lets them go on, without losing what they have done. Safe for use by
/// several threads; asking is never kept waiting by the signals.
///
/// It stops them with the signals that POSIX has for it (SIGSTOP, SIGCONT). Where there are none, children run
/// on, and only nothing new is begun by whoever asks [#isOn].
public final class Brake {
    private static final boolean SIGNALS = File.separatorChar == '/';

    private final Object signals = new Object(); // taken before the state's lock: signals keep their order
    private final Object state = new Object();
    private final Set<Long> children = new HashSet<>();
    private boolean on;
    private long sinceNanos;
    private long heldNanos;

    /// Holds all, or lets all go on.
    public void set(boolean hold) {
        synchronized (signals) {
            List<Long> all;
            synchronized (state) {
                if (hold == on) {
                    return;
                }
                on = hold;
                if (hold) {
                    sinceNanos = System.nanoTime();
                } else {
                    heldNanos += System.nanoTime() - sinceNanos;
                }
                all = List.copyOf(children);
            }
            all.forEach(child -> signal(child, hold));
        }
    }

    public boolean isOn() {
        synchronized (state) {
            return on;
        }
    }

    /// How long it has been on, all times together.
    public long heldNanos() {
        synchronized (state) {
            return heldNanos + (on ? System.nanoTime() - sinceNanos : 0);
        }
    }

    void add(long child) {
        synchronized (signals) {
            synchronized (state) {
                children.add(child);
            }
            if (isOn()) {
                signal(child, true);
            }
        }
    }

    void remove(long child) {
        synchronized (state) {
            children.remove(child);
        }
    }

    /// Lets one child go on, so that it can end.
    void letEnd(long child) {
        synchronized (signals) {
            boolean stopped;
            synchronized (state) {
                stopped = children.remove(child) && on;
            }
            if (stopped) {
                signal(child, false);
            }
        }
    }

    private static void signal(long child, boolean hold) {
        if (!SIGNALS) {
            return;
        }
        try {
            Process kill = new ProcessBuilder("/bin/sh", "-c", "kill -" + (hold ? "STOP" : "CONT") + " " + child)
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
            kill.waitFor(5, TimeUnit.SECONDS);
        } catch (IOException e) {
            // It runs on, as on a system without these signals.
            System.getLogger(Brake.class.getName()).log(System.Logger.Level.WARNING, "cannot signal " + child, e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
