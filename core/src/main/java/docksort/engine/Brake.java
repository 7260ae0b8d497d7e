package docksort.engine;

import java.io.File;
import java.io.IOException;
import java.util.HashSet;
import java.util.Set;
import java.util.concurrent.TimeUnit;

/// Holds the engine's children still and lets them go on, without losing what they have done. Safe for use by
/// several threads.
///
/// It stops them with the signals that POSIX has for it (SIGSTOP, SIGCONT). Where there are none, children run
/// on, and only nothing new is begun by whoever asks [#isOn].
public final class Brake {
    private static final boolean SIGNALS = File.separatorChar == '/';

    private final Set<Long> children = new HashSet<>();
    private boolean on;
    private long sinceNanos;
    private long heldNanos;

    /// Holds all, or lets all go on.
    public synchronized void set(boolean hold) {
        if (hold == on) {
            return;
        }
        on = hold;
        if (hold) {
            sinceNanos = System.nanoTime();
        } else {
            heldNanos += System.nanoTime() - sinceNanos;
        }
        children.forEach(child -> signal(child, hold));
    }

    public synchronized boolean isOn() {
        return on;
    }

    /// How long it has been on, all times together.
    public synchronized long heldNanos() {
        return heldNanos + (on ? System.nanoTime() - sinceNanos : 0);
    }

    synchronized void add(long child) {
        children.add(child);
        if (on) {
            signal(child, true);
        }
    }

    synchronized void remove(long child) {
        children.remove(child);
    }

    /// Lets one child go on, so that it can end.
    synchronized void letEnd(long child) {
        if (children.remove(child) && on) {
            signal(child, false);
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
