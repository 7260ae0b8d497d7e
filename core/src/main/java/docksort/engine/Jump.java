package docksort.engine;

import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.Frames;
import docksort.media.Rational;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// How the engine is brought to one frame of a clip, so that it is the first that comes and stands at
/// time 0, with the sound that belongs to it.
///
/// @param before options before the input
/// @param picture beginning of the chain of picture filters: empty, or ending with a comma
/// @param sound the same for each stream of sound
record Jump(List<String> before, String picture, String sound) {
    static final Jump NONE = new Jump(List.of(), "", "");
    private static final Rational SLACK = new Rational(1, 2_000); // far below a frame, far above rounding

    // Where a jump may land late it aims at a moment before the frame: two groups of pictures of broadcast
    // footage are far below this, and decoding it takes a second.
    private static final Rational LEAD = Rational.of(12);

    private static final Rational EARLIER = new Rational(3, 23);
    private static final long BEHIND = 16; // frames by which one may be decoded after it is shown, at most

    /// For a process that reads picture and sound, or whose input is no single file.
    static Jump to(ClipSource source, long frame, FrameRate rate, Frames frames) {
        return source instanceof ClipSource.NumberedStills ? NONE : to(frame, rate, frames, false);
    }

    /// For a process that reads the picture alone. Of streams that may begin anew at any moment the
    /// engine counts time from the first of those it reads (ffmpeg_opt.c, correct_input_start_times),
    /// until it jumps.
    static Jump ofPicture(ClipSource source, long frame, FrameRate rate, Frames frames) {
        boolean fromPicture = source instanceof ClipSource.SingleFile && frames.reach() == Frames.Reach.NEARLY;
        return source instanceof ClipSource.NumberedStills ? NONE : to(frame, rate, frames, fromPicture);
    }

    private static Jump to(long frame, FrameRate rate, Frames frames, boolean fromPicture) {
        Rational firstAt = frames.firstAt().orElse(Rational.ZERO);
        Rational at = firstAt.plus(rate.secondsOf(frame));
        if (frames.reach() == Frames.Reach.COUNT) {
            String counted = "setpts=N/(" + rate + ")/TB,";
            return new Jump(
                    List.of(),
                    frame <= 0 ? counted : counted + "trim=start_frame=" + frame + ",setpts=PTS-STARTPTS,",
                    at.isPositive() ? sound(at) : "");
        }
        if (frame <= 0) {
            return firstAt.isPositive() && !fromPicture ? new Jump(List.of(), shifted(firstAt), sound(firstAt)) : NONE;
        }
        Rational from = at.minus(SLACK);
        if (frames.reach() == Frames.Reach.JUMP) {
            return new Jump(List.of("-ss", seconds(from)), "", "");
        }
        boolean late = frames.reach() == Frames.Reach.NEARLY;
        if (late && from.compareTo(firstAt.plus(LEAD)) > 0) {
            return trimmed(List.of("-ss", seconds(from.minus(LEAD))), LEAD);
        }
        return trimmed(List.of(), fromPicture ? from.minus(firstAt) : from);
    }

    /// The same frame by a jump that aims at an earlier moment and decodes up to it. Only what jumps at
    /// all can.
    Jump startingEarlier(Rational lead) {
        if (before.size() != 2 || !picture.isEmpty() || !lead.isPositive()) {
            return this;
        }
        Rational at = Rational.parse(before.get(1));
        return at.compareTo(lead) > 0 ? trimmed(List.of("-ss", seconds(at.minus(lead))), lead) : trimmed(List.of(), at);
    }

    /// Frames of a row of which it is known how many packets hold them, for the picture alone. Decoders run
    /// ahead of what is wanted, by ten large frames for three: they get those packets and no more. Where frames
    /// stand in another order in a file, the engine aims 3/23 of a second earlier than it is told
    /// (ffmpeg_demux.c, ifile_open), and so at the key before a key: it is told later, and lands on it.
    /// Whatever comes out before the row or behind it is left out: wherever else a jump may land, frames are
    /// missing, none is another.
    Jump within(FrameSamples.Row row, FrameRate rate) {
        long beyond = rate.framesIn(EARLIER) + 1;
        boolean lands = row.untilKey() > beyond && !before.isEmpty();
        if (row.packets() == 0 || (row.untilKey() > 1 && !before.isEmpty() && !lands)) {
            return this;
        }
        Rational quarter = rate.secondsOf(1).dividedBy(Rational.of(4));
        Rational aim = lands ? rate.secondsOf(beyond) : Rational.ZERO;
        var options = new ArrayList<String>();
        if (lands) {
            options.addAll(List.of(
                    "-noaccurate_seek",
                    "-ss",
                    seconds(Rational.parse(before.get(1)).plus(aim))));
        } else {
            options.addAll(before);
        }
        options.addAll(List.of("-bsf:v", "noise=drop=gte(n\\," + row.packets() + ")"));
        options.addAll(List.of("-t", seconds(rate.secondsOf(row.packets() + BEHIND))));
        String shift = lands ? "setpts=PTS+" + seconds(aim) + "/TB," : picture;
        return new Jump(
                options,
                shift + "trim=start=-" + seconds(quarter) + ":end="
                        + seconds(rate.secondsOf(row.count()).minus(quarter)) + ",",
                "");
    }

    private static Jump trimmed(List<String> before, Rational rest) {
        return new Jump(before, "trim=start=" + seconds(rest) + "," + shifted(rest), sound(rest));
    }

    private static String shifted(Rational by) {
        return "setpts=PTS-" + seconds(by) + "/TB,";
    }

    private static String sound(Rational from) {
        return "atrim=start=" + seconds(from) + ",asetpts=PTS-" + seconds(from) + "/TB,";
    }

    static String seconds(Rational seconds) {
        return String.format(Locale.ROOT, "%.6f", seconds.toDouble());
    }
}
