package docksort.bench;

import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.files.Room;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Codec;
import docksort.media.CodedFrame;
import docksort.media.Colour;
import docksort.media.Findings;
import docksort.media.Fingerprint;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Frames;
import docksort.media.Hdr;
import docksort.media.PixelFormat;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.VideoFacts;
import docksort.sort.Circumstances;
import docksort.sort.LoadSheet;
import docksort.sort.PastCopies;
import docksort.sort.PlanMemory;
import docksort.sort.Planning;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.SortRule;
import docksort.strain.StrainJudge;
import docksort.strain.TimelineFormat;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/// The whole load sheet after a recipe was changed. At 5,000 clips it has 150 ms; the two sizes tell
/// whether it grows with the number of clips and no faster. And the sheet after one clip was set by hand, by a plan
/// that remembers the one before.
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Warmup(iterations = 3, time = 1)
@Measurement(iterations = 5, time = 1)
@Fork(1)
public class LoadSheetBenchmark {
    @Param({"500", "5000"})
    private int count = 500;

    private List<Clip> clips = List.of();
    private List<Planning> books = List.of();
    private int next;
    private final PlanMemory memory = new PlanMemory();

    @Setup
    public void plan() {
        var made = new ArrayList<Clip>();
        for (int i = 0; i < count; i++) {
            made.add(clip(i));
        }
        clips = made;
        var plannings = new ArrayList<Planning>();
        for (Recipe recipe : List.of(Recipe.LIGHT_PRORES_HALF, Recipe.LIGHT_VC3_FIT, Recipe.FULL_VC3, Recipe.REVIEW)) {
            var book = SortBook.BUILT_IN.withRules(List.of(new SortRule(List.of(), List.of(recipe.id()))));
            plannings.add(planning(book, Map.of()));
        }
        books = plannings;
    }

    private static Planning planning(SortBook book, Map<ClipId, List<String>> byHand) {
        var room = new Room("volume", new ByteSize(1L << 42), new ByteSize(1L << 41), Optional.empty());
        return new Planning(
                book,
                byHand,
                _ -> false,
                new StrainJudge(TimelineFormat.HD_25),
                Map.of(),
                Circumstances.of(TimelineFormat.HD_25),
                PastCopies.NONE,
                (_, _) -> room,
                Map.of(),
                Map.of(),
                (_, _) -> List.of(),
                Set.of(),
                _ -> Optional.empty());
    }

    static Clip clip(int number) {
        var frames = new ArrayList<CodedFrame>();
        for (int i = 0; i < 250; i++) {
            frames.add(new CodedFrame(i, i % (1 + number % 50) == 0, 20_000));
        }
        var raster = number % 3 == 0 ? new Raster(3840, 2160) : new Raster(1920, 1080);
        var video = new VideoFacts(
                new Codec("h264", "High", 40),
                raster,
                raster,
                Rational.of(1),
                0,
                ScanType.PROGRESSIVE,
                new PixelFormat("yuv420p", number % 2 == 0 ? 8 : 10, PixelFormat.Chroma.C420, false),
                Colour.UNSTATED,
                Hdr.NONE,
                FrameRate.FPS_25,
                VideoFacts.RateKind.CONSTANT,
                new Frames(250, Frames.Origin.COUNTED),
                FrameStructure.of(frames, FrameStructure.Extent.WHOLE, new Rational(1, 25)));
        var facts = new ClipFacts(
                "MOV",
                Optional.of(video),
                List.of(),
                Rational.of(10),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                new ByteSize(5_000_000),
                Findings.NONE,
                Map.of());
        return new Clip(
                new ClipId("c" + number),
                new ArrivalId("a" + number % 20),
                new ClipSource.SingleFile(Path.of("/volume/card/c" + number + ".mov")),
                facts,
                new Fingerprint(1, String.format(Locale.ROOT, "%032x", number)));
    }

    @Benchmark
    public LoadSheet choiceForOneClip() {
        ClipId chosen = clips.get(next++ % clips.size()).id();
        Planning planning = planning(SortBook.BUILT_IN, Map.of(chosen, List.of(Recipe.FULL_VC3.id())));
        return LoadSheet.plan(clips, planning, memory, _ -> List.of());
    }

    @Benchmark
    public LoadSheet changeOfRecipe() {
        return LoadSheet.plan(clips, books.get(next++ % books.size()));
    }
}
