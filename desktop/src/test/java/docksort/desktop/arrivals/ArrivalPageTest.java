package docksort.desktop.arrivals;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.arrival.Whereabouts;
import docksort.desktop.workshop.Insight;
import docksort.files.Volume;
import docksort.media.ByteSize;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.strain.CardClass;
import docksort.strain.CardClass.Fit;
import docksort.strain.ShootingMode;
import docksort.strain.ShootingMode.Shape;
import docksort.strain.StrainJudge;
import docksort.strain.TimelineFormat;
import docksort.strain.Verdict;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// What came in, where it lies, and what a card records, without their window.
class ArrivalPageTest {
    private static ClipRow.Known row(Clip clip) {
        var judge = new StrainJudge(TimelineFormat.HD_25);
        return new ClipRow.Known(
                clip, judge.judge(clip), "original", TimelineFormat.HD_25.differences(clip.facts()), false);
    }

    private static String fact(ArrivalModel model, String name) {
        return model.facts().stream()
                .filter(fact -> fact.name().equals(name))
                .map(ArrivalModel.Fact::value)
                .findFirst()
                .orElse("");
    }

    @Test
    void theGlanceAddsUpAndPutsTheMostFrequentFirst() {
        // 100 frames at 25 and at 50 fps are 4 s and 2 s; each frame has 50,000 bytes.
        var model = new ArrivalModel(
                List.of(
                        row(Clips.named("a").frames(100).clip()),
                        row(Clips.named("b").frames(100).rate("50").clip()),
                        row(Clips.named("c")
                                .frames(100)
                                .rate("50")
                                .variable()
                                .pq()
                                .clip()),
                        row(Clips.named("d")
                                .frames(100)
                                .rate("50")
                                .codec("prores")
                                .clip())),
                1);
        assertThat(model.summary()).isEqualTo("4 clips, 10 s, 20.0 MB");
        assertThat(fact(model, "Rates")).isEqualTo("50 ×2, 25 ×1, 50 VFR ×1");
        assertThat(fact(model, "Codecs")).matches("H\\.264 ×3, ProRes ×1");
        assertThat(fact(model, "Colour")).isEqualTo("not stated ×3, bt2020 ×1");
        assertThat(fact(model, "Differ")).isEqualTo("3 of 4 from the project's timeline");
        assertThat(fact(model, "Left aside")).startsWith("1 file that is not footage");
        assertThat(model.verdicts().values().stream().mapToLong(Long::longValue).sum())
                .isEqualTo(4);
    }

    @Test
    void moreThanSixValuesAreCounted() {
        var model = new ArrivalModel(
                IntStream.range(1, 10)
                        .mapToObj(n -> row(Clips.named("c" + n)
                                .raster(n * 160 + "x" + n * 90)
                                .clip()))
                        .toList(),
                0);
        assertThat(fact(model, "Rasters")).endsWith(" and 3 more");
        assertThat(fact(model, "Left aside")).isEmpty();
    }

    @Test
    void anEmptyScopeSaysSo() {
        var model = new ArrivalModel(List.of(), 3);
        assertThat(model.summary()).isEqualTo("Nothing in this scope.");
        assertThat(model.facts()).isEmpty();
        assertThat(model.verdicts()).isEmpty();
    }

    @Test
    void aHundredThousandClipsAreOneGlance() {
        ClipRow.Known one = row(Clips.named("one").interval(12).clip());
        var model = new ArrivalModel(Stream.generate(() -> one).limit(100_000).toList(), 0);
        assertThat(model.summary()).startsWith("100000 clips, "); // 84 frames at 25 fps each
        assertThat(model.summary()).contains("93 h 20");
        assertThat(model.verdicts()).containsExactly(Map.entry(Verdict.FAIR, 100_000L));
    }

    @ParameterizedTest
    @CsvSource({"1280x720, true", "' 1280x720 ', true", "1280, false", "'', false", "0x720, false", "1280x, false"})
    void aRasterIsKeptOnlyWhenItIsOne(String typed, boolean kept) {
        Optional<TimelineFormat> with = ArrivalModel.withRaster(TimelineFormat.HD_25, typed);
        assertThat(with.isPresent()).isEqualTo(kept);
        with.ifPresent(format -> assertThat(format)
                .isEqualTo(
                        new TimelineFormat(new Raster(1280, 720), FrameRate.FPS_25, Rational.of(1), "bt709", 48_000)));
    }

    @ParameterizedTest
    @CsvSource({"12/11, true", "1, true", "0, false", "-1, false", "wide, false", "1/0, false"})
    void aPixelAspectIsKeptOnlyWhenItIsOne(String typed, boolean kept) {
        assertThat(ArrivalModel.withPixelAspect(TimelineFormat.HD_25, typed).map(TimelineFormat::pixelAspect))
                .isEqualTo(kept ? Optional.of(Rational.parse(typed)) : Optional.empty());
    }

    @Test
    void eachSettingLeavesTheOthers() {
        TimelineFormat format = ArrivalModel.withSamples(
                ArrivalModel.withPrimaries(
                        ArrivalModel.withRate(TimelineFormat.HD_25, FrameRate.parse("24")), "bt2020"),
                96_000);
        assertThat(format)
                .isEqualTo(new TimelineFormat(
                        new Raster(1920, 1080), FrameRate.parse("24"), Rational.of(1), "bt2020", 96_000));
    }

    @Test
    void whileVolumesAreLookedUpNobodyIsToldThatNothingCameIn() {
        assertThat(ArrivalModel.noVolume(Whereabouts.NONE, 0)).contains("Nothing has come in yet.");
        assertThat(ArrivalModel.noVolume(Whereabouts.NONE, 5)).contains("Volumes are being looked up…");
        Clip gone = Clips.named("gone").clip();
        assertThat(ArrivalModel.noVolume(new Whereabouts(List.of(), List.of(gone), List.of()), 1))
                .isEmpty();
    }

    @Test
    void aVolumeSaysWhatLiesThereAndHowFastItReads() {
        Clip clip = Clips.named("a").frames(100).clip();
        var volume = new Volume(
                "/media/shuttle (/dev/sdb1)",
                "USB",
                "exfat",
                new ByteSize(2_000_000_000_000L),
                new ByteSize(500_000_000_000L),
                false);
        var on = new Whereabouts.OnVolume(volume, List.of(clip));
        assertThat(ArrivalModel.volume(on, Insight.NONE))
                .isEqualTo(new ArrivalModel.VolumeLine(
                        "/media/shuttle",
                        "USB, exfat",
                        "1 clip, 5.0 MB; 500 GB of 2.0 TB free",
                        "read speed not measured"));
    }

    @Test
    void awayAndDuplicatesAreCounted() {
        Clip one = Clips.named("one").clip();
        Clip two = Clips.named("two").clip();
        assertThat(ArrivalModel.away(new Whereabouts(List.of(), List.of(one), List.of())))
                .contains("1 clip lies on a volume that is away.");
        assertThat(ArrivalModel.away(new Whereabouts(List.of(), List.of(one, two), List.of())))
                .contains("2 clips lie on a volume that is away.");
        var twins = new Whereabouts.Twins(List.of(one, two), 2);
        assertThat(ArrivalModel.twins(new Whereabouts(
                        List.of(),
                        List.of(),
                        Stream.generate(() -> twins).limit(7).toList())))
                .satisfies(told -> {
                    assertThat(told.labels()).hasSize(5).containsOnly("one, 2 times on 2 volumes");
                    assertThat(told.more()).isEqualTo(2);
                });
    }

    private static Optional<CardModel.Reckoned> reckon(
            String raster, String rate, String bits, String main, String proxy) {
        var kept = new ShootingMode(
                "camera B",
                Optional.of(Shape.of(new Raster(4096, 2160), FrameRate.parse("50"), 10)),
                300,
                Optional.empty());
        return CardModel.reckon(
                CardClass.V30, new CardModel.Typed(raster, rate, bits, main, proxy, "128"), List.of(kept));
    }

    /// Class V30 guarantees 30 MB/s, that is 240 Mb/s (SD Association, Video Speed Class).
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        200 | 16 | MAIN_AND_PROXY | main and proxy
        230 | 10 | MAIN_AND_PROXY | main and proxy
        230 | 11 | MAIN_ONLY      | main only: too slow for both; V60 for all of it
        240 | '' | NO_PROXY_MADE  | main; cameras make no proxy here
        241 | '' | TOO_SLOW       | too slow for the main stream; V60 for all of it
        800 | '' | TOO_SLOW       | too slow for the main stream
        """)
    void ownDataRatesAreHeldAgainstTheCard(String main, String proxy, Fit fit, String words) {
        assertThat(reckon("3840x2160", "25", "10", main, proxy)).hasValueSatisfying(of -> {
            assertThat(of.line().fit()).isEqualTo(fit);
            assertThat(of.line().words()).isEqualTo(words);
            assertThat(of.line().name()).isEqualTo("3840×2160 at 25, 10 bit");
            assertThat(of.own()).isTrue();
        });
    }

    /// 128 GB of 8000 Mb each at 300, 116 and 256 Mb/s are 3413, 8827 and 4000 s.
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        4096x2160 | 50 | 10 | 300      | As camera B. 128 GB hold 56 min.
        3840×2160 | 24 | 8  | 100 + 9  | As UHD 24 or 25, 8 bit. 128 GB hold 2 h 36 min of both.
        3840x2160 | 60 | 12 | 480 + 28 | About: in proportion to UHD 50 or 60, 10 bit. 128 GB hold 33 min of both.
        """)
    void aShapeAloneHasUsualDataRates(String raster, String rate, String bits, String megabits, String words) {
        assertThat(reckon(raster, rate, bits, "", "")).hasValueSatisfying(of -> {
            assertThat(of.line().megabits()).isEqualTo(megabits);
            assertThat(of.words()).isEqualTo(words);
            assertThat(of.own()).isFalse();
        });
    }

    @Test
    void aSmallFilesOwnDataRateGoesWithTheUsualMainOne() {
        assertThat(reckon("3840x2160", "24", "8", "", "20")).hasValueSatisfying(of -> {
            assertThat(of.line().megabits()).isEqualTo("100 + 20");
            assertThat(of.own()).isFalse();
        });
    }

    @ParameterizedTest
    @CsvSource({
        "big, 25, 10, '', ''",
        "1920x1080, fast, 10, '', ''",
        "1920x1080, 0, 10, '', ''",
        "1920x1080, 25, '', '', ''",
        "1920x1080, 25, 99, '', ''",
        "1920x1080, 25, 10, fast, 16",
        "1920x1080, 25, 10, 200, slow",
        "1920x1080, 25, 10, 0, ''",
        "1920x1080, 25, 10, 200, -1",
        "1920x1080, 25, 10, 99999999999, ''"
    })
    void whatMakesNoSenseHasNoLine(String raster, String rate, String bits, String main, String proxy) {
        assertThat(reckon(raster, rate, bits, main, proxy)).isEmpty();
    }

    @Test
    void usualModesOfACard() {
        List<ShootingMode> usual = ShootingMode.USUAL;
        assertThat(CardModel.of(CardClass.V90, usual)).allMatch(line -> line.fit() != Fit.TOO_SLOW);
        assertThat(CardModel.of(CardClass.V6, usual).getFirst().words())
                .isEqualTo("too slow for the main stream; V10 for all of it");
        assertThat(CardModel.of(CardClass.V30, usual))
                .extracting(CardModel.Line::megabits)
                .contains("50 + 6", "200");
    }
}
