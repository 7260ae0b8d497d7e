package docksort.project;

import docksort.arrival.Clip;
import docksort.arrival.Unreadable;
import docksort.files.ExclusiveLock;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// Changes what waits in the queue only while no run works on it.
final class IdleQueue {
    private final Path runLock;

    IdleQueue(Path runLock) {
        this.runLock = runLock;
    }

    /// @param done what is done with it, for instance "taken out"
    /// @param queued how many of its copies wait; none needs no queue
    /// @throws InputRefused while a run may be making them
    void during(String name, String done, int queued, Runnable change) {
        Optional<ExclusiveLock> idle = queued == 0 ? Optional.empty() : ExclusiveLock.tryOn(runLock);
        if (queued > 0 && idle.isEmpty()) {
            throw new InputRefused(new Problem(
                    name + " was not " + done,
                    "the run is making copies of it",
                    "Nothing was changed.",
                    "Stop the run, or let it come to its end, then try again."));
        }
        try {
            change.run();
        } finally {
            idle.ifPresent(ExclusiveLock::close);
        }
    }

    /// What clips and files are called together.
    static String nameOf(List<Clip> clips, List<Unreadable> files) {
        if (clips.size() + files.size() == 1) {
            return clips.isEmpty()
                    ? String.valueOf(files.getFirst().file().getFileName())
                    : clips.getFirst().name();
        }
        String names = clips.isEmpty() ? "" : clips.size() + (clips.size() == 1 ? " clip" : " clips");
        if (files.isEmpty()) {
            return names;
        }
        return (names.isEmpty() ? "" : names + " and ") + files.size() + " unreadable "
                + (files.size() == 1 ? "file" : "files");
    }
}
