package docksort.dispatch;

import docksort.arrival.Clip;
import docksort.sort.CopyKind;
import java.util.Optional;

/// One use of a clip in a timeline.
///
/// @param number counted from 1 through the whole timeline
/// @param track name of the track, or its kind and number
/// @param name the event's name as the timeline has it
/// @param frames frames of media used, as the timeline states them; 0 where it does not
/// @param clip the project's clip, where the reference leads to one
/// @param standing what the reference leads to now
/// @param reference the address as it stands in the timeline
public record TimelineEvent(
        int number, String track, String name, long frames, Optional<Clip> clip, Standing standing, String reference) {

    /// What an event's active reference leads to.
    public sealed interface Standing {
        String label();

        record OnOriginal() implements Standing {
            @Override
            public String label() {
                return "original";
            }
        }

        record OnCopy(CopyKind kind) implements Standing {
            @Override
            public String label() {
                return kind.label();
            }
        }

        /// The reference names a file that is not the project's.
        record Foreign() implements Standing {
            @Override
            public String label() {
                return "not in the project";
            }
        }

        /// The event has no media, or a generator.
        record WithoutMedia() implements Standing {
            @Override
            public String label() {
                return "no media";
            }
        }
    }

    public boolean isOnCopy() {
        return standing instanceof Standing.OnCopy;
    }
}
