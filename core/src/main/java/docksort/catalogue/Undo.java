package docksort.catalogue;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// What takes a change back. Taking it back gives what does it again, which is one of these too.
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Undo.Choices.class, name = "choices"),
    @JsonSubTypes.Type(value = Undo.ArrivalAdded.class, name = "arrival"),
    @JsonSubTypes.Type(value = Undo.ArrivalTakenOut.class, name = "arrival-taken-out"),
    @JsonSubTypes.Type(value = Undo.RowsTakenOut.class, name = "rows-taken-out"),
    @JsonSubTypes.Type(value = Undo.RowsPutBack.class, name = "rows-put-back"),
    @JsonSubTypes.Type(value = Undo.AsideChanged.class, name = "aside"),
    @JsonSubTypes.Type(value = Undo.ReadAt.class, name = "rate"),
    @JsonSubTypes.Type(value = Undo.DescribedAs.class, name = "described"),
    @JsonSubTypes.Type(value = Undo.RootMoved.class, name = "root"),
    @JsonSubTypes.Type(value = Undo.SettingChanged.class, name = "setting"),
    @JsonSubTypes.Type(value = Undo.CopiesAdded.class, name = "copies-added"),
    @JsonSubTypes.Type(value = Undo.CopiesForgotten.class, name = "copies-forgotten"),
    @JsonSubTypes.Type(value = Undo.CopiesRenamed.class, name = "copies-renamed"),
    @JsonSubTypes.Type(value = Undo.OriginalRenamed.class, name = "original-renamed"),
    @JsonSubTypes.Type(value = Undo.CopiesStopped.class, name = "copies-stopped"),
    @JsonSubTypes.Type(value = Undo.MediaFound.class, name = "media-found"),
    @JsonSubTypes.Type(value = Undo.PinsSet.class, name = "pins"),
    @JsonSubTypes.Type(value = Undo.PinsChanged.class, name = "pins-changed"),
    @JsonSubTypes.Type(value = Undo.Said.class, name = "said"),
    @JsonSubTypes.Type(value = Undo.PlacedElsewhere.class, name = "placed-elsewhere"),
    @JsonSubTypes.Type(value = Undo.TimelineReplaced.class, name = "timeline-replaced")
})
public sealed interface Undo {
    /// What rows are kept under that this change needs.
    default Optional<String> keptUnder() {
        return switch (this) {
            case ArrivalTakenOut taken -> Optional.of(taken.change());
            case RowsTakenOut taken -> Optional.of(taken.change());
            case RowsPutBack back -> Optional.of(back.change());
            case AsideChanged changed -> Optional.of(changed.change());
            default -> Optional.empty();
        };
    }

    /// What this change is about: who changed one of these since has built on it.
    default Set<String> touches() {
        return switch (this) {
            case Choices choices ->
                Stream.concat(choices.before().keySet().stream(), choices.ruled().stream())
                        .map(CHOICE::concat)
                        .collect(Collectors.toSet());
            case ReadAt read -> keys(CLIP, read.before().keySet());
            case DescribedAs described -> keys(CLIP, described.before().keySet());
            case SettingChanged changed -> Set.of("setting " + changed.name());
            case ArrivalAdded added -> Set.of(ARRIVAL + added.arrivalId());
            case RowsTakenOut taken -> both(taken.clips(), taken.copies());
            case RowsPutBack back -> both(back.clips(), back.copies());
            case AsideChanged changed -> keys(CLIP, changed.clips());
            case CopiesAdded added -> keys(COPY, added.ids());
            case CopiesForgotten forgotten ->
                forgotten.rows().stream().map(row -> COPY + row.get("id")).collect(Collectors.toSet());
            case CopiesRenamed renamed -> keys(COPY, renamed.paths().keySet());
            case OriginalRenamed renamed -> Set.of(CLIP + renamed.clipId());
            case CopiesStopped stopped -> keys(COPY, stopped.before().keySet());
            case MediaFound found -> both(found.clips().keySet(), found.copies().keySet());
            case PinsChanged pins ->
                Stream.concat(pins.set().stream(), pins.cleared().stream())
                        .map(pin -> PIN + pin.getFirst())
                        .collect(Collectors.toSet());
            case Said said -> Set.of("said " + said.mention());
            case PlacedElsewhere placed -> Set.of("place " + placed.rootId() + " " + placed.workstation());
            case TimelineReplaced replaced -> Set.of("timeline " + replaced.file());
            case ArrivalTakenOut _, RootMoved _, PinsSet _ -> Set.of();
        };
    }

    String CHOICE = "choice ";
    String CLIP = "clip ";
    String COPY = "copy ";
    String PIN = "pin ";
    String ARRIVAL = "arrival ";

    private static Set<String> keys(String of, Collection<String> ids) {
        return ids.stream().map(of::concat).collect(Collectors.toSet());
    }

    private static Set<String> both(Collection<String> clips, Collection<String> copies) {
        Set<String> keys = new HashSet<>(keys(CLIP, clips));
        keys.addAll(keys(COPY, copies));
        return keys;
    }

    /// Clips whose choice was changed, with the recipes before; clips in `ruled` had none.
    record Choices(Map<String, List<String>> before, List<String> ruled) implements Undo {}

    /// Rates that clips without a stated one were read at before, by clip id; empty where nobody had said.
    record ReadAt(Map<String, String> before) implements Undo {}

    /// What was said of clips before that cannot be decoded, by clip id; empty where nobody had said
    /// anything.
    record DescribedAs(Map<String, String> before) implements Undo {}

    /// @param before its value before, empty where it had none
    record SettingChanged(String name, String before) implements Undo {}

    record ArrivalAdded(String arrivalId) implements Undo {}

    /// @param change what the rows are kept under
    record ArrivalTakenOut(String change) implements Undo {}

    /// Clips, copies or files that went out of the project, whole or to become something else.
    ///
    /// @param change what their rows are kept under
    /// @param copies ids of copies that came in their place
    /// @param clips ids of clips that came in their place
    record RowsTakenOut(String change, List<String> copies, List<String> clips) implements Undo {}

    /// Rows that had gone out and came back.
    ///
    /// @param change what the rows are kept under that had come in their place
    /// @param files arrival and path of each file that cannot be read
    record RowsPutBack(String change, List<String> clips, List<List<String>> files, List<String> copies)
            implements Undo {}

    /// Clips, and files that cannot be read, that were put aside or brought back.
    ///
    /// @param change what rows of copies that left the queue are kept under
    /// @param files arrival and path of each
    record AsideChanged(String change, List<String> clips, List<List<String>> files, boolean aside) implements Undo {}

    /// @param presence state and note of every clip before, by clip id
    record RootMoved(String rootId, String pathBefore, Map<String, List<String>> presence) implements Undo {}

    /// Copies that were taken over.
    record CopiesAdded(List<String> ids) implements Undo {}

    /// @param rows all columns of the copies that were taken out, by name
    record CopiesForgotten(List<Map<String, Object>> rows) implements Undo {}

    /// Files that got another name. Taking it back moves the files first.
    ///
    /// @param paths path before and after of each copy, relative to its root, by id
    record CopiesRenamed(Map<String, List<String>> paths) implements Undo {}

    /// An original that got another name. Taking it back moves the file first.
    ///
    /// @param from its path before, relative to its root
    record OriginalRenamed(String clipId, String rootId, String from, String to) implements Undo {}

    /// @param before whether each was stopped before, by id
    record CopiesStopped(Map<String, Boolean> before) implements Undo {}

    /// Originals and copies that were found at other places.
    ///
    /// @param clips columns of the clips before, by id
    /// @param copies columns of the copies before, by id
    record MediaFound(Map<String, Map<String, Object>> clips, Map<String, Map<String, Object>> copies)
            implements Undo {}

    /// @param set clip id, frames (empty for all) and order of pins that are set
    /// @param cleared the same of pins that go
    record PinsChanged(List<List<String>> set, List<List<String>> cleared) implements Undo {}

    /// All pins at once, as changes were kept until catalogues could be shared.
    ///
    /// @param before clip id, frames (empty for all) and order of every pin before
    record PinsSet(List<List<String>> before) implements Undo {}

    /// @param before clip that the mention was said to mean before, empty where nobody had said
    record Said(String mention, String before) implements Undo {}

    /// @param before path before, empty where there was none
    record PlacedElsewhere(String rootId, String workstation, String before) implements Undo {}

    /// A timeline's file that was replaced. Taking it back writes the file first.
    ///
    /// @param kept file with what it was before
    /// @param written checksum of what was written
    record TimelineReplaced(String file, String kept, String written) implements Undo {}
}
