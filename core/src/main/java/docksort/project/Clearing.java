package docksort.project;

import docksort.arrival.Arrival;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.files.CopyRemoval;
import docksort.files.Trash;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.run.CopyTags;
import docksort.stock.CleanUp;
import docksort.stock.Limits;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/// Room that copies take, and what gives it back.
public final class Clearing {
    static final String LIMITS = "limits";

    private final Catalogue catalogue;
    private final Inspector inspector;

    Clearing(Catalogue catalogue, Inspector inspector) {
        this.catalogue = catalogue;
        this.inspector = inspector;
    }

    private Map<String, Path> rootPaths() {
        return catalogue.roots().all().stream().collect(Collectors.toMap(Root::id, Root::path));
    }

    private CopyRemoval removal() {
        List<Path> originals = catalogue.clips().all().stream()
                .flatMap(clip -> clip.source().files().stream())
                .toList();
        return new CopyRemoval(
                catalogue.arrivals().all().stream().map(Arrival::folder).toList(), originals);
    }

    /// The standing rules for the room that copies take.
    public Limits limits() {
        return catalogue.settings().get(LIMITS).map(Limits::parse).orElse(Limits.NONE);
    }

    /// Sets those rules; Undo takes it back. Nothing is deleted by that.
    public void limit(Limits limits) {
        catalogue.settings().change(LIMITS, limits.text(), "Limits for copies: " + limits.label());
    }

    /// Says what deleting copies would do. Nothing is changed.
    public CleanUp cleanUp(List<WorkingCopy> copies) {
        return CleanUp.plan(copies, rootPaths(), removal(), this::says);
    }

    private Map<String, String> says(Path file) {
        Map<String, String> beside = CopyTags.read(CopyTags.besides(file));
        if (!beside.isEmpty()) {
            return beside;
        }
        try {
            return inspector.inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation())
                            instanceof Inspection.Known known
                    ? known.facts().tags()
                    : Map.of();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Map.of();
        }
    }

    /// Deletes what a look said may go.
    ///
    /// @param trash empty to delete for good
    public CopyRemoval.Outcome carryOut(CleanUp cleanUp, Optional<Trash> trash) {
        CopyRemoval.Outcome outcome = removal().remove(cleanUp.removables(rootPaths()), trash);
        Set<Path> gone = Set.copyOf(outcome.gone());
        List<WorkingCopy> copies = cleanUp.going().stream()
                .map(CleanUp.Line::copy)
                .filter(copy -> gone.contains(copy.file()))
                .toList();
        if (!copies.isEmpty()) {
            String how = trash.isPresent() ? " copies moved to the trash, " : " copies deleted, ";
            catalogue.copyChanges().deleted(copies, copies.size() + how + cleanUp.bytes());
        }
        return outcome;
    }

    /// Takes copies out of the catalogue; their files stay.
    public void forget(List<WorkingCopy> copies) {
        List<WorkingCopy> idle = copies.stream()
                .filter(copy -> copy.state() != CopyState.MAKING && copy.state() != CopyState.CHECKING)
                .toList();
        catalogue.copyChanges().forget(idle, "Forgot " + idle.size() + " copies; their files stay");
    }

    /// Keeps copies without letting them serve, or lets them serve again.
    public void stopUsing(List<WorkingCopy> copies, boolean stopped) {
        catalogue
                .copyChanges()
                .stop(
                        copies,
                        stopped,
                        (stopped ? "Stopped using " : "Using again: ")
                                + (copies.size() == 1 ? "1 copy" : copies.size() + " copies"));
    }
}
