package docksort.media;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ScrubCostTest {
    @ParameterizedTest
    @ValueSource(ints = {1, 2, 12, 50, 250, 600})
    void closedGroupsWithoutTwoWayFramesCostHalfTheirLengthAndOneHalf(int length) {
        ScrubCost cost = groups(length, 0, 4).scrubCost();
        assertThat(cost.mean()).as("(n+1)/2, common practice, no source").isEqualTo(new Rational(length + 1L, 2));
        assertThat(cost.worst()).isEqualTo(length);
    }

    @Test
    void leadingFramesOfAnOpenGroupAreReachedFromTheKeyframeBefore() {
        // Stored I0 P3 B1 B2 | I6 B4 B5: showing 4 needs I0 P3 B1 B2 I6 B4.
        ScrubCost cost = structure(List.of(
                        frame(0, true),
                        frame(3, false),
                        frame(1, false),
                        frame(2, false),
                        frame(6, true),
                        frame(4, false),
                        frame(5, false)))
                .scrubCost();
        assertThat(cost.worst()).isEqualTo(7);
        assertThat(cost.mean()).isEqualTo(new Rational(1 + 2 + 3 + 4 + 1 + 6 + 7, 7));
    }

    @Test
    void equalsCountingTheDecodedFramesOneByOne() {
        for (int twoWay : new int[] {0, 1, 3}) {
            for (int length : new int[] {1, 5, 12, 31}) {
                var structure = groups(length, twoWay, 5);
                assertThat(structure.scrubCost().mean())
                        .as("length %d, two-way %d", length, twoWay)
                        .isEqualTo(counted(structure));
            }
        }
    }

    @Test
    void aStretchThatStartsInTheMiddleOfAGroupCountsFromItsStart() {
        assertThat(structure(List.of(frame(5, false), frame(6, false), frame(7, true)))
                        .scrubCost()
                        .mean())
                .isEqualTo(new Rational(4, 3));
    }

    /// Decodes from every keyframe that could serve, and takes the cheapest walk that a player finds: the
    /// latest keyframe shown no later than the target.
    private static Rational counted(FrameStructure structure) {
        long sum = 0;
        List<CodedFrame> frames = structure.frames();
        for (CodedFrame target : frames) {
            int from = 0;
            for (int i = 0; i < frames.size(); i++) {
                if (frames.get(i).key() && frames.get(i).shownAtTicks() <= target.shownAtTicks()) {
                    from = i;
                }
            }
            int decoded = 0;
            for (int i = from; i < frames.size(); i++) {
                decoded++;
                if (frames.get(i).equals(target)) {
                    break;
                }
            }
            sum += decoded;
        }
        return new Rational(sum, frames.size());
    }

    /// Closed groups: I, then runs of P with the two-way frames before it stored behind it.
    private static FrameStructure groups(int length, int twoWay, int count) {
        var frames = new ArrayList<CodedFrame>();
        for (int group = 0; group < count; group++) {
            long base = (long) group * length;
            frames.add(frame(base, true));
            int next = 1;
            while (next < length) {
                int anchor = Math.min(next + twoWay, length - 1);
                frames.add(frame(base + anchor, false));
                for (int shown = next; shown < anchor; shown++) {
                    frames.add(frame(base + shown, false));
                }
                next = anchor + 1;
            }
        }
        return structure(frames);
    }

    private static CodedFrame frame(long shown, boolean key) {
        return new CodedFrame(shown, key, 1000);
    }

    private static FrameStructure structure(List<CodedFrame> frames) {
        return FrameStructure.of(frames, FrameStructure.Extent.WHOLE, new Rational(1, 25));
    }
}
