package docksort.dispatch;

import docksort.arrival.Clip;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Rational;
import docksort.media.Timecode;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.timeline.EditListWriter;
import docksort.timeline.SourceUse;
import docksort.timeline.TimelineEvent;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// One track of a timeline as a CMX 3600 edit list, for programs that read nothing else. A list holds one
/// track of picture, cuts and dissolves, and one speed for an event. Source timecode counts the
/// recording's own frames.
///
/// @param text the list
/// @param left events that a list cannot hold, with the reason
public record CutList(String text, List<String> left) {
    public CutList {
        left = List.copyOf(left);
    }

    /// Tracks that have events of picture, in order.
    public static List<String> tracks(Conform conform) {
        return conform.events().stream()
                .filter(event -> event.event().kind() == TimelineEvent.Kind.PICTURE)
                .map(event -> event.event().track())
                .distinct()
                .toList();
    }

    /// @param rate of the list, where the timeline tells none
    /// @throws InputRefused when the track has nothing that a list can hold
    public static CutList of(Conform conform, String track, FrameRate rate) {
        FrameRate fps = conform.document().rate().orElse(rate);
        boolean drop = fps.allowsDropFrame();
        Timecode zero = Timecode.parse(drop ? "01:00:00;00" : "01:00:00:00", fps); // common practice, no source
        var lines = new ArrayList<EditListWriter.Line>();
        var left = new ArrayList<String>();
        List<ConformedEvent> events = conform.events().stream()
                .filter(event ->
                        event.event().track().equals(track) && event.event().kind() == TimelineEvent.Kind.PICTURE)
                .toList();
        for (int i = 0; i < events.size(); i++) {
            ConformedEvent event = events.get(i);
            Rational overlap = i + 1 < events.size()
                    ? events.get(i + 1).event().transition().before()
                    : Rational.ZERO;
            Optional<EditListWriter.Line> line = line(event, overlap, fps, zero);
            line.ifPresent(lines::add);
            if (line.isEmpty() && !(event.standing() instanceof Standing.WithoutMedia)) {
                left.add("event " + event.number() + ", " + event.event().name() + ": "
                        + event.standing().label());
            }
        }
        if (lines.isEmpty()) {
            throw new InputRefused(new Problem(
                    "There is no edit list of track " + track,
                    "no event of it has a recording of the project",
                    "Nothing was written.",
                    "Choose another track."));
        }
        return new CutList(EditListWriter.write(conform.document().name(), fps, drop, lines), left);
    }

    /// A dissolve begins in a list where the incoming media does; a timeline lays it over the cut.
    ///
    /// @param overlap seconds of the next event's dissolve that lie before the cut
    private static Optional<EditListWriter.Line> line(
            ConformedEvent event, Rational overlap, FrameRate fps, Timecode zero) {
        if (event.clip().isEmpty() || event.used().isEmpty()) {
            return Optional.empty();
        }
        Clip clip = event.clip().get();
        FrameRange used = event.used().get();
        FrameRate own = clip.facts().video().orElseThrow().rate();
        Timecode start = clip.facts().startTimecode().orElse(Timecode.zero(own));
        SourceUse use = event.event().use();
        Rational speed = use instanceof SourceUse.Times times ? times.speed() : Rational.of(1);
        Rational length = use instanceof SourceUse.Times times ? times.duration() : own.secondsOf(used.count());
        Rational lead = event.event().transition().before();
        Rational begins = event.event().begins();
        long sourceLead = own.framesIn(lead.times(speed.absolute()));
        long sourceOverlap = own.framesIn(overlap.times(speed.absolute()));
        return Optional.of(new EditListWriter.Line(
                clip.facts().reel().orElse(""),
                "V",
                fps.framesIn(event.event().transition().length()),
                start.plus(used.first() - sourceLead),
                start.plus(Math.max(used.first() - sourceLead, used.end() - sourceOverlap)),
                zero.plus(fps.framesIn(begins.minus(lead))),
                zero.plus(fps.framesIn(begins.plus(length).minus(overlap))),
                speed,
                String.valueOf(clip.source().head().getFileName()),
                clip.source().head().toString()));
    }
}
