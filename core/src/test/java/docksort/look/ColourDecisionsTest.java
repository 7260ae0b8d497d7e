package docksort.look;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import docksort.look.ColourDecisions.Named;
import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.problem.CoreException.InputRefused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// The formula and the elements are those of the ASC Color Decision List, version 1.2 (from memory); results are
/// reckoned on paper.
class ColourDecisionsTest {
    @TempDir
    Path folder = Path.of("");

    @ParameterizedTest
    @CsvSource({
        // slope, offset, power, saturation, red in, green in, blue in, red out, green out, blue out
        "1, 0, 1, 1,      0.18, 0.5, 0.9,   0.18, 0.5, 0.9",
        "1.5, 0, 1, 1,    0.18, 0.5, 0.9,   0.27, 0.75, 1",
        "1, -0.2, 1, 1,   0.18, 0.5, 0.9,   0, 0.3, 0.7",
        "1, 0, 2, 1,      0.18, 0.5, 0.9,   0.0324, 0.25, 0.81",
        "0.8, 0.1, 0.5, 1, 0.4, 0.65, 0.9,  0.648074, 0.787401, 0.905539", // square roots of 0.42, 0.62, 0.82
        // luma of 0.2, 0.5, 0.9 is 0.04252 + 0.3576 + 0.06498 = 0.4651
        "1, 0, 1, 0,      0.2, 0.5, 0.9,    0.4651, 0.4651, 0.4651",
        "1, 0, 1, 1.5,    0.2, 0.5, 0.9,    0.06745, 0.51745, 1",
        "1, 0, 1, 2,      0.2, 0.5, 0.9,    0, 0.5349, 1",
    })
    void theFormulaIsThePublishedOne(
            double slope,
            double offset,
            double power,
            double saturation,
            double red,
            double green,
            double blue,
            double redOut,
            double greenOut,
            double blueOut) {
        var values = new ColourDecision(
                new Channels(slope, slope, slope),
                new Channels(offset, offset, offset),
                new Channels(power, power, power),
                saturation);
        Channels out = values.apply(new Channels(red, green, blue));
        assertThat(out.all().stream().mapToDouble(Double::doubleValue).toArray())
                .containsExactly(new double[] {redOut, greenOut, blueOut}, within(1e-5));
    }

    private List<Named> read(String text) throws IOException {
        return ColourDecisions.read(Files.writeString(folder.resolve("night.ccc"), text));
    }

    @Test
    void oneCorrectionOrSeveralAreReadFromAllThreeKindsOfFile() throws IOException {
        assertThat(read("""
            <ColorCorrection id="cc1"><SOPNode><Description>warm</Description>
              <Slope>1.1 1.0 0.9</Slope><Offset>0.01 0 -0.01</Offset><Power>1 1 1.2</Power></SOPNode>
              <SatNode><Saturation>0.8</Saturation></SatNode></ColorCorrection>
            """))
                .containsExactly(new Named(
                        "cc1",
                        new ColourDecision(
                                new Channels(1.1, 1, 0.9),
                                new Channels(0.01, 0, -0.01),
                                new Channels(1, 1, 1.2),
                                /* saturation= */ 0.8)));
        assertThat(read("""
            <?xml version="1.0" encoding="UTF-8"?>
            <ColorDecisionList xmlns="urn:ASC:CDL:v1.01">
              <ColorDecision><ColorCorrection id="A001"><SOPNode><Slope>2 2 2</Slope><Offset>0 0 0</Offset>
                <Power>1 1 1</Power></SOPNode></ColorCorrection></ColorDecision>
              <ColorDecision><ColorCorrection><SATNode><Saturation>0</Saturation></SATNode></ColorCorrection>
              </ColorDecision>
            </ColorDecisionList>
            """))
                .extracting(Named::id, named -> named.values().saturation())
                .containsExactly(
                        org.assertj.core.groups.Tuple.tuple("A001", 1.0),
                        org.assertj.core.groups.Tuple.tuple("2", 0.0));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        <ColorCorrection><Slope>1 1</Slope></ColorCorrection>             | correction 1 has "1 1" in place of 3 numbers
        <ColorCorrection id="x"><Power>0 1 1</Power></ColorCorrection>    | correction x: powers are
        <ColorCorrection><Slope>-1 1 1</Slope></ColorCorrection>          | slopes are 0 to 16
        <ColorCorrection><Saturation>NaN</Saturation></ColorCorrection>   | saturation is 0 to 2
        <ColorCorrection><Slope>1 1 1</Slope>                             | it is damaged, or no XML
        <Grade/>                                                          | no element ColorCorrection
        <!DOCTYPE a [<!ENTITY b "1 1 1">]><ColorCorrection><Slope>&b;</Slope></ColorCorrection> | it is damaged
        """)
    void whatCannotBeAppliedIsRefusedWithItsPlace(String text, String words) {
        assertThatThrownBy(() -> read(text))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("night.ccc")
                .hasMessageContaining(words);
    }
}
