package docksort.engine;

import docksort.files.PartialFile;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.Frames;
import docksort.media.Rational;
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

    /// A still is a file of its own, and every stretch of a sequence a sequence; a recording in several files is
    /// cut where one of them ends, too, if no picture leans on one of the file before. But words that count frames
    /// would begin anew in each.
    private static boolean mayBeCut(CopyOrder order, VideoFacts picture) {
        boolean counts = !order.form().burnIns().words().isEmpty();
        return switch (order.source()) {
            case ClipSource.SingleFile _ -> isReachedExactly(picture);
            case ClipSource.NumberedStills stills -> stills.missing().isEmpty() && !counts;
            case ClipSource.Spanned spanned ->
                isReachedExactly(picture)
                        && picture.structure().isAllIntra()
                        && !counts
                        && parts(spanned, picture).isPresent();
        };
    }

    /// The files of a recording and which of its frames each has; empty where that is not known.
    private static Optional<List<Part>> parts(ClipSource.Spanned spanned, VideoFacts picture) {
        var parts = new ArrayList<Part>();
        long first = 0;
        for (int i = 0; i < spanned.seconds().size(); i++) {
            Rational frames = spanned.seconds().get(i).times(picture.rate().exact());
            if (frames.denominator() != 1 || !frames.isPositive()) {
                return Optional.empty();
            }
            parts.add(new Part(spanned.parts().get(i), new FrameRange(first, frames.numerator())));
            first += frames.numerator();
        }
        return first == picture.frames().count() ? Optional.of(parts) : Optional.empty();
    }

    private record Part(Path file, FrameRange frames) {}

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

    /// Stretches to be made at the same time: as many as are asked for, and of a recording in several files
    /// one more for each file that begins in the middle of one.
    static List<FrameRange> stretches(CopyOrder order, int number) {
        List<FrameRange> even = split(range(order), number);
        if (!(order.source() instanceof ClipSource.Spanned spanned)) {
            return even;
        }
        List<Part> parts = parts(spanned, order.facts().video().orElseThrow()).orElseThrow();
        return even.stream()
                .flatMap(stretch -> parts.stream().flatMap(part -> common(stretch, part.frames).stream()))
                .toList();
    }

    private static Optional<FrameRange> common(FrameRange one, FrameRange other) {
        long first = Math.max(one.first(), other.first());
        long end = Math.min(one.end(), other.end());
        return first < end ? Optional.of(new FrameRange(first, end - first)) : Optional.empty();
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
        if (order.source() instanceof ClipSource.Spanned spanned) {
            return ofPart(order, spanned, range, file);
        }
        boolean ofStills = order.source() instanceof ClipSource.NumberedStills;
        return new CopyOrder(
                order.source() instanceof ClipSource.NumberedStills stills ? stretch(stills, range) : order.source(),
                order.facts().withoutSound(),
                order.form().segment(ofStills ? new FrameRange(0, range.count()) : range),
                order.name(),
                Map.of(),
                file);
    }

    private static CopyOrder ofPart(CopyOrder order, ClipSource.Spanned spanned, FrameRange range, Path file) {
        VideoFacts picture = order.facts().video().orElseThrow();
        Part part = parts(spanned, picture).orElseThrow().stream()
                .filter(each -> each.frames.end() > range.first())
                .findFirst()
                .orElseThrow();
        Frames all = picture.frames();
        var frames = new Frames(part.frames.count(), all.origin(), all.firstAt(), all.reach());
        return new CopyOrder(
                new ClipSource.SingleFile(part.file),
                order.facts().withoutSound().withVideo(Optional.of(picture.withFrames(frames))),
                order.form().segment(new FrameRange(range.first() - part.frames.first(), range.count())),
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
