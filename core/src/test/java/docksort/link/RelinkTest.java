package docksort.link;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Clips;
import docksort.Decisions;
import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.catalogue.Presence;
import docksort.catalogue.Presence.State;
import docksort.catalogue.Root;
import docksort.media.ClipSource;
import docksort.problem.CoreException.InputRefused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.stream.Stream;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/// Pointing a root at another folder, held against what was done to each file on the way there.
class RelinkTest {
    /// What became of a file.
    private enum Fate {
        MOVED(State.ONLINE),
        LEFT_BEHIND(State.OFFLINE),
        CHANGED(State.REFUSED),
        LONGER(State.REFUSED),
        A_FOLDER_NOW(State.OFFLINE);

        private final State state;

        Fate(State state) {
            this.state = state;
        }
    }

    private static final List<Fate> FATES = List.of(Fate.values());

    @Provide
    Arbitrary<Random> decisions() {
        return Decisions.rows(120);
    }

    @Property(tries = 100)
    void everyClipIsToldByItsContent(@ForAll("decisions") Random random) throws IOException {
        Path base = Files.createTempDirectory("relink");
        Path was = Files.createDirectories(base.resolve("was"));
        Path is = Files.createDirectories(base.resolve("is"));
        Map<Clip, Fate> fates = new LinkedHashMap<>();
        int count = random.nextInt(8);
        for (int number = 0; number < count; number++) {
            Path place = Path.of("roll " + random.nextInt(3), "é " + number + ".mov");
            byte[] content = new byte[1 + random.nextInt(3_000)];
            random.nextBytes(content);
            content[0] = (byte) number; // no two alike
            Path file = was.resolve(place);
            Files.createDirectories(file.getParent());
            Files.write(file, content);
            var source = new ClipSource.SingleFile(file);
            Clip facts = Clips.named("clip " + number).clip();
            var clip = new Clip(facts.id(), facts.arrival(), source, facts.facts(), ArrivalScan.fingerprint(source));
            Fate fate = FATES.get(random.nextInt(FATES.size()));
            fates.put(clip, fate);
            happens(fate, is.resolve(place), content);
        }
        // A clip of another root is none of this one's.
        Clip elsewhere = Clips.named("elsewhere").clip();
        var all = new ArrayList<>(fates.keySet());
        all.add(elsewhere);
        Relink relink = Relink.preview(new Root("1", "card", was), is, all);
        assertThat(relink.lines()).extracting(Relink.Line::clip).containsExactlyElementsOf(fates.keySet());
        assertThat(relink.lines()).allSatisfy(line -> {
            Fate fate = Objects.requireNonNull(fates.get(line.clip()));
            assertThat(line.presence().state()).as("%s", fate).isEqualTo(fate.state);
            assertThat(line.candidate())
                    .isEqualTo(is.resolve(was.relativize(line.clip().source().head())));
            assertThat(line.presence().state() == State.ONLINE)
                    .isEqualTo(line.presence().equals(Presence.ONLINE));
        });
        for (State state : State.values()) {
            assertThat(relink.count(state))
                    .isEqualTo(fates.values().stream()
                            .filter(fate -> fate.state == state)
                            .count());
        }
        try (Stream<Path> left = Files.walk(base)) {
            for (Path each : left.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(each);
            }
        }
    }

    private static void happens(Fate fate, Path to, byte[] content) throws IOException {
        Files.createDirectories(to.getParent());
        switch (fate) {
            case MOVED -> Files.write(to, content);
            case LEFT_BEHIND -> {}
            case CHANGED -> {
                byte[] other = content.clone();
                other[content.length / 2] ^= 1;
                Files.write(to, other);
            }
            case LONGER -> {
                Files.write(to, content);
                Files.write(to, new byte[] {7}, StandardOpenOption.APPEND);
            }
            case A_FOLDER_NOW -> Files.createDirectory(to);
        }
    }

    @Property(tries = 1)
    void whatIsNoFolderIsRefused() throws IOException {
        Path file = Files.createTempFile("relink", "");
        for (Path place : List.of(file, file.resolveSibling("nobody's"))) {
            assertThatThrownBy(() -> Relink.preview(new Root("1", "card", Path.of("/card")), place, List.of()))
                    .isInstanceOf(InputRefused.class)
                    .hasMessageContaining("card");
        }
        Files.delete(file);
    }
}
