package docksort.timeline;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Decisions;
import docksort.media.FrameRate;
import docksort.media.Rational;
import docksort.media.Timecode;
import docksort.problem.CoreException.InputRefused;
import docksort.timeline.TimelineEvent.Kind;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// The form of the lines is that of CMX 3600 lists, from memory.
class EditListTest {
    private static final FrameRate DROP = new FrameRate(30000, 1001);

    @TempDir
    Path folder = Path.of("");

    private Path list(String text) throws IOException {
        return Files.writeString(folder.resolve("list.edl"), text);
    }

    private static final String LIST = """
        TITLE: NIGHT OPTICS
        FCM: NON-DROP FRAME

        001  N01      V     C        02:10:00:06 02:10:01:06 01:00:00:00 01:00:01:00
        * FROM CLIP NAME: N01_C003.MOV
        * SOURCE FILE: /mnt/f/N01_C003.MOV
        002  N01      V     C        02:10:02:00 02:10:02:00 01:00:01:00 01:00:01:00
        002  W21      V     D    012 10:02:12:00 10:02:14:00 01:00:01:00 01:00:03:00
        * FROM CLIP NAME: N01_C003.MOV
        * TO CLIP NAME: W210031.MP4
        003  AX       V2    W001 008 00:00:00:00 00:00:01:00 01:00:03:00 01:00:04:00
        004  K5       AA/V  C        14:20:00:00 14:20:02:00 01:00:04:00 01:00:06:00
        M2   K5       050.0                14:20:00:00
        005  K5       A2    C        14:20:00:00 14:20:01:00 01:00:06:00 01:00:07:00
        006  BL       V     C        00:00:00:00 00:00:00:10 01:00:07:00 01:00:07:10
        * COMMENT: the end
        """;

    @Test
    void editsTransitionsSpeedsAndTracksAreRead() throws IOException {
        EditList list = EditList.open(list(LIST), FrameRate.FPS_25);
        assertThat(list.name()).isEqualTo("NIGHT OPTICS");
        List<TimelineEvent> events = list.events();
        assertThat(events).extracting(TimelineEvent::track).containsExactly("V", "V", "V", "V2", "AA/V", "A2", "V");
        assertThat(events)
                .extracting(TimelineEvent::name)
                .containsExactly("N01_C003.MOV", "N01_C003.MOV", "W210031.MP4", "AX", "K5", "K5", "BL");
        assertThat(events).extracting(TimelineEvent::frames).containsExactly(25L, 12L, 50L, 25L, 50L, 25L, 10L);
        assertThat(events.get(0).media().address()).isEqualTo("/mnt/f/N01_C003.MOV");
        assertThat(events.get(1).use())
                .as("the outgoing side goes on through the dissolve")
                .isEqualTo(new SourceUse.Labels("02:10:02:00", "02:10:02:12", FrameRate.FPS_25, 12, Rational.of(1)));
        assertThat(events.get(2).transition().length()).isEqualTo(new Rational(12, 25));
        assertThat(events.get(3).media().reel()).as("AX is no reel").isEmpty();
        assertThat(((SourceUse.Labels) events.get(4).use()).speed()).isEqualTo(Rational.of(2));
        assertThat(events.get(5).kind()).isEqualTo(Kind.SOUND);
        assertThat(events.get(6).media()).isEqualTo(Mention.NONE);
        assertThat(events.get(6).begins()).isEqualTo(Rational.of(7));
    }

    @ParameterizedTest
    @ValueSource(strings = {"\n", "\r\n"})
    void whatIsSwitchedAndSwitchedBackIsTheSameByteForByte(String lineEnd) throws IOException {
        byte[] before = (LIST + "é fin").replace("\n", lineEnd).getBytes(StandardCharsets.ISO_8859_1);
        Path file = Files.write(folder.resolve("list.edl"), before);
        EditList list = EditList.open(file, FrameRate.FPS_25);
        assertThat(list.bytes()).isEqualTo(before);
        for (int number : List.of(1, 3, 5)) {
            assertThat(list.point(number, copy("/c/" + number + ".mov"), _ -> false))
                    .isTrue();
            assertThat(list.point(number, copy("/c/" + number + ".mov"), _ -> false))
                    .as("again")
                    .isFalse();
        }
        list.markReview("on copies");
        assertThat(list.reviewMark()).isEqualTo("on copies");
        list.save(file);
        EditList again = EditList.open(file, FrameRate.FPS_25);
        assertThat(again.events())
                .extracting(event -> event.media().address())
                .containsExactly("/c/1.mov", "", "/c/3.mov", "", "/c/5.mov", "", "");
        again.markReview("");
        for (int number : List.of(1, 3, 5)) {
            assertThat(again.point(number, original(), address -> address.equals("/mnt/f/N01_C003.MOV")))
                    .isTrue();
        }
        assertThat(again.bytes()).isEqualTo(before);
    }

    private static MediaTarget copy(String address) {
        return new MediaTarget("light", address, "/o.mov", "x.mov", Optional.empty(), Map.of(), false);
    }

    private static MediaTarget original() {
        return new MediaTarget(MediaTarget.ORIGINAL, "/o.mov", "/o.mov", "o.mov", Optional.empty(), Map.of(), false);
    }

    @Test
    void theRateIsToldByTheLabelsWhereTheyCountHigherThanTheUsual() throws IOException {
        String row = "001  A  V  C  00:00:00:00 00:00:01:00 ";
        assertThat(EditList.open(list(row + "01:00:00:00 01:00:00:28"), FrameRate.FPS_25)
                        .rate())
                .contains(DROP);
        assertThat(EditList.open(list(row + "01:00:00;02 01:00:01;02"), FrameRate.FPS_25)
                        .rate())
                .contains(DROP);
        assertThat(EditList.open(list(row + "01:00:00:00 01:00:00:20"), FrameRate.FPS_25)
                        .rate())
                .contains(FrameRate.FPS_25);
    }

    @Test
    void aFileWithoutEditsIsRefusedWithItsName() throws IOException {
        Path file = list("TITLE: X\nnothing here\n");
        assertThatThrownBy(() -> EditList.open(file, FrameRate.FPS_25))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("list.edl")
                .hasMessageContaining("no line of it is an edit");
    }

    @Provide
    Arbitrary<Random> decisions() {
        return Decisions.rows(100);
    }

    @Property(tries = 200)
    void writtenListsReadBackAsTheSameEvents(@ForAll("decisions") Random random) throws IOException {
        FrameRate rate = List.of(FrameRate.FPS_25, new FrameRate(24, 1), DROP).get(random.nextInt(3));
        boolean drop = rate.equals(DROP);
        var lines = new ArrayList<EditListWriter.Line>();
        Timecode record = new Timecode(3600L * rate.nominal() - (drop ? 108 : 0), rate.nominal(), drop);
        for (int i = random.nextInt(12); i >= 0; i--) {
            long frames = random.nextInt(20, 120);
            Timecode in = new Timecode(random.nextInt(1_000_000), rate.nominal(), drop);
            boolean dissolve = !lines.isEmpty() && random.nextInt(3) == 0;
            boolean fast = !dissolve && random.nextInt(4) == 0;
            lines.add(new EditListWriter.Line(
                    random.nextInt(4) == 0 ? "" : "R" + random.nextInt(9),
                    "V",
                    dissolve ? 8 : 0,
                    in,
                    in.plus(frames),
                    record,
                    record.plus(frames),
                    fast ? Rational.of(2) : Rational.of(1),
                    "Take " + i + " é.mov",
                    "/media/Take " + i + " é.mov"));
            record = record.plus(frames);
        }
        Path file = Files.createTempFile("cut", ".edl");
        Files.writeString(file, EditListWriter.write("Cut\n7", rate, drop, lines));
        EditList read = EditList.open(file, rate);
        Files.delete(file);
        assertThat(read.name()).isEqualTo("Cut 7");
        List<TimelineEvent> incoming = read.events().stream()
                .filter(event -> event.use() instanceof SourceUse.Labels labels && !isOutgoing(event, labels))
                .toList();
        assertThat(incoming).hasSameSizeAs(lines);
        for (int i = 0; i < lines.size(); i++) {
            EditListWriter.Line line = lines.get(i);
            TimelineEvent event = incoming.get(i);
            assertThat(event.name()).isEqualTo(line.clipName());
            assertThat(event.media().address()).isEqualTo(line.sourceFile());
            assertThat(event.media().reel()).isEqualTo(line.reel());
            assertThat(event.transition().length()).isEqualTo(rate.secondsOf(line.dissolveFrames()));
            assertThat(event.use())
                    .isEqualTo(new SourceUse.Labels(
                            line.sourceIn().toString(),
                            line.sourceOut().toString(),
                            rate,
                            event.frames(),
                            line.speed()));
            assertThat(event.begins())
                    .isEqualTo(rate.secondsOf(line.recordIn().frameOfDay()
                            - lines.getFirst().recordIn().frameOfDay()));
        }
    }

    /// The first of two lines of a dissolve has the dissolve's length and begins where the source ended.
    private static boolean isOutgoing(TimelineEvent event, SourceUse.Labels labels) {
        return labels.frames() == 8 && event.transition().equals(TimelineEvent.Transition.NONE);
    }
}
