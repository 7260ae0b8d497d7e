package docksort.sort;

import docksort.media.Raster;
import java.util.List;
import java.util.stream.Collectors;

/// How a recipe changes the raster. None of them enlarges, all keep the shape and make even sides.
public sealed interface Scaling {
    int MOST_PER_SIDE = 16;

    record Full() implements Scaling {}

    /// Each side divided.
    record PerSide(int divisor) implements Scaling {
        public PerSide {
            if (divisor < 2 || divisor > MOST_PER_SIDE) {
                throw new IllegalArgumentException("each side is divided by 2 to 16, was " + divisor);
            }
        }
    }

    /// The first of these numbers of lines that is fewer than the clip has. Lines are those of the shorter side: an
    /// upright 1080x1920 has as many as 1920x1080.
    record FitLines(List<Integer> lines) implements Scaling {
        public FitLines {
            lines = List.copyOf(lines);
            if (lines.isEmpty() || lines.size() > 8 || lines.stream().anyMatch(line -> line < 16 || line > 8_640)) {
                throw new IllegalArgumentException("lines to fit to are 1 to 8 numbers of 16 to 8640, was " + lines);
            }
        }
    }

    /// Within the timeline's raster.
    record FitTimeline() implements Scaling {}

    /// @param upright the clip's raster, turned upright
    default Raster apply(Raster upright, Raster timeline) {
        return switch (this) {
            case Full() -> upright.dividedBy(1);
            case PerSide(int divisor) -> upright.dividedBy(divisor);
            case FitLines(List<Integer> lines) ->
                upright.fittedToLines(lines.stream()
                                .filter(count -> count < upright.lines())
                                .findFirst()
                                .orElse(upright.lines()))
                        .dividedBy(1);
            case FitTimeline() -> upright.within(timeline).dividedBy(1);
        };
    }

    default String label() {
        return switch (this) {
            case Full() -> "full raster";
            case PerSide(int divisor) -> "1/" + divisor;
            case FitLines(List<Integer> lines) ->
                "fit to " + lines.stream().map(String::valueOf).collect(Collectors.joining(" or ")) + " lines";
            case FitTimeline() -> "fit to the timeline";
        };
    }
}
