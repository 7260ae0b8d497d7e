package docksort.desktop.parts;

import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import javafx.scene.control.TextField;

/// The field that narrows a list to rows with all of its words.
public final class Filter {
    private Filter() {}

    /// @param what is filtered by what, for who does not see the field
    public static TextField field(String id, String what) {
        var field = new TextField();
        field.setId(id);
        field.setPromptText("/ filter");
        field.setAccessibleText("Filter: " + what);
        field.setPrefWidth(170);
        field.setMinWidth(90);
        return field;
    }

    public static Words words(String typed) {
        return new Words(Stream.of(typed.strip().toLowerCase(Locale.ROOT).split("\\s+", -1))
                .filter(word -> !word.isEmpty())
                .toList());
    }

    /// Words without their case.
    public record Words(List<String> all) {
        public Words {
            all = List.copyOf(all);
        }

        boolean areNone() {
            return all.isEmpty();
        }

        /// Whether each of them is somewhere in a text.
        public boolean areIn(String text) {
            return all.isEmpty() || areInLower(text.toLowerCase(Locale.ROOT));
        }

        /// The same for a text in lower case.
        boolean areInLower(String text) {
            return all.stream().allMatch(text::contains);
        }
    }
}
