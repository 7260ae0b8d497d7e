package docksort.stock;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.sort.CopyKind;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ServingOrderTest {
    private static final Clip CLIP = Clips.named("A001").clip();

    /// @param words such as "LIGHT READY 540" or "FULL READY 1080 stopped"
    private static WorkingCopy copy(String words) {
        String[] word = words.strip().split(" ", -1);
        int height = Integer.parseInt(word[2]);
        return new WorkingCopy(
                words.strip(),
                CLIP.id(),
                CopyKind.valueOf(word[0]),
                "r",
                "copies",
                Path.of("/copies/" + words.strip()),
                CopyState.valueOf(word[1]),
                "",
                CLIP.fingerprint(),
                Optional.empty(),
                new WorkingCopy.Place(1, 1, height * 16 / 9, height, "x", "", ""),
                new WorkingCopy.Service(word.length > 3, 0),
                0);
    }

    private static List<WorkingCopy> copies(String all) {
        return all.isBlank()
                ? List.of()
                : Arrays.stream(all.split(",", -1)).map(ServingOrderTest::copy).toList();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        light     | ''                                            | original
        light     | LIGHT READY 540                               | LIGHT READY 540
        light     | LIGHT READY 540, FULL READY 1080              | LIGHT READY 540
        full      | LIGHT READY 540, FULL READY 1080              | FULL READY 1080
        full      | LIGHT READY 540                               | LIGHT READY 540
        originals | LIGHT READY 540, FULL READY 1080              | original
        light     | LIGHT STALE 540, FULL READY 1080              | FULL READY 1080
        light     | LIGHT MISSING 540                             | original
        light     | LIGHT SUSPECT 540                             | original
        light     | LIGHT WAITING 540, LIGHT FAILED 720           | original
        light     | LIGHT READY 540 stopped, FULL READY 1080      | FULL READY 1080
        light     | LIGHT READY_WITH_HOLES 540                    | LIGHT READY_WITH_HOLES 540
        light     | LIGHT READY_WITH_HOLES 540 stopped            | original
        light     | LIGHT READY 540, LIGHT READY 720              | LIGHT READY 720
        light     | LIGHT READY 720, LIGHT READY 540              | LIGHT READY 720
        light     | RANGE READY 1080                              | original
        light     | SOUND READY 1                                 | original
        """)
    void theFirstKindThatIsThereServes(String order, String copies, String served) {
        Served by = ServingOrder.named(order).orElseThrow().serve(CLIP, copies(copies), Presence.ONLINE);
        assertThat(by instanceof Served.ByCopy copy ? copy.copy().id() : by.label())
                .isEqualTo(served);
        Path file = by instanceof Served.ByCopy copy
                ? copy.copy().file()
                : CLIP.source().head();
        assertThat(by.file()).isEqualTo(file);
    }

    /// Light copies of several sizes: the largest that is no larger than wanted, or the smallest there is, marked.
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        light | 0   | LIGHT READY 270, LIGHT READY 540, LIGHT READY 1080 | LIGHT READY 1080 | light
        light | 540 | LIGHT READY 270, LIGHT READY 540, LIGHT READY 1080 | LIGHT READY 540  | light
        light | 600 | LIGHT READY 1080, LIGHT READY 540, LIGHT READY 270 | LIGHT READY 540  | light
        light | 200 | LIGHT READY 1080, LIGHT READY 270, LIGHT READY 540 | LIGHT READY 270  | light, large
        light | 540 | LIGHT MISSING 540, LIGHT READY 270, LIGHT READY 720 | LIGHT READY 270 | light
        light | 540 | LIGHT READY 540 stopped, LIGHT READY 1080          | LIGHT READY 1080 | light, large
        light | 540 | FULL READY 1080                                    | FULL READY 1080  | full
        full  | 540 | FULL READY 720, FULL READY 1080, LIGHT READY 540   | FULL READY 1080  | full
        """)
    void ofSeveralLightCopiesTheOneOfTheWantedSizeServes(
            String order, int lines, String copies, String served, String label) {
        Served by = ServingOrder.named(order)
                .orElseThrow()
                .withLightLines(lines)
                .serve(CLIP, copies(copies), Presence.ONLINE);
        assertThat(by)
                .isInstanceOfSatisfying(
                        Served.ByCopy.class,
                        copy -> assertThat(copy.copy().id()).isEqualTo(served));
        assertThat(by.label()).isEqualTo(label);
    }

    @Provide
    Arbitrary<List<WorkingCopy>> anyCopies() {
        Arbitrary<String> words = Combinators.combine(
                        Arbitraries.of(CopyKind.values()),
                        Arbitraries.of(CopyState.values()),
                        Arbitraries.of(360, 540, 720, 1080),
                        Arbitraries.of("", " stopped"))
                .as((kind, state, height, stopped) -> kind.name() + " " + state.name() + " " + height + stopped);
        return words.map(ServingOrderTest::copy).list().ofMaxSize(8);
    }

    /// Gone through one by one: nothing that may serve and comes earlier in the order, or is larger, is
    /// passed over, and in which order copies are listed changes nothing.
    @Property
    void nothingBetterIsPassedOver(
            @ForAll("anyCopies") List<WorkingCopy> copies, @ForAll("orders") ServingOrder order) {
        Served served = order.serve(CLIP, copies, Presence.ONLINE);
        List<WorkingCopy> able = copies.stream()
                .filter(copy -> order.kinds().contains(copy.kind()))
                .filter(WorkingCopy::mayServe)
                .toList();
        if (served instanceof Served.ByCopy by) {
            assertThat(able).contains(by.copy());
            assertThat(able).allSatisfy(other -> {
                int earlier =
                        order.kinds().indexOf(other.kind()) - order.kinds().indexOf(by.kind());
                assertThat(earlier).isNotNegative();
                if (earlier == 0) {
                    assertThat(other.place().height())
                            .isLessThanOrEqualTo(by.copy().place().height());
                }
            });
        } else {
            assertThat(able).isEmpty();
        }
        assertThat(order.serve(CLIP, copies.reversed(), Presence.ONLINE)).isEqualTo(served);
    }

    @Provide
    Arbitrary<ServingOrder> orders() {
        return Arbitraries.of(ServingOrder.ALL);
    }

    @Test
    void anOriginalThatIsAwayStandsInAllTheSameAndSaysSo() {
        var away = new Presence(Presence.State.OFFLINE, "its volume is away");
        Served served = ServingOrder.LIGHT_FIRST.serve(CLIP, List.of(), away);
        assertThat(served.label()).isEqualTo("original, offline");
        Served copy = ServingOrder.LIGHT_FIRST.serve(CLIP, copies("LIGHT READY 540"), away);
        assertThat(copy.label()).isEqualTo("light");
        assertThat(((Served.ByCopy) copy).kind()).isEqualTo(CopyKind.LIGHT);
    }

    @Test
    void ordersAreKnownByTheirIdsAndNoOther() {
        assertThat(ServingOrder.ALL)
                .allSatisfy(order -> assertThat(ServingOrder.named(order.id())).contains(order));
        assertThat(ServingOrder.named("proxies")).isEmpty();
    }

    /// Nothing is seen beside a picture that is away, and sound has none.
    @Test
    void copiesToSeeAreFinishedPicturesOfAnOriginalThatIsThere() {
        List<WorkingCopy> all = copies("LIGHT READY 540, FULL WAITING 1080, SOUND READY 1, RANGE READY 1080");
        var there = new StockLine(CLIP, Presence.ONLINE, all, new Served.ByOriginal(Path.of("/x"), true));
        assertThat(there.copiesToSee())
                .extracting(WorkingCopy::id)
                .containsExactly("LIGHT READY 540", "RANGE READY 1080");
        var away = new StockLine(
                CLIP, new Presence(Presence.State.MOVED, ""), all, new Served.ByOriginal(Path.of("/x"), false));
        assertThat(away.copiesToSee()).isEmpty();
    }
}
