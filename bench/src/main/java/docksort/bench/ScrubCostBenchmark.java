package docksort.bench;

import docksort.media.CodedFrame;
import docksort.media.FrameStructure;
import docksort.media.Rational;
import docksort.media.ScrubCost;
import java.util.ArrayList;
import java.util.List;
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

/// How building a structure, with its scrub cost, grows with the number of frames: it must stay near-linear.
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MICROSECONDS)
@Warmup(iterations = 2, time = 1)
@Measurement(iterations = 3, time = 1)
@Fork(1)
public class ScrubCostBenchmark {
    @Param({"1500", "15000", "150000"})
    private int frames = 1500;

    private List<CodedFrame> list = List.of();

    @Setup
    public void structure() {
        var found = new ArrayList<CodedFrame>(frames);
        for (int i = 0; i < frames; i++) {
            found.add(new CodedFrame(i, i % 50 == 0, 10_000));
        }
        list = found;
    }

    @Benchmark
    public ScrubCost scrubCost() {
        return FrameStructure.of(list, FrameStructure.Extent.WHOLE, new Rational(1, 25))
                .scrubCost();
    }
}
