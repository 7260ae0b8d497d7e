package docksort.dispatch;

import docksort.arrival.Clip;
import docksort.catalogue.Pin;
import docksort.catalogue.WorkingCopy;
import docksort.media.FrameRange;
import docksort.stock.StockLine;
import docksort.timeline.TimelineEvent;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// An event with the recording it uses.
///
/// @param line the recording with its copies, where it was found for certain
/// @param way by what it was found
/// @param how the same in words, or why it was not found
/// @param candidates recordings that could be meant, where that is doubtful
/// @param used frames of the recording, as far as it has them; empty for sound alone and where nothing was
/// found
/// @param needed the same with what transitions at its ends need
/// @param doubts what is not as it should be, in words
public record ConformedEvent(
        TimelineEvent event,
        Standing standing,
        Optional<StockLine> line,
        Way way,
        String how,
        List<StockLine> candidates,
        Optional<FrameRange> used,
        Optional<FrameRange> needed,
        List<Doubt> doubts) {
    public ConformedEvent {
        candidates = List.copyOf(candidates);
        doubts = List.copyOf(doubts);
    }

    /// By what a recording was found.
    public enum Way {
        /// The event leads to it.
        REFERENCE,
        /// The event leads to its folder and name, elsewhere.
        FOLDER_AND_NAME,
        /// The event leads to something else, or to nothing; what else it says points there.
        ELSE,
        /// It was not found.
        NONE
    }

    /// Something about an event that a person has to know.
    public record Doubt(Kind kind, String words) {
        /// What it concerns.
        public enum Kind {
            /// The original is away, moved, or another.
            NOT_THERE,
            /// It leads to a file that is not there, and the recording was found by other means.
            LEADS_NOWHERE,
            /// It is on a copy in which frames stand in place of others that its original lost.
            HOLES,
            /// It uses frames that the recording does not have.
            OUTSIDE,
            /// The timeline counts the recording at another rate than it has.
            RATE
        }
    }

    public int number() {
        return event.number();
    }

    public Optional<Clip> clip() {
        return line.map(StockLine::clip);
    }

    /// The copy it leads to; empty where it leads to no copy.
    public Optional<WorkingCopy> copy() {
        return standing instanceof Standing.OnCopy(var _, var id)
                ? line.stream()
                        .flatMap(its -> its.copies().stream())
                        .filter(copy -> copy.id().equals(id))
                        .findFirst()
                : Optional.empty();
    }

    public boolean isOnCopy() {
        return standing instanceof Standing.OnCopy;
    }

    /// How many files with a look baked in serve in a timeline: on their originals it has other colours.
    public static long filesWithLook(List<ConformedEvent> events) {
        return events.stream()
                .flatMap(event -> event.copy().stream())
                .filter(WorkingCopy::bakesLook)
                .map(WorkingCopy::file)
                .distinct()
                .count();
    }

    /// The pin that holds for it: one of its frames, or else one of its whole clip.
    public Optional<Pin> pinIn(List<Pin> pins) {
        return clip().flatMap(clip -> {
            List<Pin> its =
                    pins.stream().filter(pin -> pin.clip().equals(clip.id())).toList();
            return its.stream()
                    .filter(pin -> pin.frames()
                            .flatMap(frames -> used.filter(frames::overlaps))
                            .isPresent())
                    .findFirst()
                    .or(() -> its.stream().filter(pin -> pin.frames().isEmpty()).findFirst());
        });
    }

    public boolean has(Doubt.Kind kind) {
        return doubts.stream().anyMatch(doubt -> doubt.kind == kind);
    }

    /// Whether a person has to look at it.
    public boolean needsALook() {
        return !inWords().isEmpty();
    }

    /// What a person should look at, in one line; empty where all is well.
    public String inWords() {
        boolean unsure = standing instanceof Standing.Doubtful || standing instanceof Standing.Foreign;
        var words = new ArrayList<String>();
        if (unsure) {
            words.add(how);
        }
        doubts.forEach(doubt -> words.add(doubt.words));
        return String.join("; ", words);
    }
}
