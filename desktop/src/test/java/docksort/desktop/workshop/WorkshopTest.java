package docksort.desktop.workshop;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.PostgresServer;
import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.catalogue.Desk;
import docksort.catalogue.SharedAddress;
import docksort.catalogue.TakenOut.Hanging;
import docksort.desktop.work.Job;
import docksort.dispatch.PinnedUse;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.problem.Problem;
import docksort.project.Project;
import docksort.project.Sharing;
import docksort.sort.Recipe;
import docksort.stock.ServingOrder;
import docksort.strain.TimelineFormat;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// The bridge with a plain thread in the place of the window's: real project, real engine, no toolkit.
@WithMedia
class WorkshopTest {
    private static final int FILES = 60;

    @TempDir
    static Path media = Path.of("");

    @TempDir
    Path folder = Path.of("");

    private final ExecutorService window = Executors.newSingleThreadExecutor();
    private Optional<Workshop> opened = Optional.empty();
    private Path card = Path.of("");

    @BeforeEach
    void open() throws Exception {
        card = Files.createDirectories(media.resolve("volume/Card"));
        Path first = card.resolve("A000.mov");
        if (!Files.exists(first)) {
            try (MediaEngine engine = MediaEngine.locate()) {
                new Footage(engine).clip(first, "160x90", "25", 10, "-c:v", "mjpeg");
            }
            for (int i = 1; i < FILES; i++) {
                Files.copy(first, card.resolve(String.format(Locale.ROOT, "A%03d.mov", i)));
            }
        }
        opened = Optional.of(Workshop.open(folder.resolve("project"), window));
    }

    @AfterEach
    void close() {
        opened.ifPresent(Workshop::close);
        window.shutdown();
    }

    private Workshop workshop() {
        return opened.orElseThrow();
    }

    private <T> T onWindow(Callable<T> what) throws Exception {
        return window.submit(what).get(60, TimeUnit.SECONDS);
    }

    private ProjectView view() throws Exception {
        return onWindow(() -> workshop().views().view().get().orElseThrow());
    }

    @Test
    void whileAFolderIsLookedThroughEverythingElseCanBeChanged() throws Exception {
        CompletableFuture<Void> looked = onWindow(() -> workshop().arrivals().add(List.of(card)));
        var other = new TimelineFormat(
                new Raster(1280, 720),
                FrameRate.FPS_25,
                TimelineFormat.HD_25.pixelAspect(),
                TimelineFormat.HD_25.primaries(),
                48_000);
        workshop().arrivals().setFormat(other).get(60, TimeUnit.SECONDS);
        assertThat(looked.isDone())
                .as("sixty files take longer than one setting")
                .isFalse();
        assertThat(view().format()).isEqualTo(other);
        looked.get(120, TimeUnit.SECONDS);
        assertThat(view().clips()).hasSize(FILES);
        assertThat(onWindow(() -> List.copyOf(workshop().arrivals().scanned()))).isEmpty();
    }

    @Test
    void aLookIsAJobAndStoppingItKeepsWhatWasFound() throws Exception {
        CompletableFuture<Void> looked = onWindow(() -> workshop().arrivals().add(List.of(card)));
        Job job = onWindow(() -> workshop().jobs().all().getFirst());
        assertThat(job.what()).isEqualTo("Looking through Card");
        onWindow(() -> {
            job.stop();
            return true;
        });
        looked.get(120, TimeUnit.SECONDS);
        assertThat(onWindow(() -> List.copyOf(workshop().jobs().all())))
                .as("who stopped it knows")
                .isEmpty();
        assertThat(view().clips().size()).isLessThan(FILES);
    }

    @Test
    void foldersThatAreRefusedAreToldTogetherAndTheOthersCome() throws Exception {
        Path nowhere = folder.resolve("nowhere");
        Path empty = folder.resolve("nowhere else");
        onWindow(() -> workshop().arrivals().add(List.of(nowhere, card, empty))).get(120, TimeUnit.SECONDS);
        assertThat(view().clips()).hasSize(FILES);
        Problem told = onWindow(() -> workshop().troubles().latest().get().orElseThrow());
        assertThat(told.sentence())
                .contains(nowhere.toString(), empty.toString(), "The other folders were looked through");
    }

    @Test
    void aClipGoesOutWithWhatHangsOnItAndComesBack() throws Exception {
        onWindow(() -> workshop().arrivals().add(List.of(card))).get(120, TimeUnit.SECONDS);
        Clip out = view().clips().getFirst();
        var hanging = new CompletableFuture<Hanging>();
        onWindow(() -> {
            workshop().arrivals().hangingOn(List.of(out), List.of(), hanging::complete);
            return true;
        });
        assertThat(hanging.get(60, TimeUnit.SECONDS).clips()).isEqualTo(1);
        workshop().arrivals().takeOut(List.of(out), List.of()).get(60, TimeUnit.SECONDS);
        assertThat(view().clips()).hasSize(FILES - 1).doesNotContain(out);
        workshop().undo().get(60, TimeUnit.SECONDS);
        assertThat(view().clips()).hasSize(FILES).contains(out);
    }

    @Test
    void closingInTheMiddleOfALookEndsItAndTheNextOpeningDoesTheRest() throws Exception {
        onWindow(() -> workshop().arrivals().add(List.of(card)));
        workshop().close();
        ExecutorService again = Executors.newSingleThreadExecutor();
        try (Workshop next = Workshop.open(folder.resolve("project"), again)) {
            var whole = new CompletableFuture<Void>();
            again.submit(() -> next.views().each(view -> {
                        if (view.clips().size() == FILES || view.arrivals().isEmpty()) {
                            whole.complete(null);
                        }
                    }))
                    .get(60, TimeUnit.SECONDS);
            whole.get(120, TimeUnit.SECONDS);
        } finally {
            again.shutdown();
        }
    }

    /// What another program does in the project is shown without anybody asking.
    @Test
    void whatAnotherProgramChangesIsShown() throws Exception {
        onWindow(() -> workshop().arrivals().add(List.of(card))).get(120, TimeUnit.SECONDS);
        var seen = new CompletableFuture<ProjectView>();
        onWindow(() -> {
            workshop().views().each(shown -> {
                if (shown.aside().clips().size() == 2) {
                    seen.complete(shown);
                }
            });
            return true;
        });
        try (MediaEngine engine = MediaEngine.locate();
                Project other = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            other.puttingAside().put(other.clips().subList(0, 2), List.of());
        }
        assertThat(seen.get(10, TimeUnit.SECONDS).clips()).hasSize(FILES - 2);
        onWindow(() -> workshop().undo()).get(60, TimeUnit.SECONDS);
        assertThat(view().clips()).hasSize(FILES);
    }

    /// The window's thread is kept busy while somebody else chooses: what is wanted then was decided by an old
    /// view.
    @Test
    void whoDecidesByAnOldViewIsShownBothAndDecides() throws Exception {
        SharedAddress address = PostgresServer.address(SharedAddress.schemaFor("contested choice"));
        Path own = folder.resolve("shared");
        var clock = InstantSource.system();
        try (MediaEngine engine = MediaEngine.locate()) {
            try (Project alone = Project.open(own, engine, clock)) {
                alone.arrivals().add(card, ScanListener.none(), new Cancellation());
                alone.sharing().share(address);
            }
            Sharing.join(
                    folder.resolve("suite"),
                    address,
                    new Sharing.Joining(new Desk("suite", "Keeper"), Map.of(), true, false),
                    clock);
            try (Project suite = Project.open(folder.resolve("suite"), engine, clock);
                    Workshop here = Workshop.open(own, window)) {
                onWindow(() -> here.sort().choose(List.of(), Optional.empty()))
                        .get(60, TimeUnit.SECONDS); // it is there
                List<Clip> clips = suite.clips();
                onWindow(() -> {
                            suite.plans().choose(clips.subList(0, 2), Optional.of(List.of(Recipe.FULL_VC3)));
                            return CompletableFuture.allOf(
                                    here.sort().choose(clips.subList(1, 3), Optional.of(List.of(Recipe.FULL_PRORES))),
                                    here.dispatch()
                                            .pin(
                                                    List.of(new PinnedUse(clips.get(1), Optional.empty())),
                                                    Optional.of(ServingOrder.LIGHT_FIRST)));
                        })
                        .get(60, TimeUnit.SECONDS);
                assertThat(suite.serving().pins())
                        .as("nobody pinned it otherwise")
                        .hasSize(1);
                assertThat(suite.plans().choices())
                        .containsEntry(clips.get(1).id(), List.of(Recipe.FULL_VC3.id()))
                        .doesNotContainKey(clips.get(2).id());
                Problem both = onWindow(
                        () -> here.contests().open().get().orElseThrow().problem());
                assertThat(both.what()).startsWith("2 clips set to");
                assertThat(both.why())
                        .startsWith("Keeper at suite has changed the same since it was shown here: 2 clips");
                onWindow(() -> {
                    here.contests().putMine();
                    return true;
                });
                onWindow(() -> here.sort().choose(clips.subList(5, 6), Optional.empty()))
                        .get(60, TimeUnit.SECONDS); // steps come one after the other
                assertThat(suite.plans().choices())
                        .containsEntry(clips.get(1).id(), List.of(Recipe.FULL_PRORES.id()))
                        .containsEntry(clips.get(2).id(), List.of(Recipe.FULL_PRORES.id()));
                assertThat(onWindow(() -> here.contests().open().get())).isEmpty();
            }
        }
    }
}
