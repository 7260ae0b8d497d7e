package docksort.catalogue;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.PostgresServer;
import docksort.catalogue.ClaimStore.Claim;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import org.jdbi.v3.core.Jdbi;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInfo;

/// A copy is made by one machine at a time, whatever their clocks say.
class ClaimsTest {
    private static final InstantSource CLOCK = InstantSource.system();
    private static final InstantSource AHEAD = InstantSource.offset(CLOCK, Duration.ofMinutes(10));

    private Catalogue one;
    private Catalogue other;
    private SharedAddress address;
    private List<String> ids = List.of();

    @BeforeEach
    void begin(TestInfo test) {
        address = PostgresServer.address(SharedAddress.schemaFor(
                "claims " + test.getTestMethod().orElseThrow().getName()));
        one = Catalogue.begin(address, CLOCK, new Desk("desk", "somebody"));
        other = Catalogue.open(address, AHEAD, new Desk("suite", "another"));
        StoresContract.fillAll(one);
        other.roots().place(Map.of(other.roots().all().getFirst(), Path.of("/copies")));
        one.copies()
                .enqueue(
                        one.copies().all().stream()
                                .map(copy -> copy.withState(CopyState.WAITING, ""))
                                .toList(),
                        "all again");
        ids = one.copies().all().stream().map(WorkingCopy::id).toList();
    }

    @AfterEach
    void end() {
        one.close();
        other.close();
    }

    /// The heart of every program stopped two minutes ago.
    private void stopHearts() {
        Jdbi.create(PostgresServer.jdbcUrl(address))
                .useHandle(h -> h.execute("UPDATE copy_claim SET renewed_at = renewed_at - interval '2 minutes'"));
    }

    private static WorkingCopy copy(Catalogue catalogue, String id) {
        return catalogue.copies().all().stream()
                .filter(copy -> copy.id().equals(id))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void whatOneMakesTheOtherLeavesAndNobodyMakesWhatIsMade() {
        String id = ids.getFirst();
        assertThat(one.claims().take(List.of(id))).containsEntry(id, new Claim.Ours());
        assertThat(other.claims().take(List.of(id))).containsEntry(id, new Claim.Theirs("desk"));
        assertThat(other.claims().others()).containsExactly(id);
        assertThat(one.claims().others()).isEmpty();
        WorkingCopy ready = copy(one, id).withState(CopyState.READY, "made");
        assertThat(one.claims().publish(id, () -> one.claims().update(List.of(ready))))
                .isTrue();
        one.claims().release(List.of(id));
        assertThat(other.claims().take(List.of(id))).containsEntry(id, new Claim.Gone());
        assertThat(other.claims().others()).isEmpty();
    }

    /// The first machine slept while the second made the copy, and wakes up late.
    @Test
    void whoComesBackLateGivesNoNameAndNoState() {
        String id = ids.getFirst();
        one.claims().take(List.of(id));
        stopHearts();
        assertThat(other.claims().stopped()).containsExactly("desk");
        assertThat(other.claims().take(List.of(id))).containsEntry(id, new Claim.Ours());
        assertThat(other.claims().stopped()).isEmpty();
        var named = new AtomicInteger();
        assertThat(one.claims().publish(id, named::incrementAndGet)).isFalse();
        one.claims().update(List.of(copy(one, id).withState(CopyState.CHECKING, "late")));
        assertThat(copy(other, id).state()).isEqualTo(CopyState.WAITING);
        WorkingCopy ready = copy(other, id).withState(CopyState.READY, "made");
        assertThat(other.claims().publish(id, () -> other.claims().update(List.of(ready))))
                .isTrue();
        other.claims().release(List.of(id));
        one.claims().update(List.of(copy(one, id).withState(CopyState.FAILED, "late")));
        one.claims().release(List.of(id));
        assertThat(copy(one, id))
                .extracting(WorkingCopy::state, WorkingCopy::note)
                .containsExactly(CopyState.READY, "made");
        assertThat(named).hasValue(0);
    }

    /// A heart that beats keeps the claim; and the lock of a publishing keeps others from taking over.
    @Test
    void aClaimThatIsRenewedIsNotTakenOver() {
        String id = ids.getFirst();
        one.claims().take(List.of(id));
        stopHearts();
        one.claims().renew();
        assertThat(other.claims().take(List.of(id))).containsEntry(id, new Claim.Theirs("desk"));
        stopHearts();
        one.claims().publish(id, () -> {
            assertThat(other.claims().take(List.of(id))).containsEntry(id, new Claim.Theirs("desk"));
            one.claims().update(List.of(copy(one, id).withState(CopyState.READY, "made")));
        });
        assertThat(other.claims().take(List.of(id))).containsEntry(id, new Claim.Gone());
    }

    @Test
    void nobodyGetsWhatAnotherGot() throws Exception {
        var got = new HashMap<String, AtomicInteger>();
        ids.forEach(id -> got.put(id, new AtomicInteger()));
        try (var threads = Executors.newFixedThreadPool(4)) {
            for (int round = 0; round < 25; round++) {
                var takers = new ArrayList<Callable<Void>>();
                for (Catalogue desk : List.of(one, other, one, other)) {
                    takers.add(() -> {
                        for (String id : ids) {
                            if (desk.claims().take(List.of(id)).get(id) instanceof Claim.Ours) {
                                got.computeIfAbsent(id, _ -> new AtomicInteger())
                                        .incrementAndGet();
                            }
                        }
                        return null;
                    });
                }
                for (var done : threads.invokeAll(takers.subList(0, 2))) {
                    done.get();
                }
                assertThat(got.values()).allSatisfy(count -> assertThat(count).hasValue(1));
                one.claims().release(ids);
                other.claims().release(ids);
                got.values().forEach(count -> count.set(0));
            }
        }
    }
}
