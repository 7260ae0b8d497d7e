package docksort.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.arrival.ClipId;
import docksort.catalogue.ClaimStore.Claim;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.problem.Problem;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Two servers, of which one follows the other and takes its place.
class FailoverTest {
    private static final InstantSource CLOCK = InstantSource.system();

    @TempDir
    Path folder = Path.of("");

    private Path first() {
        return folder.resolve("first");
    }

    private Path second() {
        return folder.resolve("second");
    }

    private static EmbeddedPostgres.Builder server(Path data) {
        return EmbeddedPostgres.builder().setDataDirectory(data).setCleanDataDirectory(false);
    }

    /// What is kept by the first is there on the second before anybody hears that it was kept.
    private static EmbeddedPostgres.Builder primary(Path data) {
        return server(data)
                .setServerConfig("synchronous_standby_names", "*")
                .setServerConfig("synchronous_commit", "remote_apply");
    }

    private void copyTheFirst(int port) throws IOException {
        try (Stream<Path> all = Files.walk(first())) {
            for (Path each : all.toList()) {
                Files.copy(
                        each,
                        second().resolve(first().relativize(each)),
                        java.nio.file.StandardCopyOption.COPY_ATTRIBUTES);
            }
        }
        Files.writeString(
                second().resolve("postgresql.auto.conf"),
                "primary_conninfo = 'host=localhost port=" + port + " user=postgres'\n",
                StandardOpenOption.CREATE,
                StandardOpenOption.APPEND);
        Files.createFile(second().resolve("standby.signal"));
    }

    private static SharedAddress address(String hosts) {
        return SharedAddress.parse("postgresql://postgres@" + hosts + "/postgres?connect_timeout=2", "failover");
    }

    private static void kill(Path data) throws IOException {
        long pid = Long.parseLong(
                Files.readAllLines(data.resolve("postmaster.pid")).getFirst().strip());
        ProcessHandle server = ProcessHandle.of(pid).orElseThrow();
        assertThat(server.destroyForcibly()).isTrue();
        server.onExit().join();
    }

    @Test
    void theServerThatTookOverIsFoundAndHasAllThatWasKept() throws Exception {
        int port;
        try (EmbeddedPostgres begun = server(first()).start()) {
            port = begun.getPort();
        }
        copyTheFirst(port);
        try (EmbeddedPostgres one = primary(first()).setPort(port).start();
                EmbeddedPostgres other = server(second()).start()) {
            String hosts = "localhost:" + one.getPort() + ",localhost:" + other.getPort();
            var both = SharedAddress.parse(
                    "postgresql://postgres@" + hosts + "/postgres?connect_timeout=2&target_session_attrs=read-write",
                    "failover");
            try (Catalogue catalogue = Catalogue.begin(both, CLOCK, new Desk("desk", "somebody"))) {
                StoresContract.fillAll(catalogue);
                List<ClipId> clips =
                        catalogue.clips().all().stream().map(clip -> clip.id()).toList();
                catalogue.choices().choose(clips.subList(0, 1), Optional.of(List.of("before")), "before");
                String copy = catalogue.copies().all().getFirst().id();
                catalogue
                        .copies()
                        .enqueue(
                                catalogue.copies().of(List.of(copy)).stream()
                                        .map(each -> each.withState(CopyState.WAITING, ""))
                                        .toList(),
                                "again");
                assertThat(catalogue.claims().take(List.of(copy))).containsEntry(copy, new Claim.Ours());
                try (Catalogue follows =
                        Catalogue.open(address("localhost:" + other.getPort()), CLOCK, new Desk("suite", "another"))) {
                    assertThat(follows.mayChange()).isFalse();
                    assertThat(follows.choices().all())
                            .isEqualTo(catalogue.choices().all());
                    assertThatThrownBy(() -> follows.choices().choose(clips, Optional.empty(), "on the wrong one"))
                            .isInstanceOf(CatalogueUnavailable.class)
                            .hasMessageContaining("only lets itself be read");
                }

                kill(first());
                assertThatThrownBy(() -> catalogue.choices().choose(clips.subList(1, 2), Optional.empty(), "between"))
                        .isInstanceOf(CatalogueUnavailable.class);
                var waits = new AtomicInteger();
                catalogue.waiting(
                        new Patience() {
                            @Override
                            public boolean waits(Problem why) {
                                if (waits.getAndIncrement() == 0) {
                                    promote(other);
                                }
                                return waits.get() < 100;
                            }

                            @Override
                            public void over() {}
                        },
                        () -> {
                            catalogue.choices().choose(clips.subList(1, 2), Optional.of(List.of("after")), "after");
                            assertThat(catalogue.claims().publish(copy, () -> {}))
                                    .as("the claim goes on")
                                    .isTrue();
                        });
                assertThat(waits).hasPositiveValue();
                assertThat(catalogue.choices().all())
                        .containsEntry(clips.get(0), List.of("before"))
                        .containsEntry(clips.get(1), List.of("after"));
                assertThat(catalogue.activity().latest(1).getFirst().what()).isEqualTo("after");
            }
        }
    }

    private static void promote(EmbeddedPostgres server) {
        try (Connection connection = server.getPostgresDatabase().getConnection();
                Statement statement = connection.createStatement()) {
            statement.execute("SELECT pg_promote()");
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }
}
