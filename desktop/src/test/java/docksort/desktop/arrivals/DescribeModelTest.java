package docksort.desktop.arrivals;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.Described;
import docksort.media.Findings;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// What is asked of raw that cannot be decoded, and what is made of the answers.
class DescribeModelTest {
    private static ClipFacts raw() {
        return new ClipFacts(
                "camera raw",
                Optional.empty(),
                List.of(),
                Rational.ZERO,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                new ByteSize(10),
                new Findings(List.of(), List.of(), Optional.of("camera raw")),
                Map.of());
    }

    private static ClipFacts raw(Described said) {
        return raw().describedAs(said);
    }

    private static Described of(String raster, String rate, long frames) {
        return new Described(
                Optional.of(raster).filter(text -> !text.isEmpty()).map(Raster::parse),
                Optional.of(rate).filter(text -> !text.isEmpty()).map(FrameRate::parse),
                Optional.of(frames).filter(count -> count > 0),
                Optional.empty(),
                Optional.empty());
    }

    @Test
    void whatIsLackingIsAskedByName() {
        assertThat(DescribeModel.question(List.of(raw())))
                .isEqualTo("Nothing here states its raster, rate, number of frames. Timelines count on them: what are"
                        + " they?");
        assertThat(DescribeModel.question(List.of(raw(of("6144x3240", "", 0)), raw(of("6144x3240", "24", 48)))))
                .isEqualTo("Of 1 of the 2 nothing here states rate, number of frames. What are they?");
        assertThat(DescribeModel.question(List.of(raw(of("6144x3240", "24", 48)))))
                .contains("can be said otherwise");
    }

    @Test
    void fieldsBeginWithWhatAllOfThemSay() {
        ClipFacts one = raw(of("6144x3240", "23.976", 48));
        assertThat(DescribeModel.of(List.of(one, one)))
                .isEqualTo(new DescribeModel("6144×3240", "23.976", "48", "", ""));
        assertThat(DescribeModel.of(List.of(one, raw(of("6144x3240", "24", 48)))))
                .isEqualTo(new DescribeModel("", "", "", "", ""));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        6144x3240 | 24     | 480 | 10:00:00:00 | A1 | 6144×3240, 24 fps, 480 frames, from 10:00:00:00, reel A1
        ''        | 23.976 | ''  | ''          | '' | 23.976 fps
        ''        | ''     | ''  | 10:00:00:29 | '' | from 10:00:00:29
        ''        | 24     | ''  | 10:00:00:29 | '' | nothing
        big       | 24     | 480 | ''          | '' | nothing
        ''        | 0      | ''  | ''          | '' | nothing
        ''        | 1/0    | ''  | ''          | '' | nothing
        ''        | ''     | 0   | ''          | '' | nothing
        ''        | ''     | 4.5 | ''          | '' | nothing
        ''        | ''     | ''  | noon        | '' | nothing
        ''        | ''     | ''  | ''          | '' | nothing
        """)
    void onlyWhatIsWrittenRightIsSaid(
            String raster, String rate, String frames, String timecode, String reel, String said) {
        assertThat(new DescribeModel(raster, rate, frames, timecode, reel)
                        .said()
                        .map(Described::label)
                        .orElse("nothing"))
                .isEqualTo(said);
    }

    @Test
    void afterItWasSaidTimelinesCountOnIt() {
        Described said = new DescribeModel("6144x3240", "24", "480", "10:00:00:00", "A001C003")
                .said()
                .orElseThrow();
        ClipFacts facts = raw(said);
        assertThat(facts.lacking()).isEmpty();
        assertThat(facts.seconds()).isEqualTo(Rational.of(20));
        assertThat(facts.reel()).contains("A001C003");
        assertThat(facts.isDecodable()).isFalse();
        assertThat(DescribeModel.concerns(facts)).as("it can be said otherwise").isTrue();
        assertThat(facts.describedAs(of("4096x2160", "25", 500))
                        .video()
                        .orElseThrow()
                        .raster())
                .as("facts that were made once stay; a new word is put on the facts of before")
                .isEqualTo(new Raster(6144, 3240));
    }
}
