package docksort.desktop.dispatch;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskFindings.Deed;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import java.nio.file.Path;
import java.util.List;

/// Tracks of a timeline that can be written as edit lists.
final class EditListsModel {
    private EditListsModel() {}

    /// A deed for each track, by the track's name.
    static TaskFindings of(List<String> tracks) {
        return new TaskFindings(
                tracks.size() + (tracks.size() == 1 ? " track of picture" : " tracks of picture"),
                tracks.stream()
                        .map(track -> new TaskLine(Tone.PLAIN, "track", track, "", ""))
                        .toList(),
                tracks.stream()
                        .map(track -> new Deed(track, "Write " + track + "…", false, true))
                        .toList());
    }

    /// @param left events that a list cannot hold
    static TaskFindings written(Path file, List<String> left) {
        return TaskFindings.done(
                "Written: " + file + (left.isEmpty() ? "" : "; " + left.size() + " events are left out"),
                left.stream()
                        .map(words -> new TaskLine(Tone.LOOK, "left out", words, "", ""))
                        .toList());
    }
}
