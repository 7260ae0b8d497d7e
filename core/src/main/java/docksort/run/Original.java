package docksort.run;

import docksort.run.CopyCheck.Finding;
import docksort.run.PictureCheck.Reference;
import java.util.List;
import java.util.Optional;

/// What the copies are held against, and what is told of it.
record Original(
        Optional<Reference> reference, Optional<SoundCheck.Reference> sound, List<Finding> told, boolean holes) {}
