package docksort.engine;

import docksort.files.PartialFile;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.Frames;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// How copies of one clip are cut for several engines and joined again without being coded anew.
///
/// That is done only where the joined copy is the one that one engine would have made: a jump reaches every
/// frame of the original, each frame is coded by itself, and nothing done to a picture looks at its neighbours.
/// The rate control of H.264 looks back, also where every frame is a keyframe: it is left out.
final class Segments {
    /// A jump decodes from a keyframe on: segments are many times as long as what lies between two of those.
    private static final int GROUPS = 8;

    private static final int STILLS = 48; // in one segment, so that starting an engine for it is little

    private Segments() {}

    /// The most segments that copies made together may be cut into; 1 where cutting them is not exact.
    static int most(List<CopyOrder> orders) {
        CopyOrder first = orders.getFirst();
        Optional<VideoFacts> picture = first.facts().video();
        boolean exact = picture.isPresent()
                && mayBeCut(first, picture.get())
                && orders.stream().allMatch(order -> isCodedFrameByFrame(order, picture.get()));
        if (!exact) {
            return 1;
        }
        if (first.source() instanceof ClipSource.NumberedStills) {
            return Math.clamp(first.form().frames() / STILLS, 1, Integer.MAX_VALUE);
        }
        long group = Math.max(1, picture.get().structure().keyframeInterval().worstFrames());
        return Math.clamp(first.form().frames() / (group * GROUPS), 1, Integer.MAX_VALUE);
    }

    /// A still is a file of its own, and every stretch of a sequence a sequence; but words that count frames
    /// would begin anew in each. Where a recording goes on in another file, a jump is not known to be exact.
    private static boolean mayBeCut(CopyOrder order, VideoFacts picture) {
        return switch (order.source()) {
            case ClipSource.SingleFile _ -> isReachedExactly(picture);
            case ClipSource.NumberedStills stills ->
                stills.missing().isEmpty() && order.form().burnIns().isEmpty();
            case ClipSource.Spanned _ -> false;
        };
    }

    private static boolean isReachedExactly(VideoFacts picture) {
        return picture.rateKind() == VideoFacts.RateKind.CONSTANT
                && picture.frames().isCertain()
                && picture.frames().reach() == Frames.Reach.JUMP
                && picture.structure().isKnown();
    }

    private static boolean isCodedFrameByFrame(CopyOrder order, VideoFacts picture) {
        CopyForm form = order.form();
        boolean byFrame = form.target()
                .map(target -> target.isAllIntra() && target.family() != VideoTarget.Family.H264)
                .orElse(false);
        return byFrame
                && !form.hardware()
                && !form.deinterlace()
                && !form.framesMayRound()
                && !order.heldToEnd()
                && form.rate().equals(picture.rate());
    }

    /// Stretches of about the same length, one after another.
    static List<FrameRange> split(FrameRange all, int number) {
        var ranges = new ArrayList<FrameRange>();
        for (int i = 0; i < number; i++) {
            long from = all.count() * i / number;
            long to = all.count() * (i + 1) / number;
            ranges.add(new FrameRange(all.first() + from, to - from));
        }
        return List.copyOf(ranges);
    }

    /// What the copies are made from, in frames of the clip.
    static FrameRange range(CopyOrder order) {
        return order.form()
                .range()
                .orElseGet(() -> new FrameRange(0, order.form().frames()));
    }

    /// The picture of one stretch, without sound, in a file beside the copy.
    static CopyOrder segment(CopyOrder order, FrameRange range, int number) {
        Path file = PartialFile.piece(order.output(), number);
        boolean ofStills = order.source() instanceof ClipSource.NumberedStills;
        return new CopyOrder(
                order.source() instanceof ClipSource.NumberedStills stills ? stretch(stills, range) : order.source(),
                order.facts().withoutSound(),
                order.form().segment(ofStills ? new FrameRange(0, range.count()) : range),
                order.name(),
                Map.of(),
                file);
    }

    private static ClipSource stretch(ClipSource.NumberedStills stills, FrameRange range) {
        return new ClipSource.NumberedStills(
                stills.folder(),
                stills.prefix(),
                stills.digits(),
                stills.suffix(),
                Math.toIntExact(stills.first() + range.first()),
                Math.toIntExact(stills.first() + range.end() - 1),
                List.of());
    }

    /// Arguments that join the segments of each copy and put the sound of the original beside them.
    ///
    /// @param segments of each copy, in order
    static List<String> joined(List<CopyOrder> orders, List<List<Path>> segments) {
        CopyOrder first = orders.getFirst();
        boolean sound = !first.facts().audio().isEmpty();
        var line = new ArrayList<String>();
        segments.forEach(files -> line.addAll(PartsList.ofFiles(files)));
        if (sound) {
            line.addAll(CopyCommand.jump(first).before());
            line.addAll(MediaEngine.input(first.source(), first.facts().video().map(VideoFacts::rate)));
        }
        for (int i = 0; i < orders.size(); i++) {
            line.addAll(CopyCommand.joined(orders.get(i), i, sound ? Optional.of(orders.size()) : Optional.empty()));
        }
        return List.copyOf(line);
    }
}
