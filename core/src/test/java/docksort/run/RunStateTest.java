package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Brake;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.sort.CopyKind;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/// What a run knows, asked as its workers, its person and its watch ask it. No engine, no catalogue.
class RunStateTest {
    private final Brake brake = new Brake();

    /// @param id "clip/number"
    private static WorkingCopy copy(String id) {
        return new WorkingCopy(
                id,
                new ClipId(id.substring(0, id.indexOf('/'))),
                CopyKind.LIGHT,
                "recipe",
                "root",
                Path.of(id + ".mov"),
                CopyState.WAITING,
                "",
                new Fingerprint(1, "0".repeat(32)),
                Optional.empty(),
                WorkingCopy.Place.NOT_YET,
                WorkingCopy.Service.USUAL,
                0);
    }

    private static List<WorkingCopy> copies(String... ids) {
        return List.of(ids).stream().map(RunStateTest::copy).toList();
    }

    private RunState state(Terms terms, String... ids) {
        return new RunState(terms, brake, copies(ids), Map.of());
    }

    private static List<String> ids(List<WorkingCopy> copies) {
        return copies.stream().map(WorkingCopy::id).toList();
    }

    private static List<String> ids(Optional<Group> group) {
        return group.map(found -> ids(found.copies)).orElse(List.of());
    }

    private static void finish(RunState state, Group group) {
        state.set(group.copies.stream()
                .map(copy -> copy.withState(CopyState.READY, ""))
                .toList());
        state.ended(group);
    }

    @Test
    void copiesOfOneClipAreMadeTogetherInTheOrderOfTheQueue() throws Exception {
        RunState state = state(Terms.fixed(2), "a/1", "b/1", "a/2", "c/1");
        Group first = state.next().orElseThrow();
        assertThat(ids(first.copies)).containsExactly("a/1", "a/2");
        assertThat(ids(state.next())).containsExactly("b/1");
        finish(state, first);
        assertThat(ids(state.next())).containsExactly("c/1");
    }

    /// What another workstation reads faster is made last, and after a while for which nothing else waited.
    @Test
    void whatIsFarIsLeftToOthersForAWhileButNotForGood() throws Exception {
        Duration left = Duration.ofMillis(400);
        Map<ClipId, Clip> clips = Stream.of("a", "b", "c")
                .map(id -> new Clip(
                        new ClipId(id),
                        new ArrivalId("card"),
                        new ClipSource.SingleFile(Path.of(id.equals("b") ? "/near" : "/far", id + ".mov")),
                        Clips.named(id).clip().facts(),
                        new Fingerprint(1, "0".repeat(32))))
                .collect(Collectors.toMap(Clip::id, clip -> clip));
        var state = new RunState(Terms.fixed(1), brake, copies("a/1", "b/1", "c/1", "b/2"), clips, left);
        state.far(Set.of(Path.of("/far")));
        Group near = state.next().orElseThrow();
        assertThat(ids(near.copies)).containsExactly("b/1", "b/2");
        finish(state, near);
        long begin = System.nanoTime();
        CompletableFuture<Optional<Group>> next = CompletableFuture.supplyAsync(() -> {
            try {
                return state.next();
            } catch (InterruptedException e) {
                throw new IllegalStateException(e);
            }
        });
        while (state.snapshot().phase() != RunSnapshot.Phase.WAITING && !next.isDone()) {
            Thread.onSpinWait();
        }
        assertThat(state.snapshot().why()).contains("workstations that read it faster");
        Group far = next.get(10, TimeUnit.SECONDS).orElseThrow();
        assertThat(Duration.ofNanos(System.nanoTime() - begin)).isGreaterThanOrEqualTo(left.minusMillis(5));
        assertThat(ids(far.copies)).containsExactly("a/1");
        finish(state, far);
        assertThat(ids(state.next())).as("it does not wait for each").containsExactly("c/1");
    }

    @Test
    void aRunIsOverInTheMomentItsLastWorkerFindsNothing() throws Exception {
        RunState state = state(Terms.fixed(1), "a/1");
        finish(state, state.next().orElseThrow());
        assertThat(state.snapshot().phase()).isEqualTo(RunSnapshot.Phase.WORKING);
        assertThat(state.next()).isEmpty();
        assertThat(state.isOver()).isTrue();
        assertThat(state.snapshot().phase()).isEqualTo(RunSnapshot.Phase.OVER);
        assertThat(state.takeUp(copies("b/1"), System.nanoTime(), Map.of(), () -> {}))
                .isFalse();
    }

    @Test
    void whatIsTakenUpBringsBackTheWorkersThatHadLeft() throws Exception {
        RunState state = state(Terms.fixed(2), "a/1");
        Group making = state.next().orElseThrow();
        state.leave(); // the other worker found nothing
        var begun = new ArrayList<String>();
        assertThat(state.takeUp(copies("b/1"), System.nanoTime(), Map.of(), () -> begun.add("worker")))
                .isTrue();
        assertThat(begun).hasSize(1);
        assertThat(ids(state.next())).containsExactly("b/1");
        finish(state, making);
    }

    @Test
    void whatCameToItsEndWhileTheCatalogueWasReadIsNotMadeAgain() throws Exception {
        RunState state = state(Terms.fixed(1), "a/1", "b/1");
        long asked = System.nanoTime();
        List<WorkingCopy> read = copies("a/1", "b/1", "c/1"); // as the catalogue had them then
        finish(state, state.next().orElseThrow());
        assertThat(state.takeUp(read, asked, Map.of(), () -> {})).isTrue();
        Group second = state.next().orElseThrow();
        assertThat(ids(second.copies)).containsExactly("b/1");
        finish(state, second);
        assertThat(ids(state.next())).containsExactly("c/1");
    }

    @Test
    void takingOneAwayEndsTheMakingOfItsGroupAndNoOther() throws Exception {
        RunState state = state(Terms.fixed(2), "a/1", "a/2", "b/1", "c/1");
        Group first = state.next().orElseThrow();
        Group second = state.next().orElseThrow();
        RunState.TakenAway taken = state.takeAway(List.of("a/2", "c/1", "never there"));
        assertThat(ids(taken.copies())).containsExactlyInAnyOrder("a/2", "c/1");
        assertThat(taken.groups()).containsExactly(first);
        assertThat(state.isDropped(first, copy("a/2"))).isTrue();
        assertThat(state.isDropped(first, copy("a/1"))).isFalse();
        state.drop(taken.copies());
        state.giveBack(copies("a/1"));
        state.ended(first);
        finish(state, second);
        assertThat(ids(state.next())).containsExactly("a/1");
        assertThat(ids(state.snapshot().copies().stream()
                        .map(CopyProgress::copy)
                        .toList()))
                .containsExactlyInAnyOrder("a/1", "b/1");
    }

    @Test
    void whatIsMadeAlreadyIsNotTakenAway() throws Exception {
        RunState state = state(Terms.fixed(1), "a/1", "b/1");
        finish(state, state.next().orElseThrow());
        assertThat(state.takeAway(List.of("a/1")).copies()).isEmpty();
    }

    @Test
    void aPauseKeepsWorkersWaitingAndGoingOnWakesThem() throws Exception {
        RunState state = state(Terms.fixed(1), "a/1");
        state.pause(true);
        var next = CompletableFuture.supplyAsync(() -> {
            try {
                return ids(state.next());
            } catch (InterruptedException e) {
                throw new IllegalStateException(e);
            }
        });
        assertThat(state.snapshot().phase()).isEqualTo(RunSnapshot.Phase.PAUSED);
        assertThat(next).isNotDone();
        state.pause(false);
        assertThat(next.get(20, TimeUnit.SECONDS)).containsExactly("a/1");
    }

    @Test
    void stoppingLetsWorkersGoAndNamesWhatIsInTheMaking() throws Exception {
        RunState state = state(Terms.fixed(2), "a/1", "b/1");
        Group making = state.next().orElseThrow();
        assertThat(state.stop()).containsExactly(making);
        assertThat(state.next()).isEmpty();
        assertThat(state.wantsBrake()).isFalse();
        assertThat(state.takeUp(copies("c/1"), System.nanoTime(), Map.of(), () -> {}))
                .isFalse();
    }

    @Test
    void theBrakeIsWantedByHandOrForOthersButNotForOthersWhenNotGently() {
        RunState state = state(Terms.fixed(1).at(new Pace(Optional.empty(), Optional.empty(), true, 0)), "a/1");
        assertThat(state.othersAreInTheWay("an editing program")).isTrue();
        assertThat(state.othersAreInTheWay("another one")).isFalse(); // it is held already
        assertThat(state.wantsBrake()).isTrue();
        state.pace(Pace.NOW);
        assertThat(state.wantsBrake()).isFalse();
        state.hold(true);
        assertThat(state.wantsBrake()).isTrue();
    }

    @Test
    void aWindowThatIsOverBeginsNothing() throws Exception {
        Pace over = new Pace(Optional.empty(), Optional.of(Instant.now().minusSeconds(1)), false, 0);
        RunState state = state(Terms.fixed(1).at(over), "a/1");
        assertThat(state.next()).isEmpty();
        assertThat(state.isStillToBeMade(copy("a/1"))).isTrue();
    }

    @Test
    void whatLacksItsVolumeLetsOthersByAndIsGivenUpWhenPatienceEnds() throws Exception {
        RunState state = state(Terms.fixed(1).patient(Duration.ZERO), "a/1", "b/1");
        Group first = state.next().orElseThrow();
        state.set(first.copies);
        state.obstructed(copy("a/1"), new Obstacle.SourceAway(Path.of("/mnt/away")));
        state.ended(first);
        finish(state, state.next().orElseThrow());
        assertThat(state.snapshot().phase()).isEqualTo(RunSnapshot.Phase.WAITING);
        assertThat(state.obstructed()).containsOnlyKeys("a/1");
        assertThat(state.isOutOfPatience("a/1")).isTrue();
        assertThat(ids(state.giveUp("a/1").stream().toList())).containsExactly("a/1");
        assertThat(state.next()).isEmpty();
    }

    @Test
    void whatIsFreeAgainIsMadeFirst() throws Exception {
        RunState state = state(Terms.fixed(2), "a/1", "b/1", "c/1");
        Group first = state.next().orElseThrow();
        state.set(first.copies);
        state.obstructed(copy("a/1"), new Obstacle.SourceAway(Path.of("/mnt/away")));
        state.ended(first);
        state.free("a/1");
        assertThat(ids(state.next())).containsExactly("a/1");
    }

    @Test
    void lackOfMemoryMakesFewerAtATimeAndEachOnceMore() throws Exception {
        RunState state = state(Terms.fixed(3), "a/1", "b/1", "c/1");
        assertThat(state.lackedMemory(copies("a/1"))).isTrue();
        assertThat(state.bestWorkers()).isEqualTo(2);
        assertThat(state.lackedMemory(copies("a/1"))).isFalse();
        assertThat(state.bestWorkers()).isEqualTo(1);
    }

    /// A hundred thousand copies: each of many questions may take no longer than a look.
    @Test
    void aHundredThousandCopiesAreTakenUpMovedAndMade() throws Exception {
        String[] ids = IntStream.range(0, 100_000).mapToObj(i -> i + "/1").toArray(String[]::new);
        RunState state = state(Terms.fixed(1), ids);
        List<String> order = state.move(List.of("99999/1", "50000/1"), true);
        assertThat(order.subList(0, 3)).containsExactly("50000/1", "99999/1", "0/1");
        assertThat(order).hasSize(100_000);
        for (int i = 0; i < 100_000; i++) {
            finish(state, state.next().orElseThrow());
        }
        assertThat(state.next()).isEmpty();
        assertThat(state.snapshot().ready()).isEqualTo(100_000);
    }
}
