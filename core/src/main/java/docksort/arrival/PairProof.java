package docksort.arrival;

import docksort.media.ClipFacts;
import docksort.media.FrameRate;
import docksort.media.VideoFacts;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// What proves that a small file is of an original, once nothing speaks against it: the same timecode; a
/// length that no other recording of the arrival has; a name that hardly means anything else; and, where
/// none of these is there, the pictures.
final class PairProof {
    private record Length(long frames, FrameRate rate) {}

    private final Map<Length, List<Long>> pixelsOf = new HashMap<>();

    /// @param originals facts of all that may be an original
    PairProof(Collection<ClipFacts> originals) {
        originals.forEach(facts -> facts.video()
                .ifPresent(video -> pixelsOf.computeIfAbsent(length(video), _ -> new ArrayList<>())
                        .add(video.raster().pixels())));
    }

    private static Length length(VideoFacts video) {
        return new Length(video.frames().count(), video.rate());
    }

    /// A recording turned out to be a copy itself, so that no other can be taken for its.
    void isCopy(ClipFacts small) {
        small.video()
                .ifPresent(video -> pixelsOf.getOrDefault(length(video), new ArrayList<>())
                        .remove(video.raster().pixels()));
    }

    /// @param usual whether their names hardly mean anything else
    /// @return what proves it, in words; empty where pictures have to
    Optional<String> of(ClipFacts original, ClipFacts small, boolean usual) {
        VideoFacts video = original.video().orElseThrow();
        String length = video.frames().count() + " frames at " + video.rate().label();
        if (small.startTimecode().isPresent() && small.startTimecode().equals(original.startTimecode())) {
            return Optional.of(
                    "timecode " + small.startTimecode().get() + ", " + length + " and shape are the" + " original's");
        }
        if (usual) {
            return Optional.of(length + " and shape are the original's");
        }
        long own = small.video().orElseThrow().raster().pixels();
        long larger = pixelsOf.getOrDefault(length(video), List.of()).stream()
                .filter(pixels -> pixels > own)
                .count();
        return larger == 1
                ? Optional.of(length + ", which no other recording here has, and shape are the original's")
                : Optional.empty();
    }
}
