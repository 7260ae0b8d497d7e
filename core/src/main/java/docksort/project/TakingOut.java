package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.Unreadable;
import docksort.catalogue.Catalogue;
import docksort.catalogue.TakenOut.Hanging;
import docksort.files.ExclusiveLock;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// Taking out of the project what came in by mistake, with all that hangs on it. Nothing on a disk is
/// touched, and undo takes it back.
public final class TakingOut {
    private final Catalogue catalogue;
    private final Path runLock;

    TakingOut(Catalogue catalogue, Path runLock) {
        this.catalogue = catalogue;
        this.runLock = runLock;
    }

    /// What would go with an arrival.
    public Hanging hangingOn(Arrival arrival) {
        return catalogue.takenOut().hangingOn(arrival.id());
    }

    /// What would go with clips and files that cannot be read.
    public Hanging hangingOn(List<Clip> clips, List<Unreadable> files) {
        Hanging hanging = catalogue.takenOut().hangingOn(ids(clips));
        return new Hanging(
                hanging.clips(),
                files.size(),
                hanging.copies(),
                hanging.wanted(),
                hanging.choices(),
                hanging.pins(),
                hanging.used());
    }

    private static List<ClipId> ids(List<Clip> clips) {
        return clips.stream().map(Clip::id).toList();
    }

    /// @throws InputRefused while a run may be making copies of it
    public Hanging takeOut(Arrival arrival) {
        Hanging hanging = hangingOn(arrival);
        String what = "Took out " + arrival.name() + " (clips: " + hanging.clips() + ", copies: " + hanging.copies()
                + "); all files stay";
        whileNothingRuns(arrival.name(), hanging, () -> catalogue.takenOut().takeOut(arrival, what));
        return hanging;
    }

    /// @throws InputRefused while a run may be making copies of them
    public Hanging takeOut(List<Clip> clips, List<Unreadable> files) {
        Hanging hanging = hangingOn(clips, files);
        String name = nameOf(clips, files);
        if (!clips.isEmpty() || !files.isEmpty()) {
            whileNothingRuns(
                    name,
                    hanging,
                    () -> catalogue
                            .takenOut()
                            .takeOut(
                                    ids(clips),
                                    files,
                                    catalogue.roots().all(),
                                    "Took out " + name + " (copies: " + hanging.copies() + "); all files stay"));
        }
        return hanging;
    }

    private static String nameOf(List<Clip> clips, List<Unreadable> files) {
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

    private void whileNothingRuns(String name, Hanging hanging, Runnable takeOut) {
        Optional<ExclusiveLock> notRunning = hanging.wanted() == 0 ? Optional.empty() : ExclusiveLock.tryOn(runLock);
        if (hanging.wanted() > 0 && notRunning.isEmpty()) {
            throw new InputRefused(new Problem(
                    name + " was not taken out",
                    "the run is making copies of it",
                    "Nothing was changed.",
                    "Stop the run, or let it come to its end, then try again."));
        }
        try {
            takeOut.run();
        } finally {
            notRunning.ifPresent(ExclusiveLock::close);
        }
    }
}
