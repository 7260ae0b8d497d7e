package docksort.run;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.files.CopyFolder;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.CopyForm;
import docksort.sort.Circumstances;
import docksort.sort.Recipe;
import java.nio.file.Path;
import java.util.Optional;

/// What a run asks of the project it belongs to. Called from worker threads.
public interface RunHost {
    Optional<Recipe> recipe(String id);

    Circumstances circumstances();

    /// Whether this workstation may make copies by a recipe: it may have been given others.
    boolean makes(String recipe);

    /// The folder of the arrival that a clip came with.
    Path sourceFolder(Clip clip);

    /// The root folder that a copy's file lies below.
    Path targetFolder(WorkingCopy copy, Clip clip);

    /// Why a folder for copies cannot be used now, though it could before: its volume is away, or it may
    /// not be written to.
    Optional<String> targetFault(Path folder);

    /// The same folder, made where it is missing, to write to.
    CopyFolder folder(WorkingCopy copy, Clip clip);

    /// The most that a copy may come to.
    ByteSize need(Clip clip, Recipe recipe, CopyForm form);

    /// Hears how much of a clip there is, where that was only stated or estimated before.
    void measured(Clip clip);

    /// Hears of a copy that was made and checked.
    ///
    /// @param seconds how long making it took, less the share of the copies that were made beside it; empty
    ///     where that tells nothing, because the run was held meanwhile
    void made(WorkingCopy copy, Clip clip, CopyForm form, ClipFacts facts, Optional<Double> seconds);
}
