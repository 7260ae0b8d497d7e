package docksort.desktop.pair;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.workshop.PairDesk.Likeness;
import docksort.desktop.workshop.PairDesk.Wanted;
import docksort.media.FrameRange;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// Which frame and which part of it a recording and its copy are looked at, and what that told.
final class PairModel {
    /// Frames that are compared over all of a copy.
    static final int PLACES = 12;

    /// Pixels of the window for one of the original; 0 fits the picture.
    static final List<Integer> ZOOMS = List.of(0, 1, 2, 4, 8);

    /// Between two pictures side by side, in pixels.
    static final int GAP = 8;

    private static final int REMEMBERED = 30;
    private static final long NOWHERE = -10;

    /// How the two are shown.
    enum Mode {
        WIPE("wipe"),
        SIDE("side by side"),
        BLINK("in turn"),
        DIFFERENCE("difference");

        private final String label;

        Mode(String label) {
            this.label = label;
        }

        String label() {
            return label;
        }
    }

    /// Pixels of the window that one picture takes.
    record Size(int width, int height) {}

    private final Clip clip;
    private final VideoFacts video;
    private final Deque<Double> originalMillis = new ArrayDeque<>();
    private final Deque<Double> copyMillis = new ArrayDeque<>();
    private Mode mode = Mode.WIPE;
    private int zoom;
    private double wipe = 0.5;
    private double centreX = 0.5;
    private double centreY = 0.5;
    private long timed = NOWHERE;

    /// @param clip that has a picture
    PairModel(Clip clip) {
        this.clip = clip;
        this.video = clip.facts().video().orElseThrow();
    }

    Mode mode() {
        return mode;
    }

    void show(Mode how) {
        mode = how;
    }

    int zoom() {
        return zoom;
    }

    void zoomTo(int pixels) {
        zoom = pixels;
    }

    /// Where the wipe stands, from 0 at the left to 1.
    double wipe() {
        return wipe;
    }

    // Frames

    long lastFrame() {
        return Math.max(0, video.frames().count() - 1);
    }

    /// A frame by its number, or by its timecode.
    ///
    /// @return empty when the recording has none such
    Optional<Long> frameOf(String text) {
        try {
            long frame = text.strip().matches("\\d{1,9}")
                    ? Long.parseLong(text.strip())
                    : Timecode.parse(text.strip(), video.rate()).frameOfDay()
                            - clip.facts()
                                    .startTimecode()
                                    .map(Timecode::frameOfDay)
                                    .orElse(0L);
            return Optional.of(frame).filter(number -> number >= 0 && number <= lastFrame());
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    /// What is wrong with a frame that somebody wrote.
    Optional<String> fault(String text) {
        return text.isBlank() || frameOf(text).isPresent()
                ? Optional.empty()
                : Optional.of("a frame to " + lastFrame() + ", or its timecode");
    }

    String place(long frame) {
        return frame + " of " + lastFrame()
                + clip.facts()
                        .startTimecode()
                        .map(start -> "  " + start.plus(frame))
                        .orElse("");
    }

    /// Why a copy has no such frame.
    static Optional<String> lacks(WorkingCopy copy, long frame) {
        return copy.range()
                .filter(range -> !range.contains(new FrameRange(frame, 1)))
                .map(range -> "The copy holds " + range.inWords() + " only.");
    }

    /// Frames to compare over all that a copy holds, its first and last among them.
    List<Long> places(WorkingCopy copy) {
        FrameRange range = copy.range().orElse(new FrameRange(0, lastFrame() + 1));
        var frames = new ArrayList<Long>();
        for (int i = 0; i < PLACES; i++) {
            frames.add(range.first() + (range.count() - 1) * i / (PLACES - 1));
        }
        return frames.stream().distinct().toList();
    }

    /// What the original is shown as beside a copy.
    ///
    /// @param throughLook whether the copy's look is laid over it
    static String originalName(WorkingCopy copy, boolean throughLook) {
        if (throughLook) {
            return "original through the copy's look";
        }
        return copy.bakesLook() ? "original without the copy's look: its recipe is another now" : "original";
    }

    /// The frame of the recording that a copy is least like when it was checked.
    static Optional<Long> leastAlike(WorkingCopy copy) {
        return copy.place()
                .leastAlike()
                .map(frame -> frame + copy.range().map(FrameRange::first).orElse(0L));
    }

    // What is seen of a frame

    /// The largest size of the picture's shape that fits.
    ///
    /// @param width of the place for both
    Size size(double width, double height) {
        double wide = mode == Mode.SIDE ? (width - GAP) / 2 : width;
        double aspect =
                (double) video.displayRaster().width() / video.displayRaster().height();
        double fits = Math.min(wide, height * aspect);
        return new Size((int) Math.max(16, fits), (int) Math.max(16, Math.round(fits / aspect)));
    }

    private double share(Size size) {
        return zoom == 0
                ? 1
                : Math.min(
                        1, size.width / (double) (zoom * video.uprightRaster().width()));
    }

    Wanted wanted(long frame, Size size) {
        double share = share(size);
        return new Wanted(
                frame,
                Math.clamp(centreX - share / 2, 0, 1 - share),
                Math.clamp(centreY - share / 2, 0, 1 - share),
                share,
                size.width,
                size.height);
    }

    /// Moves the wipe, or the part that is shown where the picture is larger than the place for it.
    ///
    /// @param x where the pointer is now, from the left of the place
    /// @param byX how far it was moved
    /// @param part whether the part is meant also where the wipe could be
    /// @return whether another part is to be asked for
    boolean drag(double x, double byX, double byY, double width, Size size, boolean part) {
        double share = share(size);
        if (mode == Mode.WIPE && (zoom == 0 || part || share >= 1)) {
            double left = (width - size.width) / 2;
            wipe = Math.clamp((x - left) / size.width, 0, 1);
            return false;
        }
        centreX = Math.clamp(centreX - byX / size.width * share, share / 2, 1 - share / 2);
        centreY = Math.clamp(centreY - byY / size.height * share, share / 2, 1 - share / 2);
        return true;
    }

    // How long a jump takes

    /// Another copy is beside it: what was measured is no longer of it.
    void otherCopy() {
        copyMillis.clear();
        originalMillis.clear();
        timed = NOWHERE;
    }

    /// Hears how long a frame took. The same frame again takes no time, and the next was mostly decoded
    /// with the one before.
    void took(long frame, Optional<Double> original, Optional<Double> copy) {
        boolean jump = Math.abs(frame - timed) > 1;
        timed = frame;
        if (jump) {
            original.ifPresent(millis -> remember(originalMillis, millis));
            copy.ifPresent(millis -> remember(copyMillis, millis));
        }
    }

    private static void remember(Deque<Double> millis, double one) {
        millis.addLast(one);
        if (millis.size() > REMEMBERED) {
            millis.removeFirst();
        }
    }

    String times() {
        return "A jump is reached in: original " + median(originalMillis) + ", copy " + median(copyMillis)
                + " (median of the last " + Math.max(1, originalMillis.size()) + ")";
    }

    private static String median(Deque<Double> millis) {
        if (millis.isEmpty()) {
            return "not shown";
        }
        double[] sorted =
                millis.stream().mapToDouble(Double::doubleValue).sorted().toArray();
        double middle = sorted[sorted.length / 2];
        return String.format(Locale.ROOT, middle < 10 ? "%.1f ms" : "%.0f ms", middle);
    }

    // How alike

    static String inWords(Optional<Likeness> found) {
        return found.map(PairModel::inWords).orElse("They could not be compared: see the message above");
    }

    private static String inWords(Likeness found) {
        String psnr = Double.isInfinite(found.psnr())
                ? "PSNR infinite, they are equal"
                : String.format(Locale.ROOT, "PSNR %.1f dB", found.psnr());
        return found.places() == 1
                ? String.format(Locale.ROOT, "luma SSIM %.4f, %s, at frame %d", found.ssim(), psnr, found.lowestAt())
                : String.format(
                        Locale.ROOT,
                        "luma SSIM %.4f, lowest %.4f at frame %d, %s, over %d places",
                        found.ssim(),
                        found.lowestSsim(),
                        found.lowestAt(),
                        psnr,
                        found.places());
    }
}
