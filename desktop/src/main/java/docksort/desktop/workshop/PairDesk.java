package docksort.desktop.workshop;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.engine.FramePlayer;
import docksort.engine.FramePlayer.Footage;
import docksort.engine.FramePlayer.Shown;
import docksort.engine.FramePlayer.View;
import docksort.engine.LumaFigures;
import docksort.engine.MediaEngine;
import docksort.look.ShownLook;
import docksort.media.ClipSource;
import docksort.media.FrameRange;
import docksort.media.Frames;
import docksort.media.VideoFacts;
import docksort.problem.CoreException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;
import java.util.function.Function;

/// Frames of a recording and of its copy, for the pair view. Decoding is elsewhere; answers come on the
/// window's thread. Of several questions only the latest is answered.
public final class PairDesk implements AutoCloseable {
    private final FramePlayer player;
    private final ExecutorService decoding = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("pair-decoding").factory());
    private static final int PATIENCE_SECONDS = 5;
    private final AtomicLong latest = new AtomicLong();
    private final AtomicLong measuring = new AtomicLong();

    private final Executor window;
    private final Function<WorkingCopy, Optional<ShownLook>> looks;

    /// @param looks what is baked into a copy
    PairDesk(MediaEngine engine, Function<WorkingCopy, Optional<ShownLook>> looks, Executor window) {
        this.player = new FramePlayer(engine);
        this.looks = looks;
        this.window = window;
    }

    /// Which part of the picture is wanted in which size.
    ///
    /// @param left of the part, 0 to 1 of the picture's width; likewise `top`
    /// @param share of the picture's width and height that is shown, 1 for all
    public record Wanted(long frame, double left, double top, double share, int width, int height) {}

    /// One side as it was asked for.
    ///
    /// @param pixels blue, green, red, alpha
    /// @param millis reaching and decoding it
    public record Side(int width, int height, ByteBuffer pixels, double millis) {}

    /// @param originalFault why that side cannot be shown, where it cannot
    /// @param throughLook whether the look of the copy is laid over the original
    public record Answer(
            Wanted wanted,
            Optional<Side> original,
            Optional<Side> copy,
            Optional<String> originalFault,
            Optional<String> copyFault,
            boolean throughLook) {}

    /// How alike the two are.
    ///
    /// @param lowestAt frame with the lowest SSIM
    public record Likeness(int places, double ssim, double lowestSsim, long lowestAt, double psnr) {}

    /// @param then gets the answer, unless another question was asked meanwhile
    public void show(Clip clip, WorkingCopy copy, Wanted wanted, Consumer<Answer> then) {
        long own = latest.incrementAndGet();
        decoding.execute(() -> {
            if (own != latest.get()) {
                return; // a newer question waits
            }
            var originalFault = new ArrayList<String>();
            var copyFault = new ArrayList<String>();
            Optional<ShownLook> look = look(copy, originalFault);
            Optional<Side> original = side(original(clip, wanted.frame), wanted.frame, wanted, look, originalFault);
            Optional<Side> its =
                    side(copy(clip, copy), ofCopy(copy, wanted.frame), wanted, Optional.empty(), copyFault);
            var answer = new Answer(
                    wanted,
                    original,
                    its,
                    originalFault.stream().findFirst(),
                    copyFault.stream().findFirst(),
                    look.isPresent());
            window.execute(() -> {
                if (own == latest.get()) {
                    then.accept(answer);
                }
            });
        });
    }

    private Optional<ShownLook> look(WorkingCopy copy, List<String> faults) {
        if (!copy.bakesLook()) {
            return Optional.empty();
        }
        try {
            return looks.apply(copy);
        } catch (CoreException e) {
            faults.add(e.problem().sentence());
            return Optional.empty();
        }
    }

    private Optional<Side> side(
            Footage footage, long frame, Wanted wanted, Optional<ShownLook> look, List<String> faults) {
        try {
            Shown whole = player.show(footage, frame, View.whole(wanted.width, wanted.height));
            Shown shown = wanted.share >= 1 ? whole : player.show(footage, frame, part(wanted, whole));
            return Optional.of(new Side(
                    shown.width(),
                    shown.height(),
                    look.map(its -> its.over(shown.pixels())).orElse(shown.pixels()),
                    whole.decoding().toNanos() / 1e6));
        } catch (CoreException e) {
            faults.add(e.problem().sentence());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        return Optional.empty();
    }

    private static View part(Wanted wanted, Shown whole) {
        return new View(
                (int) Math.round(wanted.left * whole.frameWidth()),
                (int) Math.round(wanted.top * whole.frameHeight()),
                Math.max(1, (int) Math.round(wanted.share * whole.frameWidth())),
                Math.max(1, (int) Math.round(wanted.share * whole.frameHeight())),
                wanted.width,
                wanted.height,
                false);
    }

    private static Footage original(Clip clip, long frame) {
        VideoFacts video = clip.facts().video().orElseThrow();
        return Footage.of(clip.source(), video.frames(), video.rate(), frame);
    }

    /// A copy begins with its first frame at time 0.
    private static Footage copy(Clip clip, WorkingCopy copy) {
        VideoFacts video = clip.facts().video().orElseThrow();
        long count = copy.range().map(FrameRange::count).orElse(video.frames().count());
        return Footage.of(
                new ClipSource.SingleFile(copy.file()), new Frames(count, Frames.Origin.COUNTED), video.rate(), 0);
    }

    private static long ofCopy(WorkingCopy copy, long frame) {
        return frame - copy.range().map(FrameRange::first).orElse(0L);
    }

    /// Compares the luma of both at some frames, at the original's raster.
    ///
    /// @param progress hears how many are done
    /// @param then gets nothing where one of them could not be decoded
    public void compare(
            Clip clip,
            WorkingCopy copy,
            List<Long> frames,
            Consumer<Integer> progress,
            Consumer<Optional<Likeness>> then) {
        long own = measuring.incrementAndGet();
        decoding.execute(() -> compareNext(clip, copy, frames, new ArrayList<>(), own, progress, then));
    }

    /// One place at a time, so that scrubbing goes on between.
    private void compareNext(
            Clip clip,
            WorkingCopy copy,
            List<Long> frames,
            List<LumaFigures> done,
            long own,
            Consumer<Integer> progress,
            Consumer<Optional<Likeness>> then) {
        if (own != measuring.get()) {
            return;
        }
        if (done.size() == frames.size()) {
            Optional<Likeness> likeness = Optional.of(summed(frames, done));
            window.execute(() -> then.accept(likeness));
            return;
        }
        try {
            long frame = frames.get(done.size());
            done.add(figures(clip, copy, frame));
            int count = done.size();
            window.execute(() -> progress.accept(count));
            decoding.execute(() -> compareNext(clip, copy, frames, done, own, progress, then));
        } catch (CoreException e) {
            window.execute(() -> then.accept(Optional.empty()));
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private LumaFigures figures(Clip clip, WorkingCopy copy, long frame) throws InterruptedException {
        VideoFacts video = clip.facts().video().orElseThrow();
        int width = video.uprightRaster().width();
        int height = video.uprightRaster().height();
        Optional<ShownLook> look = copy.bakesLook() ? looks.apply(copy) : Optional.empty();
        View view = look.isPresent() ? View.whole(width, height) : View.luma(width, height);
        Shown original = player.show(original(clip, frame), frame, view);
        Shown its = player.show(copy(clip, copy), ofCopy(copy, frame), view);
        return look.isPresent()
                ? LumaFigures.of(luma(original, look.get().over(original.pixels())), luma(its, its.pixels()))
                : LumaFigures.of(original, its);
    }

    private static Shown luma(Shown of, ByteBuffer pixels) {
        return new Shown(
                of.width(), of.height(), of.frameWidth(), of.frameHeight(), ShownLook.luma(pixels), of.decoding());
    }

    private static Likeness summed(List<Long> frames, List<LumaFigures> figures) {
        int lowest = 0;
        for (int i = 1; i < figures.size(); i++) {
            lowest = figures.get(i).ssim() < figures.get(lowest).ssim() ? i : lowest;
        }
        return new Likeness(
                figures.size(),
                figures.stream().mapToDouble(LumaFigures::ssim).average().orElse(0),
                figures.get(lowest).ssim(),
                frames.get(lowest),
                figures.stream().mapToDouble(LumaFigures::psnr).average().orElse(0));
    }

    @Override
    public void close() {
        decoding.shutdownNow();
        try {
            // What is being decoded needs the engine, which closes next.
            if (!decoding.awaitTermination(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
                System.getLogger(PairDesk.class.getName())
                        .log(System.Logger.Level.WARNING, "a picture was still being decoded");
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        player.close();
    }
}
