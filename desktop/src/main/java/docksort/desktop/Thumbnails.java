package docksort.desktop;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.media.Rational;
import docksort.problem.Faults;
import java.io.ByteArrayInputStream;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.LinkedBlockingDeque;
import java.util.function.Consumer;
import javafx.application.Platform;
import javafx.scene.image.Image;

/// Small pictures of clips, made when they are first looked at, the latest ones kept. What was asked for
/// last is made first, because it is what is looked at now. Used on the interface thread.
public final class Thumbnails {
    private static final int KEPT = 300;
    private static final int WIDTH = 320;

    private final Workshop workshop;
    private final LinkedBlockingDeque<Runnable> wanted = new LinkedBlockingDeque<>();
    private final Map<Key, CompletableFuture<Optional<Image>>> known = new LinkedHashMap<>(KEPT, 0.75f, true) {
        private static final long serialVersionUID = 1;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Key, CompletableFuture<Optional<Image>>> eldest) {
            return size() > KEPT;
        }
    };

    private static final Rational USUAL = new Rational(1, 3);

    private record Key(ClipId clip, Rational place) {}

    public Thumbnails(Workshop workshop) {
        this.workshop = workshop;
        Thread.ofPlatform().daemon().name("thumbnails").start(this::work);
    }

    private void work() {
        try {
            while (true) {
                Runnable next = wanted.takeFirst();
                try {
                    next.run();
                } catch (RuntimeException e) {
                    Faults.tell(e); // the other pictures come all the same
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /// Hands over the picture at once where it is known, later otherwise, and never for a clip without one.
    public void of(Clip clip, Consumer<Image> taker) {
        at(clip, USUAL, taker);
    }

    /// The same for another place in the clip.
    ///
    /// @param place 0 for its start, 1 for its end
    public void at(Clip clip, Rational place, Consumer<Image> taker) {
        if (clip.facts().video().isEmpty()
                || clip.facts().findings().outOfReach().isPresent()) {
            return;
        }
        known.computeIfAbsent(new Key(clip.id(), place), _ -> ask(clip, place))
                .thenAccept(image -> image.ifPresent(taker));
    }

    /// Pictures that were asked for and are not there yet.
    int pending() {
        return (int) known.values().stream().filter(answer -> !answer.isDone()).count();
    }

    private CompletableFuture<Optional<Image>> ask(Clip clip, Rational place) {
        var answer = new CompletableFuture<Optional<Image>>();
        wanted.addFirst(() -> {
            Optional<Image> image = workshop.picture(clip, place, WIDTH)
                    .exceptionally(_ -> Optional.empty()) // the engine was closed meanwhile
                    .join()
                    .map(bytes -> new Image(new ByteArrayInputStream(bytes)));
            Platform.runLater(() -> answer.complete(image));
        });
        return answer;
    }
}
