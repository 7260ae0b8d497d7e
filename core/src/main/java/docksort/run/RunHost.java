package docksort.run;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.files.CopyFolder;
import docksort.media.ClipFacts;
import docksort.media.CopyForm;
import docksort.sort.Circumstances;
import docksort.sort.Recipe;
import java.util.Optional;

/// What a run asks of the project it belongs to. Called from worker threads.
public interface RunHost {
    Optional<Recipe> recipe(String id);

    Circumstances circumstances();

    /// The folder that a copy's file lies below.
    CopyFolder folder(WorkingCopy copy, Clip clip);

    /// Hears of a copy that was made and checked.
    ///
    /// @param seconds how long making it took, less the share of the copies that were made beside it
    void made(WorkingCopy copy, Clip clip, CopyForm form, ClipFacts facts, double seconds);
}
