package docksort.dispatch;

import docksort.media.FrameRange;
import docksort.timeline.TimelineEvent;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// What is otherwise in a newer version of a timeline. Events are the same use where they use frames in
/// common of one recording on one track; what stands at the same place with another recording was put in
/// its place.
///
/// @param changes in the order of the newer version, dropped ones last
/// @param same how many events use the same frames in both
public record TimelineComparison(List<Change> changes, int same) {
    public TimelineComparison {
        changes = List.copyOf(changes);
    }

    /// How an event changed.
    public enum Kind {
        ADDED("added"),
        /// It uses frames that the older version did not.
        EXTENDED("extended"),
        SHORTENED("shortened"),
        DROPPED("dropped"),
        /// Another recording stands at its place.
        REPLACED("replaced");

        private final String label;

        Kind(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /// @param event the event of the newer version, or the dropped one of the older
    /// @param words what changed
    public record Change(Kind kind, TimelineEvent event, String words) {}

    public static TimelineComparison of(List<ConformedEvent> older, List<ConformedEvent> newer) {
        return new Matching(older).with(newer);
    }

    public long count(Kind kind) {
        return changes.stream().filter(change -> change.kind == kind).count();
    }

    private static final class Matching {
        private final Map<String, List<ConformedEvent>> left = new HashMap<>();
        private final List<Change> changes = new ArrayList<>();
        private int same;

        Matching(List<ConformedEvent> older) {
            older.forEach(event ->
                    left.computeIfAbsent(key(event), _ -> new ArrayList<>()).add(event));
        }

        TimelineComparison with(List<ConformedEvent> newer) {
            var unmatched = new ArrayList<ConformedEvent>();
            for (ConformedEvent event : newer) {
                Optional<ConformedEvent> before = take(event);
                if (before.isEmpty()) {
                    unmatched.add(event);
                } else {
                    compare(before.get(), event);
                }
            }
            List<ConformedEvent> gone =
                    new ArrayList<>(left.values().stream().flatMap(List::stream).toList());
            for (ConformedEvent event : unmatched) {
                Optional<ConformedEvent> replaced =
                        gone.stream().filter(old -> samePlace(old, event)).findFirst();
                replaced.ifPresent(gone::remove);
                changes.add(
                        replaced.isPresent()
                                ? new Change(Kind.REPLACED, event.event(), name(replaced.get()) + " stood there")
                                : new Change(Kind.ADDED, event.event(), frames(event)));
            }
            gone.sort(Comparator.comparingInt(ConformedEvent::number));
            changes.sort(Comparator.comparingInt(change -> change.event().number()));
            gone.forEach(event -> changes.add(new Change(Kind.DROPPED, event.event(), frames(event))));
            return new TimelineComparison(changes, same);
        }

        private static String key(ConformedEvent event) {
            String media = event.clip()
                    .map(clip -> clip.id().value())
                    .orElse(event.event().media().key());
            return event.event().track() + "\u0000" + event.event().kind() + "\u0000" + media;
        }

        /// The use that shares most frames; of equal ones the nearest in time.
        private Optional<ConformedEvent> take(ConformedEvent event) {
            List<ConformedEvent> candidates = left.getOrDefault(key(event), List.of());
            Optional<ConformedEvent> best = candidates.stream()
                    .filter(old -> old.used().isEmpty() || event.used().isEmpty() || shared(old, event) > 0)
                    .max(Comparator.comparingLong((ConformedEvent old) -> shared(old, event))
                            .thenComparing(
                                    old -> old.event()
                                            .begins()
                                            .minus(event.event().begins())
                                            .absolute(),
                                    Comparator.reverseOrder()));
            best.ifPresent(candidates::remove);
            return best;
        }

        private static long shared(ConformedEvent one, ConformedEvent other) {
            if (one.used().isEmpty() || other.used().isEmpty()) {
                return 0;
            }
            FrameRange a = one.used().get();
            FrameRange b = other.used().get();
            return Math.max(0, Math.min(a.end(), b.end()) - Math.max(a.first(), b.first()));
        }

        private void compare(ConformedEvent before, ConformedEvent now) {
            if (before.used().equals(now.used())) {
                same++;
                return;
            }
            long shared = shared(before, now);
            long more = now.used().map(FrameRange::count).orElse(0L) - shared;
            long less = before.used().map(FrameRange::count).orElse(0L) - shared;
            changes.add(
                    more > 0
                            ? new Change(
                                    Kind.EXTENDED,
                                    now.event(),
                                    more + " frames more" + (less > 0 ? ", " + less + " fewer" : "") + ": "
                                            + frames(now))
                            : new Change(Kind.SHORTENED, now.event(), less + " frames fewer: " + frames(now)));
        }

        private static boolean samePlace(ConformedEvent old, ConformedEvent event) {
            return old.event().track().equals(event.event().track())
                    && old.event().begins().equals(event.event().begins());
        }

        private static String name(ConformedEvent event) {
            return event.clip().map(clip -> clip.name()).orElse(event.event().name());
        }

        private static String frames(ConformedEvent event) {
            return event.used().map(FrameRange::inWords).orElse("");
        }
    }
}
