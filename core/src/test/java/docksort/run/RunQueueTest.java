package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Decisions;
import docksort.arrival.ClipId;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.sort.CopyKind;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/// The queue held against a plain list that is gone through for everything.
class RunQueueTest {
    private static final int CLIPS = 4;

    private RunQueue queue = new RunQueue();
    private final List<String> waiting = new ArrayList<>();
    private final List<String> held = new ArrayList<>();
    private final List<String> making = new ArrayList<>();
    private final Map<String, WorkingCopy> copies = new HashMap<>();

    @Provide
    Arbitrary<Random> decisions() {
        return Decisions.rows(1_000);
    }

    private WorkingCopy copy(int number) {
        int clip = number % CLIPS;
        Optional<FrameRange> range = number % 3 == 0 ? Optional.of(new FrameRange(clip, 5)) : Optional.empty();
        return new WorkingCopy(
                "copy " + number,
                new ClipId("clip " + clip),
                CopyKind.LIGHT,
                "recipe",
                "root",
                Path.of("copy" + number + ".mov"),
                CopyState.WAITING,
                "",
                new Fingerprint(1, "0".repeat(32)),
                range,
                WorkingCopy.Place.NOT_YET,
                WorkingCopy.Service.USUAL,
                0);
    }

    @Property(tries = 200)
    void doesWhatAListWould(@ForAll("decisions") Random random) {
        queue = new RunQueue();
        List.of(waiting, held, making).forEach(List::clear);
        copies.clear();
        int fresh = 0;
        for (int step = 0; step < 120; step++) {
            switch (random.nextInt(8)) {
                case 0, 1 -> add(copy(fresh++));
                case 2 -> claim();
                case 3 -> giveBack(random);
                case 4 -> hold(random);
                case 5 -> free(random);
                case 6 -> takeOut(random);
                default -> move(random);
            }
            assertThat(queue.order()).as("step %d", step).isEqualTo(waiting);
            assertThat(queue.held().keySet()).containsExactlyInAnyOrderElementsOf(held);
            assertThat(queue.hasWaiting()).isEqualTo(!waiting.isEmpty());
            assertThat(queue.isEmpty()).isEqualTo(waiting.isEmpty() && held.isEmpty());
        }
    }

    private void add(WorkingCopy copy) {
        copies.put(copy.id(), copy);
        queue.add(List.of(copy, copy), Map.of()); // there already the second time
        waiting.add(copy.id());
    }

    private void claim() {
        List<String> expected = waiting.stream()
                .filter(id -> stretch(id).equals(stretch(waiting.getFirst())))
                .toList();
        assertThat(queue.claim(Set.of())).extracting(WorkingCopy::id).isEqualTo(expected);
        waiting.removeAll(expected);
        making.addAll(expected);
    }

    private static String stretch(String id) {
        int number = Integer.parseInt(id.substring("copy ".length()));
        return number % CLIPS + (number % 3 == 0 ? " in part" : "");
    }

    private void giveBack(Random random) {
        List<String> some = some(making, random);
        queue.giveBack(some.stream().map(copies::get).toList());
        making.removeAll(some);
        waiting.addAll(0, some);
    }

    private void hold(Random random) {
        for (String id : some(making, random)) {
            queue.hold(id, new Obstacle.SourceAway(Path.of("volume")));
            making.remove(id);
            held.add(id);
        }
    }

    private void free(Random random) {
        for (String id : some(held, random)) {
            queue.free(id);
            held.remove(id);
            waiting.addFirst(id);
        }
    }

    private void takeOut(Random random) {
        for (String id : some(waiting, random)) {
            assertThat(queue.takeOut(id)).map(WorkingCopy::id).contains(id);
            waiting.remove(id);
        }
        assertThat(queue.takeOut("nobody")).isEmpty();
    }

    private void move(Random random) {
        List<String> some = some(waiting, random);
        List<String> inOrder = waiting.stream().filter(some::contains).toList();
        if (random.nextBoolean() && !waiting.isEmpty()) {
            String target = waiting.get(random.nextInt(waiting.size()));
            queue.moveBefore(some, target);
            if (!some.contains(target)) {
                waiting.removeAll(some);
                waiting.addAll(waiting.indexOf(target), inOrder);
            }
            return;
        }
        boolean first = random.nextBoolean();
        queue.move(some, first);
        waiting.removeAll(some);
        waiting.addAll(first ? 0 : waiting.size(), inOrder);
    }

    private static List<String> some(List<String> all, Random random) {
        var shuffled = new ArrayList<>(all);
        Collections.shuffle(shuffled, random);
        return List.copyOf(shuffled.subList(0, random.nextInt(shuffled.size() + 1) / 2));
    }
}
