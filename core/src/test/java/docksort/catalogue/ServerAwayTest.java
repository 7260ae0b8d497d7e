package docksort.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Cable;
import docksort.PostgresServer;
import docksort.catalogue.ClaimStore.Claim;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.problem.Problem;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.jdbi.v3.core.Jdbi;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInfo;
import org.junit.jupiter.api.Timeout;

/// The database of a shared project goes away: at any moment of a change, while a copy is made, for good.
class ServerAwayTest {
    private static final InstantSource CLOCK = InstantSource.system();

    private Catalogue near;
    private Catalogue catalogue;
    private SharedAddress address;
    private Cable cable;

    @BeforeEach
    void begin(TestInfo test) {
        address = PostgresServer.address(SharedAddress.schemaFor(
                "away " + test.getTestMethod().orElseThrow().getName()));
        near = Catalogue.begin(address, CLOCK, new Desk("suite", "another"));
        StoresContract.fillAll(near);
        cable = new Cable(address);
        catalogue = Catalogue.open(cable.address(address), CLOCK, new Desk("desk", "somebody"));
    }

    @AfterEach
    void end() {
        catalogue.close();
        near.close();
        cable.close();
    }

    private long deeds(String what) {
        return near.activity().latest(100).stream()
                .filter(deed -> deed.what().equals(what))
                .count();
    }

    @Test
    void aConnectionThatBrokeWhileNobodyUsedItIsNotNoticed() {
        for (int i = 0; i < 3; i++) {
            cable.breakAll();
            assertThat(catalogue.clips().all()).isNotEmpty();
            cable.breakAll();
            catalogue.activity().write("kept " + i);
            assertThat(deeds("kept " + i)).isOne();
        }
    }

    @Test
    void aChangeThatTheServerNeverKeptIsSaidNotToHaveTakenPlace() {
        cable.cutAt(Cable.Cut.BEFORE_COMMIT);
        assertThatThrownBy(() -> catalogue.activity().write("lost"))
                .isInstanceOf(CatalogueUnavailable.class)
                .hasMessageContaining("was not done");
        assertThat(deeds("lost")).isZero();
        catalogue.activity().write("lost");
        assertThat(deeds("lost")).isOne();
    }

    @Test
    void aChangeThatTheServerKeptAndCouldNotSaySoTookPlaceOnce() {
        cable.cutAt(Cable.Cut.AFTER_COMMIT);
        catalogue.activity().write("kept");
        assertThat(deeds("kept")).isOne();
    }

    @Test
    void whatCannotBeKnownIsSaidSo() {
        cable.cutAt(Cable.Cut.AFTER_COMMIT);
        assertThatThrownBy(() -> catalogue.settings().put("name", pulledOutMeanwhile()))
                .isInstanceOf(CatalogueUnavailable.class);
        cable.putIn();
        assertThat(catalogue.settings().all()).isEqualTo(near.settings().all());
    }

    private String pulledOutMeanwhile() {
        cable.pullOut();
        return "another";
    }

    /// At whatever question connections break while a catalogue is opened: it opens, or says that waiting helps.
    @Test
    void whileItIsOpenedAConnectionBreaksAtAnyMoment() {
        int questions = 0;
        boolean broken = true;
        for (; broken; questions += 3) {
            cable.breakAfter(questions);
            try (Catalogue another = Catalogue.open(cable.address(address), CLOCK, new Desk("third", "somebody"))) {
                assertThat(another.clips().all()).isNotEmpty();
            } catch (CatalogueUnavailable e) {
                assertThat(e.comesBack()).as("at question %d: %s", questions, e).isTrue();
            }
            broken = cable.left() < 0;
        }
        assertThat(questions).isGreaterThan(20);
    }

    /// Nobody waits, unless it is said; then the change is made once it can be.
    @Test
    void onlyWorkThatSaysSoWaitsForTheServer() throws Exception {
        cable.pullOut();
        assertThatThrownBy(() -> catalogue.clips().all())
                .isInstanceOf(CatalogueUnavailable.class)
                .hasMessageContaining("does not answer");
        var asked = new CountDownLatch(2);
        var over = new AtomicInteger();
        Thread work = Thread.ofVirtual()
                .start(() -> catalogue.waiting(
                        patience(asked, over), () -> catalogue.activity().write("waited for")));
        assertThat(asked.await(60, TimeUnit.SECONDS)).isTrue();
        assertThat(deeds("waited for")).isZero();
        cable.putIn();
        work.join();
        assertThat(deeds("waited for")).isOne();
        assertThat(over).hasValue(1);
    }

    private static Patience patience(CountDownLatch asked, AtomicInteger over) {
        return new Patience() {
            @Override
            public boolean waits(Problem why) {
                asked.countDown();
                return true;
            }

            @Override
            public void over() {
                over.incrementAndGet();
            }
        };
    }

    /// Between the look at the claim and the file's name, or before that is kept, the connection is cut: the
    /// name is given once, and it is known afterwards whether it holds.
    @Test
    void aFileGetsItsNameOnceAndItIsKnownWhetherItHolds() {
        List<WorkingCopy> copies = near.copies().all().stream()
                .map(copy -> copy.withState(CopyState.WAITING, ""))
                .toList();
        near.copies().enqueue(copies, "all again");
        String id = copies.getFirst().id();
        catalogue.claims().take(List.of(id));
        var named = new AtomicInteger();
        assertThat(catalogue.claims().publish(id, () -> {
                    named.incrementAndGet();
                    cable.breakAll();
                }))
                .isTrue();
        assertThat(named).hasValue(1);
        assertThat(catalogue.claims().publish(id, () -> {
                    named.incrementAndGet();
                    takenOver(id);
                }))
                .isFalse();
        assertThat(named).hasValue(2);
    }

    private void takenOver(String id) {
        cable.breakAll(); // with it goes the lock of the claim
        Jdbi.create(PostgresServer.jdbcUrl(address))
                .useHandle(h -> h.execute("UPDATE copy_claim SET renewed_at = renewed_at - interval '2 minutes'"));
        assertThat(near.claims().take(List.of(id))).containsEntry(id, new Claim.Ours());
    }

    @Test
    void whoListensHearsThatItWentAndThatItIsBackAndWhatCameBetween() throws Exception {
        var away = new CountDownLatch(1);
        var back = new CountDownLatch(1);
        var heard = new CountDownLatch(1);
        try (Overheard _ = catalogue.overhear(new Overheard.Listener() {
            @Override
            public void heard() {
                heard.countDown();
            }

            @Override
            public void away(String why) {
                away.countDown();
            }

            @Override
            public void back() {
                back.countDown();
            }
        })) {
            cable.pullOut();
            assertThat(away.await(30, TimeUnit.SECONDS)).isTrue();
            near.activity().write("meanwhile");
            cable.putIn();
            assertThat(back.await(30, TimeUnit.SECONDS)).isTrue();
            assertThat(heard.await(30, TimeUnit.SECONDS)).isTrue();
        }
    }

    /// Nobody's tables are changed under him.
    @Test
    void olderTablesAreBroughtUpToDateOnceNobodyHasThemOpen() {
        SharedAddress older = PostgresServer.address("older_tables", "9");
        Jdbi.create(PostgresServer.jdbcUrl(older)).useHandle(h -> {
            h.execute("INSERT INTO root VALUES ('r', 'Volume', '/volume')");
            h.execute("INSERT INTO root_path VALUES ('r', 'desk', '/volume')");
        });
        String open =
                PostgresServer.jdbcUrl(older) + "&ApplicationName=dock-sort%20abcd%20older_tables%20cutting%20room";
        Jdbi.create(open)
                .useHandle(_ -> assertThatThrownBy(() -> Catalogue.open(older, CLOCK, new Desk("suite", "another"))
                                .close())
                        .isInstanceOf(CatalogueUnavailable.class)
                        .hasMessageContaining("is open on cutting room"));
        try (Catalogue now = Catalogue.open(older, CLOCK, new Desk("desk", "somebody"))) {
            assertThat(now.machines().join("another", false))
                    .as("the name is taken")
                    .isPresent();
        }
    }

    @Test
    void machinesShowWhatTheyDoAndDoWhatTheyAreAsked() {
        assertThat(catalogue.machines().all()).isEmpty();
        catalogue.machines().show(new MachineStore.Doing("makes copies", 2, 3, 41.5, 7, 1));
        near.machines().ask("desk", Machine.Wish.DRAIN);
        assertThat(near.machines().all()).singleElement().satisfies(machine -> {
            assertThat(machine.workstation()).isEqualTo("desk");
            assertThat(machine.making()).isEqualTo(2);
            assertThat(machine.framesPerSecond()).isEqualTo(41.5);
            assertThat(machine.wish()).isEqualTo(Machine.Wish.DRAIN);
            assertThat(machine.here()).isFalse();
            assertThat(machine.isStopped()).isFalse();
        });
        assertThat(catalogue.machines().asked().wish()).isEqualTo(Machine.Wish.DRAIN);
        assertThat(near.machines().asked().wish()).isEqualTo(Machine.Wish.WORK);
        near.machines().give("desk", Optional.of(List.of("light")), "desk makes only light copies");
        assertThat(catalogue.machines().asked())
                .isEqualTo(new Machine.Asked(Machine.Wish.DRAIN, Optional.of(List.of("light"))));
        near.machines().ask("desk", Machine.Wish.WORK);
        assertThat(catalogue.machines().asked().wish()).isEqualTo(Machine.Wish.WORK);
        assertThat(catalogue.machines().asked().makes("light")).isTrue();
        assertThat(catalogue.machines().asked().makes("full")).isFalse();
        assertThat(near.machines().all().getFirst().recipes()).contains(List.of("light"));
        near.machines().give("desk", Optional.empty(), "desk makes every recipe again");
        assertThat(catalogue.machines().asked().makes("full")).isTrue();
        Jdbi.create(PostgresServer.jdbcUrl(address))
                .useHandle(h -> h.execute("UPDATE machine SET seen_at = seen_at - interval '2 minutes'"));
        assertThat(near.machines().all()).singleElement().matches(Machine::isStopped);
        catalogue.machines().leave();
        assertThat(near.machines().all()).isEmpty();
    }

    /// Its program stands still in the middle of a change, as when a machine is put to sleep: the others wait
    /// for it no longer than the server does, and its change did not take place.
    @Test
    @Timeout(60)
    void whoStandsStillInTheMiddleOfAChangeHoldsNobodyUpForLong() {
        SharedAddress soon = SharedAddress.parse(
                address.uri() + "?options=-c%20idle_in_transaction_session_timeout%3D500ms", address.schema());
        try (Catalogue frozen = Catalogue.open(soon, CLOCK, new Desk("third", "somebody"))) {
            var went = new AtomicBoolean();
            assertThatThrownBy(() -> frozen.timelines()
                            .pin(
                                    List.of(),
                                    _ -> {
                                        if (!went.getAndSet(true)) {
                                            near.settings().change("limits", "7", "went on meanwhile");
                                        }
                                        return true;
                                    },
                                    "took all pins away"))
                    .isInstanceOf(CatalogueUnavailable.class);
            assertThat(deeds("went on meanwhile")).isOne();
            assertThat(deeds("took all pins away")).isZero();
            assertThat(near.timelines().pins()).hasSize(1);
            frozen.settings().change("limits", "8", "and goes on itself");
            assertThat(deeds("and goes on itself")).isOne();
        }
    }

    /// Near is who reads a root at least twice as fast, as long as it lives and works.
    @Test
    void aRootIsFarForWhoReadsItHalfAsFastAsSomebodyWhoWorks() {
        catalogue.roots().add(new Root("volume", "volume", Path.of("/volume")));
        catalogue.machines().reaches(Map.of("volume", 140e6));
        near.machines().reaches(Map.of("volume", 71e6));
        catalogue.machines().show(new MachineStore.Doing("makes copies", 1, 1, 1, 0, 0));
        near.machines().show(new MachineStore.Doing("makes copies", 1, 1, 1, 0, 0));
        assertThat(near.machines().far()).isEmpty();
        catalogue.machines().reaches(Map.of("volume", 400e6));
        near.machines().reaches(Map.of("volume", 160e6));
        assertThat(near.machines().far()).as("fast enough to make copies").isEmpty();
        near.machines().reaches(Map.of("volume", 70e6));
        assertThat(near.machines().far()).containsExactly("volume");
        assertThat(near.machines().all())
                .filteredOn(Machine::here)
                .flatExtracting(Machine::reads)
                .containsExactly(new Machine.Reads("volume", 70e6));
        assertThat(catalogue.machines().far()).isEmpty();
        near.machines().ask("desk", Machine.Wish.HOLD);
        assertThat(near.machines().far()).as("it holds still").isEmpty();
        near.machines().ask("desk", Machine.Wish.WORK);
        catalogue.machines().leave();
        assertThat(near.machines().far()).as("it is gone").isEmpty();
    }
}
