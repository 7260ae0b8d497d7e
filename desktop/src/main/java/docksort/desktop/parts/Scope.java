package docksort.desktop.parts;

import java.util.List;

/// What a list can be narrowed to.
public final class Scope {
    private Scope() {}

    /// A line: what it is chosen by, what it says, how many it holds.
    public record Line(String key, String name, long count) {}

    /// Lines under a title.
    public record Group(String title, List<Line> lines) {
        public Group {
            lines = List.copyOf(lines);
        }
    }
}
