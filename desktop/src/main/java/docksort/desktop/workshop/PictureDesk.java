package docksort.desktop.workshop;

import docksort.arrival.Clip;
import docksort.engine.MediaEngine;
import docksort.files.PictureShelf;
import docksort.media.Rational;
import docksort.problem.CoreException;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.function.Function;

/// Small pictures of clips, from the shelf where they were made before.
public final class PictureDesk {
    private final MediaEngine engine;
    private final ProjectThread thread;
    private final PictureShelf shelf = PictureShelf.ofUser();

    PictureDesk(MediaEngine engine, ProjectThread thread) {
        this.engine = engine;
        this.thread = thread;
    }

    /// @param place 0 for the clip's start, 1 for its end
    /// @param drawn makes something to show of it, off the window's thread
    public <T> CompletableFuture<Optional<T>> at(Clip clip, Rational place, int width, Function<byte[], T> drawn) {
        return thread.answered(() -> {
            try {
                return bytes(clip, place, width).map(drawn);
            } catch (CoreException e) {
                return Optional.empty(); // a clip without a picture; what ails it is told with its facts
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return Optional.empty();
            }
        });
    }

    private Optional<byte[]> bytes(Clip clip, Rational place, int width) throws InterruptedException {
        String name = clip.fingerprint() + "-" + place.toString().replace('/', '-') + "-" + width;
        Optional<byte[]> kept = shelf.get(name);
        if (kept.isPresent()) {
            return kept;
        }
        Optional<byte[]> made =
                engine.picture(clip.source(), clip.facts().seconds().times(place), width);
        made.ifPresent(bytes -> shelf.put(name, bytes));
        return made;
    }
}
