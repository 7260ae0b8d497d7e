package docksort.desktop;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import java.io.ByteArrayInputStream;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import java.util.function.Consumer;
import javafx.application.Platform;
import javafx.scene.image.Image;

/// Small pictures of clips, made when they are first looked at, the latest ones kept. Used on the interface thread.
public final class Thumbnails {
    private static final int KEPT = 300;
    private static final int WIDTH = 320;

    private final Workshop workshop;
    private final Semaphore decoders = new Semaphore(1);
    private final Map<ClipId, Optional<Image>> known = new LinkedHashMap<>(KEPT, 0.75f, true) {
        private static final long serialVersionUID = 1;

        @Override
        protected boolean removeEldestEntry(Map.Entry<ClipId, Optional<Image>> eldest) {
            return size() > KEPT;
        }
    };

    public Thumbnails(Workshop workshop) {
        this.workshop = workshop;
    }

    /// Hands over the picture at once where it is known, later otherwise, and never for a clip without one.
    public void of(Clip clip, Consumer<Image> taker) {
        Optional<Image> image = known.get(clip.id());
        if (image != null) {
            image.ifPresent(taker);
            return;
        }
        if (clip.facts().video().isEmpty()) {
            return;
        }
        known.put(clip.id(), Optional.empty());
        Thread.ofVirtual().start(() -> {
            decoders.acquireUninterruptibly();
            try {
                Optional<Image> made =
                        workshop.picture(clip, WIDTH).join().map(bytes -> new Image(new ByteArrayInputStream(bytes)));
                Platform.runLater(() -> {
                    known.put(clip.id(), made);
                    made.ifPresent(taker);
                });
            } finally {
                decoders.release();
            }
        });
    }
}
