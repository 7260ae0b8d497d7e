package docksort.strain;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.media.ClipFacts;
import docksort.media.Findings;
import docksort.media.Measured;
import docksort.media.PixelFormat;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StrainJudgeTest {
    private static final StrainJudge JUDGE = new StrainJudge(TimelineFormat.HD_25);

    private static ClipFacts clip(Raster raster, int interval, int bytes) {
        return Clips.named("c")
                .raster(raster.width() + "x" + raster.height())
                .chroma(PixelFormat.Chroma.C420)
                .interval(interval)
                .frames(600)
                .frameBytes(bytes)
                .facts();
    }

    private static Verdict verdict(int width, int height, int interval, int bytes) {
        return JUDGE.judge(clip(new Raster(width, height), interval, bytes)).verdict();
    }

    @Test
    void bitRateAloneNeverDecides() {
        for (int interval : new int[] {1, 12, 250}) {
            assertThat(verdict(1920, 1080, interval, 400_000)).isEqualTo(verdict(1920, 1080, interval, 40_000));
        }
    }

    @Test
    void keyframeIntervalAndRasterDo() {
        assertThat(verdict(1920, 1080, 1, 40_000)).isEqualTo(Verdict.EASY);
        assertThat(verdict(1920, 1080, 12, 40_000)).isEqualTo(Verdict.FAIR);
        assertThat(verdict(1920, 1080, 250, 40_000)).isEqualTo(Verdict.HARD);
        assertThat(verdict(640, 360, 12, 40_000)).isEqualTo(Verdict.EASY);
        assertThat(verdict(3840, 2160, 12, 40_000)).isEqualTo(Verdict.HARD);
    }

    @Test
    void theHeaviestReasonStandsFirstWithItsFigureAndRemedy() {
        Strain strain = JUDGE.judge(clip(new Raster(2560, 1440), 300, 40_000));
        assertThat(strain.reasons().getFirst().figure())
                .as("mean of 150.5, rounded")
                .isEqualTo("151");
        assertThat(strain.firstReason()).contains("300 at worst").contains("Keyframe every 12.0 s, at most 12.0");
        assertThat(strain.reasons().getFirst().remedy()).contains("working copy");
        assertThat(strain.reasons())
                .anySatisfy(reason -> assertThat(reason.text()).contains("wide on a timeline of 1920"));
    }

    private static Verdict weight(Strain strain, String figure) {
        return strain.reasons().stream()
                .filter(reason -> reason.figure().equals(figure))
                .findFirst()
                .orElseThrow(() -> new AssertionError(figure + " is not in " + strain.reasons()))
                .weight();
    }

    private static List<String> figures(Strain strain) {
        return strain.reasons().stream().map(Reason::figure).toList();
    }

    /// A constant interval of n frames needs (n + 1) / 2 decoded frames for one, on average; times 2
    /// million pixels that is 7, 8, 29 and 30 million.
    @ParameterizedTest
    @CsvSource({"1, EASY", "6, EASY", "7, FAIR", "28, FAIR", "29, HARD"})
    void aJumpIsGradedByThePixelsItDecodes(int interval, Verdict verdict) {
        Clips clip = Clips.named("c").raster("2000x1000").interval(interval).frames(interval * 3);
        Strain strain = JUDGE.judge(clip.facts());
        assertThat(strain.verdict()).isEqualTo(verdict);
        assertThat(strain.scrubCost().orElseThrow().worst()).isEqualTo(interval);
        assertThat(strain.reasons().stream().anyMatch(reason -> reason.text().contains("on average")))
                .as("said where more than one frame is decoded")
                .isEqualTo(interval > 1);
        if (interval > 1) {
            assertThat(strain.reasons().stream()
                            .filter(reason -> reason.text().contains("on average"))
                            .findFirst()
                            .orElseThrow()
                            .remedy())
                    .isEqualTo(
                            verdict == Verdict.EASY
                                    ? "No working copy is needed for this"
                                    : "A working copy cures this");
        }
    }

    /// Width x height x rate; where every frame stands alone a fast stream is at most fair.
    @ParameterizedTest
    @CsvSource({
        "4000x2000, 30, 1, FAIR, 240 M",
        "4000x2000, 29, 1, EASY, ''",
        "4000x2450, 50, 1, FAIR, 490 M",
        "4000x2450, 50, 2, HARD, 490 M",
        "4000x2400, 50, 2, FAIR, 480 M"
    })
    void playingIsGradedByThePixelsOfASecond(String raster, String rate, int interval, Verdict verdict, String figure) {
        Strain strain = JUDGE.judge(
                Clips.named("c").raster(raster).rate(rate).interval(interval).facts());
        assertThat(strain.verdict()).isEqualTo(verdict);
        if (figure.isEmpty()) {
            assertThat(figures(strain)).noneMatch(said -> said.endsWith(" M"));
        } else {
            assertThat(weight(strain, figure)).isEqualTo(verdict);
            assertThat(strain.reasons())
                    .filteredOn(reason -> reason.figure().equals(figure))
                    .singleElement()
                    .satisfies(reason -> assertThat(reason.remedy())
                            .startsWith(interval > 1 ? "A working copy cures" : "A light copy helps"));
        }
    }

    @ParameterizedTest
    @CsvSource({
        "h264, 8, C420, 2, ''",
        "h264, 8, C422, 2, ''",
        "h264, 10, C422, 2, FAIR",
        "h264, 10, C422, 1, EASY",
        "hevc, 8, C420, 2, ''",
        "hevc, 8, C422, 2, FAIR",
        "hevc, 10, C420, 2, FAIR",
        "vp9, 10, C420, 1, EASY",
        "av1, 10, C420, 2, FAIR",
        "prores, 10, C422, 1, ''",
        "mpeg2video, 8, C422, 2, ''"
    })
    void whatFewMachinesDecodeInHardwareIsSaid(
            String codec, int bits, PixelFormat.Chroma chroma, int interval, String weight) {
        Strain strain = JUDGE.judge(Clips.named("c")
                .raster("200x100")
                .codec(codec)
                .bits(bits)
                .chroma(chroma)
                .interval(interval)
                .facts());
        List<Reason> said = strain.reasons().stream()
                .filter(reason -> reason.text().contains("without help of hardware"))
                .toList();
        if (weight.isEmpty()) {
            assertThat(said).isEmpty();
        } else {
            assertThat(said).singleElement().satisfies(reason -> {
                assertThat(reason.weight()).isEqualTo(Verdict.valueOf(weight));
                assertThat(reason.figure()).isEqualTo(bits + " bit");
            });
        }
    }

    private static ClipMeasurements measured(double fps, double seekMillis, double bytesPerSecond) {
        return new ClipMeasurements(
                Optional.of(new PlayRatio(Measured.of(fps), 25, 4)),
                Optional.of(Measured.of(seekMillis)),
                Optional.of(Measured.of(bytesPerSecond)));
    }

    /// Against 25 frames a second: 24.9 stutters, 32.5 is the 1.3 that leaves room.
    @ParameterizedTest
    @CsvSource({"24.9, HARD, 1.00", "25, FAIR, 1.00", "32.4, FAIR, 1.30", "32.5, EASY, 1.30", "250, EASY, 10"})
    void aMeasuredSpeedGoesBeforeWhatPixelsSuggest(double fps, Verdict verdict, String figure) {
        ClipFacts heavy = Clips.named("c").raster("4000x2450").rate("50").facts();
        Strain strain = JUDGE.judge(heavy, measured(fps, 1, 1e12));
        assertThat(weight(strain, figure)).isEqualTo(verdict);
        assertThat(figures(strain)).as("pixels a second are not told beside it").doesNotContain("490 M");
        assertThat(strain.verdict()).isEqualTo(verdict);
    }

    @ParameterizedTest
    @CsvSource({"119, EASY", "120, FAIR", "399, FAIR", "400, HARD"})
    void aMeasuredJumpIsGradedByItsTime(double millis, Verdict verdict) {
        Strain strain = JUDGE.judge(Clips.named("c").facts(), measured(250, millis, 1e12));
        assertThat(weight(strain, Math.round(millis) + " ms")).isEqualTo(verdict);
    }

    /// One million bytes a frame at 25 frames a second are 25 MB/s: half of 50, 0.85 of 29.4.
    @ParameterizedTest
    @CsvSource({"50e6, ''", "49e6, FAIR", "30e6, FAIR", "29e6, HARD", "10e6, HARD"})
    void aVolumeThatIsTooSlowIsSaid(double bytesPerSecond, String weight) {
        ClipFacts facts = Clips.named("c").frameBytes(1_000_000).facts();
        Strain strain = JUDGE.judge(facts, measured(250, 1, bytesPerSecond));
        String figure = Math.round(bytesPerSecond / 1e6) + " MB/s";
        if (weight.isEmpty()) {
            assertThat(figures(strain)).doesNotContain(figure);
        } else {
            assertThat(weight(strain, figure)).isEqualTo(Verdict.valueOf(weight));
            assertThat(strain.firstReason()).contains("playing needs 25.0");
        }
    }

    @Test
    void figuresAreThoseOfTheClipsOwnContent() {
        Clip clip = Clips.named("c").clip();
        Clip other = Clips.named("d").clip();
        var judge = new StrainJudge(TimelineFormat.HD_25, Map.of(clip.fingerprint(), measured(10, 1, 1e12)));
        assertThat(judge.judge(clip).verdict()).isEqualTo(Verdict.HARD);
        assertThat(judge.judge(other).verdict()).isEqualTo(Verdict.EASY);
        assertThat(judge.timeline()).isEqualTo(TimelineFormat.HD_25);
    }

    @Test
    void whatACopyMustKeepIsSaidWithoutWeight() {
        Strain strain = JUDGE.judge(Clips.named("c")
                .raster("1440x1080")
                .aspect("4/3")
                .alpha()
                .scan(ScanType.TOP_FIELD_FIRST)
                .rate("50")
                .facts());
        assertThat(strain.verdict()).isEqualTo(Verdict.EASY);
        assertThat(figures(strain)).contains("alpha", "fields", "4/3", "50");
        assertThat(strain.reasons())
                .as("1440 wide pixels are shown as 1920")
                .noneMatch(reason -> reason.text().contains("on a timeline of 1920"));
    }

    @ParameterizedTest
    @CsvSource({"1280x720, 1280, wide on a timeline of 1920", "1920x1000, 1000, lines on a timeline of 1080"})
    void aRasterThatIsNotTheTimelinesIsSaidByTheSideThatDiffers(String raster, String figure, String words) {
        Strain strain = JUDGE.judge(Clips.named("c").raster(raster).facts());
        assertThat(strain.reasons()).singleElement().satisfies(reason -> {
            assertThat(reason.figure()).isEqualTo(figure);
            assertThat(reason.text()).startsWith(words);
        });
    }

    @Test
    void aClipLikeTheTimelineHasNoReasons() {
        assertThat(JUDGE.judge(Clips.named("c").facts()).reasons()).isEmpty();
        assertThat(JUDGE.judge(Clips.named("c").facts()).firstReason()).isEmpty();
    }

    @Test
    void whatNeedsAPersonIsAtLeastFair() {
        assertThat(weight(JUDGE.judge(Clips.named("c").variable().facts()), "VFR"))
                .isEqualTo(Verdict.FAIR);
        ClipFacts complaining = Clips.named("c").facts().withComplaints(List.of("one", "two", "three", "four"));
        Strain strain = JUDGE.judge(complaining);
        assertThat(figures(strain)).as("the first three").containsExactly("look", "look", "look");
        assertThat(strain.verdict()).isEqualTo(Verdict.FAIR);
        assertThat(strain.firstReason()).isEqualTo("look the media engine complains: one");
    }

    @Test
    void soundAloneIsEasyAndRawIsOutOfReach() {
        ClipFacts facts = Clips.named("c").facts();
        assertThat(JUDGE.judge(facts.withVideo(Optional.empty())).verdict()).isEqualTo(Verdict.EASY);
        var raw = new ClipFacts(
                facts.container(),
                facts.video(),
                facts.audio(),
                facts.seconds(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                facts.size(),
                new Findings(List.of(), List.of(), Optional.of("camera raw")),
                Map.of());
        Strain strain = JUDGE.judge(raw);
        assertThat(strain.verdict()).isEqualTo(Verdict.OUT_OF_REACH);
        assertThat(strain.firstReason()).isEqualTo("raw out of reach here: camera raw");
    }

    @Test
    void colourAndSoundThatAreNotTheTimelinesAreSaid() {
        Strain strain = JUDGE.judge(Clips.named("c").pq().facts());
        assertThat(figures(strain)).containsExactly("colour");
        assertThat(strain.firstReason()).isEqualTo("colour bt2020, not the timeline's bt709");
        var film = new TimelineFormat(
                TimelineFormat.HD_25.raster(), TimelineFormat.HD_25.rate(), Rational.of(1), "bt709", 44_100);
        assertThat(new StrainJudge(film).judge(Clips.named("c").facts()).firstReason())
                .isEqualTo("sound 48.0 kHz, not the timeline's 44.1 kHz");
    }
}
