package docksort.desktop.parts;

import java.util.List;

/// What a task found or did, and what can be done about it.
///
/// @param words in one sentence
/// @param deeds buttons, in order
public record TaskFindings(String words, List<TaskLine> lines, List<Deed> deeds) {
    /// A button.
    ///
    /// @param id by which the page knows what to do
    /// @param main whether it is what a person came for
    /// @param possible whether it can be pressed
    public record Deed(String id, String text, boolean main, boolean possible) {}

    public TaskFindings {
        lines = List.copyOf(lines);
        deeds = List.copyOf(deeds);
    }

    /// Something that was done.
    public static TaskFindings done(String words) {
        return new TaskFindings(words, List.of(), List.of());
    }

    public static TaskFindings done(String words, List<TaskLine> lines) {
        return new TaskFindings(words, lines, List.of());
    }
}
