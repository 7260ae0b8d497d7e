package docksort.stock;

import docksort.files.Mounts;
import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.ClosedWatchServiceException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardWatchEventKinds;
import java.nio.file.WatchKey;
import java.nio.file.WatchService;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.TimeUnit;

/// Tells when files come, go or change in the folders that originals and copies lie in, once it has been
/// quiet there for a moment. Where the system reports nothing, as on many network volumes, only a look by
/// hand finds it.
public final class StockWatch implements AutoCloseable {
    private static final int MOST_FOLDERS = 4_000; // systems limit how many one program may watch
    private static final long QUIET_MILLIS = 700;

    private final WatchService service;
    private final Map<Path, WatchKey> keys = new HashMap<>();
    private final Runnable changed;

    /// @param changed called on a thread of its own
    public StockWatch(Runnable changed) {
        this.changed = changed;
        try {
            service = FileSystems.getDefault().newWatchService();
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "Folders cannot be watched",
                            Causes.inWords(e),
                            "Everything else works.",
                            "Look at the disk again by hand."),
                    e);
        }
        Thread.ofPlatform().daemon().name("stock-watch").start(this::watch);
    }

    /// Watches these folders and no others from now on, and the folders they lie in, where a volume comes
    /// back.
    public synchronized void folders(Set<Path> wanted) {
        Set<Path> all = new HashSet<>();
        wanted.stream().limit(MOST_FOLDERS / 2).forEach(folder -> {
            all.add(folder);
            Path above = folder.getParent();
            if (above != null) {
                all.add(above);
            }
        });
        keys.entrySet().removeIf(entry -> {
            boolean gone = !all.contains(entry.getKey()) || !entry.getValue().isValid();
            if (gone) {
                entry.getValue().cancel();
            }
            return gone;
        });
        for (Path folder : all) {
            if (!keys.containsKey(folder) && Mounts.HERE.answers(folder) && Files.isDirectory(folder)) {
                try {
                    keys.put(
                            folder,
                            folder.register(
                                    service,
                                    StandardWatchEventKinds.ENTRY_CREATE,
                                    StandardWatchEventKinds.ENTRY_DELETE,
                                    StandardWatchEventKinds.ENTRY_MODIFY));
                } catch (IOException | ClosedWatchServiceException e) {
                    System.getLogger(StockWatch.class.getName())
                            .log(System.Logger.Level.DEBUG, "not watched: " + folder, e);
                }
            }
        }
    }

    private void watch() {
        try {
            while (true) {
                WatchKey key = service.take();
                while (key != null) {
                    key.pollEvents();
                    key.reset();
                    key = service.poll(QUIET_MILLIS, TimeUnit.MILLISECONDS);
                }
                changed.run();
            }
        } catch (ClosedWatchServiceException e) {
            return; // closed
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Override
    public void close() {
        try {
            service.close();
        } catch (IOException e) {
            System.getLogger(StockWatch.class.getName()).log(System.Logger.Level.DEBUG, "watch not closed", e);
        }
    }
}
