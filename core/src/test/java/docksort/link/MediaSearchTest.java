package docksort.link;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.engine.Cancellation;
import docksort.files.Fingerprinter;
import docksort.link.MediaSearch.Result;
import docksort.link.MediaSearch.Wanted;
import docksort.media.ClipSource;
import docksort.media.ClipSource.SingleFile;
import docksort.media.Fingerprint;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Finding recordings again by what they hold. A search never opens more than it must and never goes by a
/// name.
class MediaSearchTest {
    @TempDir
    Path folder = Path.of("");

    private final Random random = new Random(20_260_311);

    private Path file(String name, byte[] bytes) throws IOException {
        Path file = folder.resolve(name);
        Files.createDirectories(Objects.requireNonNull(file.getParent()));
        return Files.write(file, bytes);
    }

    private byte[] content(int bytes) {
        byte[] content = new byte[bytes];
        random.nextBytes(content);
        return content;
    }

    /// A recording that was at a place before; what it held is written somewhere, its fingerprint taken,
    /// and it is gone again.
    private Wanted wanted(String was, byte[] content) throws IOException {
        Path probe = file("probe.mov", content);
        var wanted =
                new Wanted(was, was, new SingleFile(folder.resolve("before").resolve(was)), Fingerprinter.of(probe));
        Files.delete(probe);
        return wanted;
    }

    private List<Result> search(List<Wanted> wanted) {
        return new MediaSearch(new Cancellation(), (_, _) -> {}).search(folder.resolve("now"), wanted, Set.of());
    }

    /// 10,000 clips moved, renamed and put into other folders among look-alikes: same name and other
    /// content, same size and other content, and the same content twice.
    @Test
    void everyRightMatchIsFoundAmongTenThousandAndNoWrongOne() throws Exception {
        var wanted = new ArrayList<Wanted>();
        Map<String, Set<Path>> right = new HashMap<>();
        for (int i = 0; i < 10_000; i++) {
            String was = "card " + i / 100 + "/C%05d.mov".formatted(i % 100);
            byte[] content = content(100 + i % 50);
            wanted.add(wanted(was, content));
            switch (i % 5) {
                case 0 -> right.put(was, Set.of(file("now/reels/" + was, content))); // moved
                case 1 -> right.put(was, Set.of(file("now/reels/day/take " + i + ".mov", content))); // renamed
                case 2 -> { // only look-alikes are left
                    file("now/reels/" + was, content(content.length));
                    right.put(was, Set.of());
                }
                case 3 -> { // itself under another name, beside another recording of its name
                    file("now/reels/" + was, content(content.length));
                    right.put(was, Set.of(file("now/other/" + i + ".mov", content)));
                }
                default -> { // twice: in its old folder and in one of no meaning
                    file("now/spare/x" + i + ".mov", content);
                    right.put(was, Set.of(file("now/reels/" + was, content)));
                }
            }
        }
        List<Result> results = search(wanted);
        assertThat(results).hasSize(wanted.size());
        for (Result result : results) {
            Set<Path> places = right.getOrDefault(result.wanted().id(), Set.of());
            switch (result) {
                case Result.Found(var one, var source, var _) ->
                    assertThat(places).as(one.id()).contains(source.head());
                case Result.Another(var one, var _, var why) -> {
                    assertThat(places).as(one.id()).isEmpty();
                    assertThat(why).contains("its content is another");
                }
                case Result.ByHeader(var one, var _, var _) ->
                    throw new AssertionError("nothing here is unreadable: " + one.id());
                case Result.Several(var one, var _) ->
                    assertThat(places).as("several for %s", one.id()).isEmpty();
                case Result.NotThere(var one) ->
                    assertThat(places).as("missed %s", one.id()).isEmpty();
            }
        }
    }

    @Test
    void twoPlacesThatAreEquallyNearAreForAPersonAndAnotherRecordingIsExplained() throws Exception {
        byte[] twice = content(300);
        byte[] changed = content(300);
        Wanted ambiguous = wanted("card/A.mov", twice);
        Wanted refused = wanted("card/B.mov", changed);
        Wanted gone = wanted("card/C.mov", content(300));
        file("now/one/other.mov", twice);
        file("now/two/other.mov", twice);
        Path longer = file("now/card/B.mov", content(301));
        assertThat(search(List.of(ambiguous, refused, gone)))
                .satisfiesExactly(
                        result ->
                                assertThat(((Result.Several) result).sources()).hasSize(2),
                        result -> assertThat(result)
                                .isEqualTo(new Result.Another(refused, longer, "it has 301 bytes, not 300")),
                        result -> assertThat(result).isEqualTo(new Result.NotThere(gone)));
    }

    @Test
    void oneThatIsPointedOutBringsTheRestAlongAndAWrongOneBringsNothing() throws Exception {
        byte[] a = content(200);
        byte[] b = content(210);
        byte[] c = content(220);
        Wanted first = wanted("shoot/card 1/A.mov", a);
        Wanted second = wanted("shoot/card 2/B.mov", b);
        Wanted third = wanted("shoot/card 2/C.mov", c);
        Path found = file("now/archive/shoot/card 1/A.mov", a);
        file("now/archive/shoot/card 2/B.mov", b);
        file("now/archive/shoot/card 2/C.mov", content(220));
        List<Result> results = MediaSearch.follow(first, found, List.of(first, second, third));
        assertThat(results)
                .satisfiesExactly(
                        result -> assertThat(result).isInstanceOf(Result.Found.class),
                        result -> assertThat(((Result.Found) result).how()).isEqualTo("moved along"),
                        result -> assertThat(((Result.Another) result).why()).contains("its content is another"));
        Path wrong = file("now/elsewhere/A.mov", b);
        assertThat(MediaSearch.follow(first, wrong, List.of(second)))
                .singleElement()
                .isInstanceOf(Result.Another.class);
    }

    /// A bad sector stands in for media that cannot be read whole.
    @Test
    void whatCannotBeReadIsLikelyByItsHeaderAndNothingByItsName() throws Exception {
        byte[] content = content(300);
        List<Wanted> wanted = List.of(wanted("card/A.mov", content), wanted("card/B.mov", content(300)));
        Path likely = file("now/x/A.mov", content);
        Path refused = file("now/x/B.mov", content(300));
        MediaSearch.Reader bad = new MediaSearch.Reader() {
            @Override
            public Fingerprint fingerprint(ClipSource source) throws IOException {
                throw new IOException("Input/output error");
            }

            @Override
            public Optional<String> sameHeader(Wanted one, ClipSource source) {
                return one.id().equals("card/A.mov") ? Optional.of("same timecode") : Optional.empty();
            }
        };
        assertThat(new MediaSearch(new Cancellation(), (_, _) -> {}, bad)
                        .search(folder.resolve("now"), wanted, Set.of()))
                .satisfiesExactly(
                        result -> assertThat(result)
                                .isEqualTo(new Result.ByHeader(
                                        wanted.getFirst(),
                                        new SingleFile(likely),
                                        "same timecode; not all of its content can be read")),
                        result -> assertThat(result).isInstanceOfSatisfying(Result.Another.class, another -> {
                            assertThat(another.file()).isEqualTo(refused);
                            assertThat(another.why()).contains("prove nothing");
                        }));
    }

    @Test
    void aSpannedRecordingAndStillsAreFoundAsOne() throws Exception {
        var parts = new ArrayList<Path>();
        var stills = new ArrayList<Path>();
        for (int i = 0; i < 3; i++) {
            parts.add(file("before/SPAN" + i + ".mov", content(400)));
        }
        for (int i = 1; i <= 12; i++) {
            stills.add(file("before/dome/D_%04d.png".formatted(i), content(50)));
        }
        var spanned = new ClipSource.Spanned(parts);
        var numbered = new ClipSource.NumberedStills(folder.resolve("before/dome"), "D_", 4, ".png", 1, 12, List.of());
        var wanted = List.of(
                new Wanted("span", "span", spanned, Fingerprinter.ofAll(parts)),
                new Wanted("dome", "dome", numbered, Fingerprinter.ofAll(stills)));
        Files.createDirectories(folder.resolve("now"));
        Files.move(folder.resolve("before"), folder.resolve("now/moved"));
        assertThat(search(wanted)).allSatisfy(result -> {
            assertThat(result).isInstanceOf(Result.Found.class);
            assertThat(((Result.Found) result).source().files()).allMatch(Files::exists);
        });
    }
}
