package docksort.desktop.parts;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.desktop.workshop.PictureDesk;
import docksort.media.Rational;
import java.io.ByteArrayInputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SequencedMap;
import java.util.function.Consumer;
import javafx.application.Platform;
import javafx.scene.image.Image;

/// Small pictures of clips, made one at a time when they are looked at, the latest ones kept. What was
/// asked for last is made first, because it is what is looked at now; of what was asked for before, only
/// as much waits as one window shows. Used on the window's thread.
public final class Thumbnails {
    private static final int KEPT = 300;
    private static final int WAITING = 64;
    private static final int WIDTH = 320; // pixels

    private static final Rational USUAL = new Rational(1, 3);

    private record Key(ClipId clip, Rational place) {}

    /// A picture that is wanted, and by whom.
    private record Wanted(Clip clip, Rational place, List<Consumer<Optional<Image>>> takers) {}

    private final PictureDesk pictures;
    private final SequencedMap<Key, Wanted> wanted = new LinkedHashMap<>(); // the latest last
    private Optional<Key> inWork = Optional.empty();
    private final SequencedMap<Key, Optional<Image>> known = new LinkedHashMap<>(KEPT, 0.75f, true) {
        private static final long serialVersionUID = 1;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Key, Optional<Image>> eldest) {
            return size() > KEPT;
        }
    };

    public Thumbnails(PictureDesk pictures) {
        this.pictures = pictures;
    }

    /// Hands over the picture at once where it is known, later otherwise, and never for a clip without one.
    public void of(Clip clip, Consumer<Image> taker) {
        at(clip, USUAL, taker);
    }

    /// The same, with nothing where none could be made, for instance while the original is away.
    public void orNone(Clip clip, Consumer<Optional<Image>> taker) {
        ask(clip, USUAL, taker);
    }

    /// The same for another place in the clip.
    ///
    /// @param place 0 for its start, 1 for its end
    public void at(Clip clip, Rational place, Consumer<Image> taker) {
        ask(clip, place, image -> image.ifPresent(taker));
    }

    private void ask(Clip clip, Rational place, Consumer<Optional<Image>> taker) {
        if (clip.facts().video().isEmpty()
                || clip.facts().findings().outOfReach().isPresent()) {
            return;
        }
        var key = new Key(clip.id(), place);
        if (known.containsKey(key)) {
            taker.accept(known.getOrDefault(key, Optional.empty()));
            return;
        }
        Wanted asked = wanted.getOrDefault(key, new Wanted(clip, place, new ArrayList<>()));
        asked.takers.add(taker);
        wanted.putLast(key, asked);
        if (wanted.size() > WAITING) {
            wanted.pollFirstEntry(); // out of view for long; it is asked for again when it comes back
        }
        next();
    }

    /// Pictures that were asked for and are not there yet.
    public int pending() {
        return wanted.size();
    }

    private void next() {
        if (inWork.isPresent() || wanted.isEmpty()) {
            return;
        }
        Map.Entry<Key, Wanted> latest = wanted.lastEntry();
        inWork = Optional.of(latest.getKey());
        pictures.at(
                        latest.getValue().clip,
                        latest.getValue().place,
                        WIDTH,
                        bytes -> new Image(new ByteArrayInputStream(bytes)))
                .exceptionally(_ -> Optional.empty()) // was told; the others come all the same
                .thenAccept(image -> Platform.runLater(() -> arrived(latest.getKey(), image)));
    }

    private void arrived(Key key, Optional<Image> image) {
        inWork = Optional.empty();
        known.put(key, image);
        Optional.ofNullable(wanted.remove(key)).ifPresent(asked -> asked.takers.forEach(taker -> taker.accept(image)));
        next();
    }
}
