package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Cable;
import docksort.Footage;
import docksort.PostgresServer;
import docksort.WithMedia;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.Desk;
import docksort.catalogue.Machine;
import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.catalogue.SharedAddress;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.problem.CoreException.InputRefused;
import docksort.run.RunLine;
import docksort.run.RunSnapshot;
import docksort.sort.BookMerge;
import docksort.sort.BookOutcome;
import docksort.sort.Condition;
import docksort.sort.Fact;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.SortRule;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInfo;
import org.junit.jupiter.api.io.TempDir;

/// One project on two workstations. Both are this machine under two names, with a folder each.
@WithMedia
class SharedProjectTest {
    private static final InstantSource CLOCK = InstantSource.system();
    private static final int CLIPS = 8;

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Project desk;
    private SharedAddress address;

    @BeforeEach
    void share(TestInfo test) throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/CARD"));
        for (int i = 0; i < CLIPS; i++) {
            new Footage(engine)
                    .clip(card.resolve("C" + i + ".mp4"), "320x180", "25", 25, "-c:v", "libx264", "-g", "12");
        }
        address = PostgresServer.address(SharedAddress.schemaFor(
                "project " + test.getTestMethod().orElseThrow().getName()));
        Path own = folder.resolve("desk");
        try (Project alone = Project.open(own, engine, CLOCK)) {
            alone.arrivals().add(card, ScanListener.none(), new Cancellation());
            assertThat(alone.sharing().address()).isEmpty();
            alone.sharing().share(address);
        }
        desk = Project.open(own, engine, CLOCK);
    }

    @AfterEach
    void close() {
        desk.close();
        engine.close();
    }

    private Project joined(Map<String, Path> places) {
        Sharing.join(folder.resolve("suite"), address, joining("suite", places, false), CLOCK);
        return Project.open(folder.resolve("suite"), engine, CLOCK);
    }

    private static Sharing.Joining joining(String workstation, Map<String, Path> places, boolean samePaths) {
        return new Sharing.Joining(new Desk(workstation, "another"), places, samePaths, false);
    }

    private Map<String, Path> allPlaces() {
        return desk.roots().all().stream().collect(Collectors.toMap(Root::name, Root::path));
    }

    /// The queue of one project runs on two machines at once: every copy is made, by one of them, once.
    @Test
    void twoWorkstationsMakeOneQueueTogether() throws Exception {
        try (Project suite = joined(allPlaces())) {
            desk.plans().choose(desk.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_PRORES)));
            desk.queue().enqueue(desk.plans().loadSheet());
            try (LockedRun here = desk.runs().start(1, () -> {}).orElseThrow();
                    LockedRun there = suite.runs().start(1, () -> {}).orElseThrow()) {
                assertThat(here.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
                assertThat(there.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
            }
            List<WorkingCopy> copies = suite.stocktaking().lines().stream()
                    .flatMap(line -> line.copies().stream())
                    .toList();
            assertThat(copies).hasSize(2 * CLIPS).allMatch(copy -> copy.state() == CopyState.READY);
            List<List<String>> made = suite.runs().all().stream()
                    .map(run -> suite.runs().report(run).lines().stream()
                            .map(RunLine::file)
                            .toList())
                    .toList();
            assertThat(made).hasSize(2).noneMatch(List::isEmpty);
            assertThat(made.stream().flatMap(List::stream))
                    .containsExactlyInAnyOrderElementsOf(
                            copies.stream().map(copy -> copy.file().toString()).toList());
            try (Stream<Path> files = Files.walk(desk.roots().copies().path())) {
                assertThat(files.filter(Files::isRegularFile)).hasSize(2 * CLIPS);
            }
        }
    }

    /// A machine that was given certain recipes leaves the others where they are.
    @Test
    void aWorkstationMakesOnlyTheRecipesItWasGiven() throws Exception {
        try (Project suite = joined(allPlaces())) {
            desk.plans().choose(desk.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_PRORES)));
            desk.queue().enqueue(desk.plans().loadSheet());
            desk.runs().give("suite", Optional.of(List.of(Recipe.FULL_PRORES)));
            assertThat(suite.runs().hasWork()).isTrue();
            try (LockedRun run = suite.runs().start(1, () -> {}).orElseThrow()) {
                assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
            }
            assertThat(suite.runs().hasWork()).isFalse();
            assertThat(desk.queue().size()).isEqualTo(CLIPS);
            assertThat(desk.stocktaking().lines().stream().flatMap(line -> line.copies().stream()))
                    .allMatch(copy ->
                            copy.recipeId().equals(Recipe.FULL_PRORES.id()) == (copy.state() == CopyState.READY));
            desk.runs().give("suite", Optional.empty());
            assertThat(suite.runs().hasWork()).isTrue();
        }
    }

    /// The network fails while a copy is made: it is finished and entered when the network is back, and what is
    /// asked of the machine meanwhile reaches it then.
    @Test
    void whatIsFinishedWhileTheDatabaseIsAwayIsEnteredWhenItIsBack() throws Exception {
        try (var cable = new Cable(address)) {
            Sharing.join(folder.resolve("suite"), cable.address(address), joining("suite", allPlaces(), false), CLOCK);
            desk.plans().choose(desk.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF)));
            desk.queue().enqueue(desk.plans().loadSheet());
            var changes = new LinkedBlockingQueue<Boolean>();
            try (Project suite = Project.open(folder.resolve("suite"), engine, CLOCK);
                    LockedRun run =
                            suite.runs().start(1, () -> changes.add(true)).orElseThrow()) {
                until(changes, () -> run.run().snapshot().ready() > 0);
                cable.pullOut();
                until(changes, () -> run.run().snapshot().phase() == RunSnapshot.Phase.WAITING);
                assertThat(run.run().snapshot().why()).contains("database does not answer");
                assertThat(desk.runs().machines())
                        .singleElement()
                        .extracting(Machine::workstation)
                        .isEqualTo("suite");
                cable.putIn();
                assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
                assertThat(run.run().snapshot().ready()).isEqualTo(CLIPS);
            }
            assertThat(desk.runs().machines()).isEmpty();
        }
        assertThat(desk.stocktaking().lines().stream()
                        .flatMap(line -> line.copies().stream())
                        .map(WorkingCopy::state))
                .hasSize(CLIPS)
                .containsOnly(CopyState.READY);
        try (Stream<Path> files = Files.walk(desk.roots().copies().path())) {
            assertThat(files.filter(Files::isRegularFile)).hasSize(CLIPS);
        }
    }

    private static void until(BlockingQueue<Boolean> changes, BooleanSupplier holds) throws InterruptedException {
        while (!holds.getAsBoolean()) {
            assertThat(changes.poll(60, TimeUnit.SECONDS))
                    .as("something changes")
                    .isNotNull();
        }
    }

    /// Two people begin with the same rules. The second one is told of the first; what they do apart goes
    /// together.
    @Test
    void aRuleThatTwoPeopleChangeIsAskedOfTheSecond() {
        try (Project suite = joined(allPlaces())) {
            SortBook base = desk.book().now();
            List<SortRule> rules = base.rules();
            SortBook mine = base.withRules(List.of(rule("3"), rules.get(1), rules.get(2)));
            SortBook theirs = base.withRules(List.of(rule("5"), rules.get(1), rules.get(2)));
            assertThat(suite.book().change(base, theirs, "Changed rule 1")).isInstanceOf(BookOutcome.Kept.class);
            assertThat(desk.book().change(base, base.queueing(true), "New arrivals are queued"))
                    .isInstanceOf(BookOutcome.Kept.class);
            assertThat(suite.book().now()).isEqualTo(theirs.queueing(true));
            BookOutcome.Both both = (BookOutcome.Both) desk.book().change(base, mine, "Changed rule 1 here");
            assertThat(both.who()).isEqualTo("another at suite: Changed rule 1");
            assertThat(both.both())
                    .singleElement()
                    .extracting(BookMerge.Both::what)
                    .isEqualTo("Rule 1");
            assertThat(desk.book().now()).isEqualTo(theirs.queueing(true));
            assertThat(desk.book().change(both.theirs(), both.mine().orElseThrow(), "Mine"))
                    .isInstanceOf(BookOutcome.Kept.class);
            assertThat(suite.book().now()).isEqualTo(mine.queueing(true));
        }
    }

    private static SortRule rule(String cost) {
        return new SortRule(
                List.of(new Condition(Fact.SCRUB_COST, Fact.Is.AT_LEAST, cost)),
                List.of(Recipe.LIGHT_PRORES_HALF.id()));
    }

    /// Two folders under one name would sweep each other's files in the making.
    @Test
    void aNameIsOfOneWorkstationUnlessItIsSaidToBeThatOne() {
        joined(allPlaces()).close();
        Path another = folder.resolve("another");
        assertThatThrownBy(() -> Sharing.join(another, address, joining("suite", Map.of(), true), CLOCK))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("joined under the name suite");
        assertThatThrownBy(() -> Sharing.join(another, address, joining(deskName(), Map.of(), true), CLOCK))
                .isInstanceOf(InputRefused.class);
        assertThat(Project.isIn(another)).isFalse();
        assertThat(Sharing.join(
                        another,
                        address,
                        new Sharing.Joining(new Desk("suite", "another"), Map.of(), true, true),
                        CLOCK))
                .allMatch(Root::isPlaced);
    }

    private String deskName() {
        return desk.roots().workstation();
    }

    @Test
    void whatAWorkstationDoesNotSeeIsAwayThereAndSaidToBe() {
        Map<String, Path> copiesOnly = Map.of("Copies", desk.roots().copies().path());
        try (Project suite = joined(copiesOnly)) {
            suite.stocktaking().refresh();
            assertThat(suite.stocktaking().lines()).hasSize(CLIPS).allSatisfy(line -> {
                assertThat(line.presence().state()).isEqualTo(Presence.State.OFFLINE);
                assertThat(line.presence().note()).contains("this workstation has no folder for volume");
            });
            desk.stocktaking().refresh();
            assertThat(desk.stocktaking().lines())
                    .allMatch(line -> line.presence().isOnline());
            assertThat(suite.activity(1)).singleElement().satisfies(deed -> {
                assertThat(deed.what()).isEqualTo("suite joined the project");
                assertThat(deed.person()).isEqualTo("another");
            });
        }
    }

    @Test
    void aRootOrAFolderThatIsNotThereIsRefusedAndNothingIsJoined() {
        for (Map<String, Path> places :
                List.of(Map.of("Nowhere", folder), Map.of("Copies", folder.resolve("not/there")))) {
            assertThatThrownBy(() -> joined(places)).isInstanceOf(InputRefused.class);
            assertThat(Project.isIn(folder.resolve("suite"))).isFalse();
        }
        assertThatThrownBy(() -> desk.sharing().share(address))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("shared already");
    }

    @Test
    void rootsAreTakenFromTheSamePathsOnlyWhereThereIsAFolder() throws Exception {
        assertThat(Sharing.join(folder.resolve("third"), address, joining("third", Map.of(), true), CLOCK))
                .hasSize(2)
                .allMatch(Root::isPlaced);
        Files.move(folder.resolve("volume"), folder.resolve("gone"));
        assertThat(Sharing.join(folder.resolve("fourth"), address, joining("fourth", Map.of(), true), CLOCK))
                .filteredOn(root -> !root.isPlaced())
                .extracting(Root::name)
                .containsExactly("volume");
    }
}
