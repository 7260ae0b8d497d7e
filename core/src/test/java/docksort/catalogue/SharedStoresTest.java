package docksort.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.PostgresServer;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.problem.CoreException.InputRefused;
import java.time.Instant;
import java.time.InstantSource;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import net.jqwik.api.Example;

/// The promises of the stores, kept by a schema of a database server.
class SharedStoresTest extends StoresContract {
    private static final InstantSource CLOCK = InstantSource.fixed(Instant.parse("2026-03-01T02:00:00Z"));

    private final Set<String> begun = new HashSet<>();

    @Override
    Catalogue open(String name, Desk desk) {
        SharedAddress address =
                PostgresServer.address("stores_" + name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]", "_"));
        return begun.add(name) ? Catalogue.begin(address, CLOCK, desk) : Catalogue.open(address, CLOCK, desk);
    }

    /// Each desk takes back its own steps; one that another desk has built on is refused, by name, until that
    /// one is taken back.
    @Example
    void undoIsOfOnesOwnStepsAndSweepsNothingAwayThatSomebodyBuiltOnIt() {
        try (Catalogue here = open("undo-own", new Desk("desk", "somebody"));
                Catalogue there = open("undo-own", new Desk("suite", "another"))) {
            fillAll(here);
            List<ClipId> clips = here.clips().all().stream().map(Clip::id).toList();
            here.choices().choose(clips.subList(0, 1), Optional.of(List.of("a")), "mine");
            there.choices().choose(clips.subList(1, 2), Optional.of(List.of("b")), "theirs");
            assertThat(here.activity().whatUndoTakesBack()).contains("mine");
            assertThat(here.activity().undo(Optional.empty())).contains("mine");
            assertThat(there.activity().whatRedoDoesAgain()).isEmpty();
            there.settings().change("limits", "9", "other limits"); // ends no redo of another desk
            assertThat(here.activity().redo(Optional.empty())).contains("mine");

            there.choices().choose(clips.subList(0, 2), Optional.of(List.of("c")), "built on it");
            assertThatThrownBy(() -> here.activity().undo(Optional.empty()))
                    .isInstanceOf(InputRefused.class)
                    .hasMessageContaining("another at suite has changed the same since: built on it");
            assertThat(here.choices().all()).containsEntry(clips.getFirst(), List.of("c"));
            assertThat(there.activity().undo(Optional.empty())).contains("built on it");
            assertThat(here.activity().undo(Optional.empty())).contains("mine");
            assertThat(here.choices().all()).containsEntry(clips.get(1), List.of("b"));
        }
    }
}
