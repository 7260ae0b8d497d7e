package docksort.catalogue;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.List;
import java.util.Map;

/// What takes a change back.
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Undo.Choices.class, name = "choices"),
    @JsonSubTypes.Type(value = Undo.ArrivalAdded.class, name = "arrival"),
    @JsonSubTypes.Type(value = Undo.ReadAt.class, name = "rate"),
    @JsonSubTypes.Type(value = Undo.RootMoved.class, name = "root"),
    @JsonSubTypes.Type(value = Undo.SettingChanged.class, name = "setting")
})
public sealed interface Undo {
    /// Clips whose choice was changed, with the recipes before; clips in `ruled` had none.
    record Choices(Map<String, List<String>> before, List<String> ruled) implements Undo {}

    /// Rates that clips without a stated one were read at before, by clip id; empty where nobody had said.
    record ReadAt(Map<String, String> before) implements Undo {}

    /// @param before its value before, empty where it had none
    record SettingChanged(String name, String before) implements Undo {}

    record ArrivalAdded(String arrivalId) implements Undo {}

    /// @param presence state and note of every clip before, by clip id
    record RootMoved(String rootId, String pathBefore, Map<String, List<String>> presence) implements Undo {}
}
