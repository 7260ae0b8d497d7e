package docksort.link;

import docksort.arrival.SameScene;
import docksort.engine.Cancellation;
import docksort.engine.ProcessControl;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.VideoFacts;
import docksort.run.PictureCheck;
import java.nio.file.Files;
import java.util.List;

/// Compares pictures of two recordings at the places that the check of a copy looks at. What another program drew into
/// one of them, or how it graded it, makes it no other clip.
public final class SamePictures implements SameScene {
    private final PictureCheck pictures;
    private final Cancellation cancellation;

    public SamePictures(PictureCheck pictures, Cancellation cancellation) {
        this.pictures = pictures;
        this.cancellation = cancellation;
    }

    @Override
    public boolean shows(ClipSource original, ClipFacts originalFacts, ClipSource small, ClipFacts smallFacts)
            throws InterruptedException {
        VideoFacts full = originalFacts.video().orElseThrow();
        VideoFacts light = smallFacts.video().orElseThrow();
        if (!Files.exists(original.head())) {
            return false;
        }
        var form = Likeness.form(full, light);
        var reference = pictures.reference(original, full, List.of(form), List.of());
        return pictures.shows(reference, form, small, light.frames(), ProcessControl.of(cancellation))
                .orElse(false);
    }
}
