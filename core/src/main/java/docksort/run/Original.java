package docksort.run;

import docksort.media.CopyForm;
import docksort.media.SoundMix;
import docksort.run.CopyCheck.Finding;
import docksort.run.PictureCheck.Reference;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// What the copies are held against, and what is told of it.
///
/// @param sounds by what copies make of the channels; none where there is no sound, or none that decodes
record Original(
        Optional<Reference> reference, Map<SoundMix, SoundCheck.Reference> sounds, List<Finding> told, boolean holes) {
    Optional<SoundCheck.Reference> sound(CopyForm form) {
        return Optional.ofNullable(sounds.get(form.sound().mix()));
    }
}
