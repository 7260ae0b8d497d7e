package docksort.stock;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import docksort.Clips;
import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Desk;
import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.files.Mounts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.sort.CopyKind;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/// A volume that keeps whoever asks it waiting for ever, as a network share does whose server is gone. It
/// is played by one that never says that it is there.
@Timeout(30)
class SilentVolumeTest {
    @TempDir
    Path folder = Path.of("");

    @Test
    void whatLiesOnAVolumeThatDoesNotAnswerIsOfflineAndTheRestIsLookedAt() throws Exception {
        var back = new CountDownLatch(1);
        Path dead = Files.createDirectories(folder.resolve("dead"));
        Path good = Files.createDirectories(folder.resolve("good"));
        var mounts = new Mounts(
                () -> List.of(folder, dead),
                point -> {
                    if (point.equals(dead)) {
                        waitFor(back);
                    }
                },
                Duration.ofMillis(200));
        try (Catalogue catalogue =
                Catalogue.open(folder.resolve("catalogue.db"), InstantSource.system(), new Desk("desk", "somebody"))) {
            Clip silent = arrive(catalogue, dead, "S001");
            Clip there = arrive(catalogue, good, "G001");
            copy(catalogue, silent, "there", good);
            copy(catalogue, there, "silent", dead);
            var stock = new Stock(catalogue, mounts);
            var standards = new Standards(Map.of(), Map.of());

            stock.refresh(catalogue.clips().all(), standards);
            assertThat(catalogue.clips().presence())
                    .containsEntry(
                            silent.id(),
                            new Presence(Presence.State.OFFLINE, "its volume does not answer: mount it anew"))
                    .doesNotContainKey(there.id());
            assertThat(catalogue.copies().all())
                    .extracting(WorkingCopy::recipeId, WorkingCopy::state)
                    .contains(tuple("silent", CopyState.MISSING), tuple("there", CopyState.READY));

            back.countDown();
            while (!mounts.answers(dead)) {
                Thread.onSpinWait();
            }
            stock.refresh(catalogue.clips().all(), standards);
            assertThat(catalogue.clips().presence()).isEmpty();
            assertThat(catalogue.copies().all()).extracting(WorkingCopy::state).containsOnly(CopyState.READY);
        }
    }

    private static void waitFor(CountDownLatch latch) {
        try {
            latch.await();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private Clip arrive(Catalogue catalogue, Path place, String name) throws Exception {
        var root = new Root(name, name, place);
        catalogue.roots().add(root);
        var arrival = new Arrival(ArrivalId.fresh(), name, place.resolve("CARD"), Instant.EPOCH);
        catalogue.arrivals().begin(arrival, root);
        Path file = Files.createDirectories(arrival.folder()).resolve(name + ".mov");
        Files.write(file, new byte[10]);
        var clip = new Clip(
                ClipId.fresh(),
                arrival.id(),
                new ClipSource.SingleFile(file),
                new Clips().facts(),
                new Fingerprint(10, "0".repeat(32)));
        catalogue.clips().keep(List.of(clip), root);
        return clip;
    }

    private static void copy(Catalogue catalogue, Clip clip, String recipe, Path place) throws Exception {
        Path file = Files.write(place.resolve(recipe + ".mov"), new byte[5]);
        Root root = catalogue.roots().all().stream()
                .filter(each -> each.path().equals(place))
                .findFirst()
                .orElseThrow();
        var copy = new WorkingCopy(
                clip.id().value() + recipe,
                clip.id(),
                CopyKind.LIGHT,
                recipe,
                root.id(),
                file,
                CopyState.READY,
                "",
                clip.fingerprint(),
                Optional.empty(),
                new WorkingCopy.Place(5, file.toFile().lastModified(), 1, 1, "", "", ""),
                WorkingCopy.Service.USUAL,
                0);
        catalogue.copyChanges().add(List.of(copy), "made");
    }
}
