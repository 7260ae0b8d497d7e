package docksort.run;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.engine.CopyCommand;
import docksort.engine.CopyOrder;
import docksort.media.CopyForm;
import docksort.sort.Recipe;
import java.nio.file.Path;

/// One copy, ready to be made.
record Job(WorkingCopy copy, Clip clip, Recipe recipe, CopyForm form) {
    CopyOrder order(Path output) {
        return new CopyOrder(clip.source(), clip.facts(), form, clip.name(), CopyTags.of(clip, copy, recipe), output);
    }

    /// Whether one pass over the clip makes both.
    boolean goesTogether(Job other) {
        return equals(other) || CopyCommand.goTogether(order(Path.of("")), other.order(Path.of("")));
    }
}
