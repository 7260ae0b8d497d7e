package docksort.desktop.workshop;

import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipNames;
import docksort.arrival.MissingCompanions;
import docksort.arrival.Whereabouts;
import docksort.media.ClipSound;
import docksort.media.Fingerprint;
import docksort.strain.ClipMeasurements;
import docksort.strain.Lever;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// What is known of clips beside their facts.
///
/// @param measured figures measured on this machine
/// @param sounds how loud the channels of clips are, where it was measured
/// @param levers which lever helps, where it was tested
/// @param hints cards that came without their companion folder
/// @param watched arrivals whose new files are taken in by themselves
/// @param places folders whose new folders are taken in by themselves
/// @param names that tell clips apart
public record Insight(
        Map<Fingerprint, ClipMeasurements> measured,
        Map<Fingerprint, ClipSound> sounds,
        Map<Fingerprint, Lever> levers,
        Whereabouts whereabouts,
        List<MissingCompanions.Hint> hints,
        Set<ArrivalId> watched,
        List<Path> places,
        ClipNames names) {
    public static final Insight NONE =
            new Insight(Map.of(), Map.of(), Map.of(), Whereabouts.NONE, List.of(), Set.of(), List.of(), ClipNames.NONE);

    public Insight {
        measured = Map.copyOf(measured);
        sounds = Map.copyOf(sounds);
        levers = Map.copyOf(levers);
        hints = List.copyOf(hints);
        watched = Set.copyOf(watched);
        places = List.copyOf(places);
    }

    public Optional<Lever> lever(Clip clip) {
        return Optional.ofNullable(levers.get(clip.fingerprint()));
    }

    public Optional<ClipSound> sound(Clip clip) {
        return Optional.ofNullable(sounds.get(clip.fingerprint()));
    }

    public ClipMeasurements measured(Clip clip) {
        return measured.getOrDefault(clip.fingerprint(), ClipMeasurements.NONE);
    }
}
