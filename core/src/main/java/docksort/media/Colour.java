package docksort.media;

import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Colour tags as the stream states them, by the engine's names; empty where nothing is stated.
public record Colour(String primaries, String transfer, String matrix, String range) {
    public static final Colour UNSTATED = new Colour("", "", "", "");

    /// Whether it is coded by the matrix of BT.2020.
    public boolean isWideGamut() {
        return matrix.startsWith("bt2020");
    }

    public String label() {
        String tags = Stream.of(primaries, transfer, matrix)
                .filter(tag -> !tag.isEmpty())
                .distinct()
                .collect(Collectors.joining("/"));
        String width = range.equals("pc") ? "full range" : range.equals("tv") ? "video range" : "";
        return tags.isEmpty() && width.isEmpty() ? "not stated" : (tags + " " + width).strip();
    }
}
