package docksort.engine;

import docksort.engine.ChildProcesses.Ending;
import docksort.files.PartialFile;
import docksort.media.FrameRange;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicLongArray;

/// Makes copies in segments, each by an engine of its own at the same time, and joins them.
final class SegmentMaker {
    private final MediaEngine engine;
    private final List<CopyOrder> orders;
    private final List<List<CopyOrder>> segments; // of each stretch, one for each copy
    private final CopyMaker.Listener listener;
    private final AtomicLongArray written;

    SegmentMaker(MediaEngine engine, List<CopyOrder> orders, int number, CopyMaker.Listener listener) {
        this.engine = engine;
        this.orders = orders;
        this.listener = listener;
        List<FrameRange> ranges = Segments.stretches(orders.getFirst(), number);
        this.written = new AtomicLongArray(ranges.size());
        var all = new ArrayList<List<CopyOrder>>();
        for (int i = 0; i < ranges.size(); i++) {
            FrameRange range = ranges.get(i);
            int which = i;
            all.add(orders.stream()
                    .map(order -> Segments.segment(order, range, which))
                    .toList());
        }
        this.segments = List.copyOf(all);
    }

    /// @return whether the copies are there, whole and as one engine makes them; otherwise nothing is
    ///     left of it
    boolean make(ProcessControl control) throws InterruptedException {
        var stop = new Cancellation();
        ProcessControl inside = control.cancelledBy(stop);
        try (var _ = control.cancellation().onCancel(stop::cancel);
                var engines = Executors.newVirtualThreadPerTaskExecutor()) {
            var tasks = new ArrayList<Callable<Boolean>>();
            for (int i = 0; i < segments.size(); i++) {
                int which = i;
                tasks.add(() -> encode(which, inside));
            }
            boolean good = true;
            for (Future<Boolean> task : engines.invokeAll(tasks)) {
                good &= task.get();
            }
            return good && join(inside);
        } catch (ExecutionException e) {
            throw new IllegalStateException("a segment could not be made", e.getCause());
        } finally {
            segments.forEach(stretch -> stretch.forEach(segment -> PartialFile.discard(segment.output())));
        }
    }

    /// Anything out of the usual in one of them ends all: what the clip is like then is found out by the
    /// engine that makes it in one piece.
    private boolean encode(int which, ProcessControl control) throws InterruptedException {
        List<CopyOrder> stretch = segments.get(which);
        var progress = new EncodingProgress(frames -> {
            written.set(which, frames);
            tell();
        });
        boolean good = false;
        try {
            Ending ending = engine.encode(CopyCommand.arguments(stretch, Optional.empty(), 0), progress::line, control);
            good = ending.isGood()
                    && ending.lastLines().isEmpty()
                    && progress.repeated() == 0
                    && progress.written() == stretch.getFirst().form().frames();
        } catch (IOException e) {
            System.getLogger(SegmentMaker.class.getName())
                    .log(
                            System.Logger.Level.INFO,
                            "segment of " + stretch.getFirst().source(),
                            e);
        } finally {
            if (!good) {
                control.cancellation().cancel();
            }
        }
        return good;
    }

    private boolean join(ProcessControl control) throws InterruptedException {
        var files = new ArrayList<List<Path>>();
        for (int i = 0; i < orders.size(); i++) {
            int which = i;
            files.add(segments.stream()
                    .map(stretch -> stretch.get(which).output())
                    .toList());
        }
        try {
            var progress = new EncodingProgress(_ -> tell());
            Ending ending = engine.encode(Segments.joined(orders, files), progress::line, control);
            return ending.isGood()
                    && ending.lastLines().isEmpty()
                    && progress.written() == orders.getFirst().form().frames();
        } catch (IOException e) {
            System.getLogger(SegmentMaker.class.getName())
                    .log(
                            System.Logger.Level.INFO,
                            "joining " + orders.getFirst().source(),
                            e);
            return false;
        }
    }

    private void tell() {
        long frames = 0;
        for (int i = 0; i < written.length(); i++) {
            frames += written.get(i);
        }
        var bytes = new ArrayList<Long>();
        for (int i = 0; i < orders.size(); i++) {
            int which = i;
            bytes.add(segments.stream()
                    .mapToLong(stretch -> stretch.get(which).output().toFile().length())
                    .sum());
        }
        listener.progressed(frames, bytes);
    }
}
