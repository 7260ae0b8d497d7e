package docksort.desktop.parts;

import java.util.stream.Collectors;
import java.util.stream.Stream;

/// One line of what a task would do, or found.
///
/// @param word how it stands, in a word
/// @param name what it is about
/// @param other what it is held against, or becomes
/// @param words why
public record TaskLine(Tone tone, String word, String name, String other, String words) {
    /// How a line stands.
    public enum Tone {
        GOOD,
        LOOK,
        STOP,
        PLAIN
    }

    /// All of it, where columns are too narrow.
    public String inFull() {
        return Stream.of(name, other, words).filter(part -> !part.isEmpty()).collect(Collectors.joining("  ·  "));
    }
}
