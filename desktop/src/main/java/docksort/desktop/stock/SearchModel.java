package docksort.desktop.stock;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskFindings.Deed;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.link.MediaSearch.Result;
import java.util.ArrayList;
import java.util.List;

/// What a search for media found, and what the project can be pointed at.
final class SearchModel {
    static final String USE_FOUND = "use-found";
    static final String USE_LIKELY = "use-likely";

    private SearchModel() {}

    static TaskFindings of(List<Result> results) {
        if (results.isEmpty()) {
            return TaskFindings.done("Everything is in its place; there is nothing to search for");
        }
        long found = results.stream().filter(Result.Found.class::isInstance).count();
        long likely = results.stream().filter(Result.ByHeader.class::isInstance).count();
        var deeds = new ArrayList<Deed>();
        deeds.add(new Deed(USE_FOUND, "Use the " + found + " that were found", true, found > 0));
        if (likely > 0) {
            deeds.add(new Deed(USE_LIKELY, "The " + likely + " likely ones too", false, true));
        }
        return new TaskFindings(
                found + " of " + results.size() + " found",
                results.stream().map(SearchModel::line).toList(),
                deeds);
    }

    private static TaskLine line(Result result) {
        return switch (result) {
            case Result.Found(var wanted, var source, var how) ->
                new TaskLine(Tone.GOOD, "found", wanted.name(), source.head().toString(), how);
            case Result.Several(var wanted, var sources) ->
                new TaskLine(
                        Tone.LOOK,
                        "several",
                        wanted.name(),
                        sources.getFirst().head().toString(),
                        "the same content in " + sources.size() + " places: search the right folder alone");
            case Result.ByHeader(var wanted, var source, var how) ->
                new TaskLine(Tone.LOOK, "likely", wanted.name(), source.head().toString(), how);
            case Result.Another(var wanted, var file, var why) ->
                new TaskLine(Tone.STOP, "refused", wanted.name(), file.toString(), why);
            case Result.NotThere(var wanted) ->
                new TaskLine(
                        Tone.PLAIN,
                        "not there",
                        wanted.name(),
                        "",
                        "was at " + wanted.source().head());
        };
    }

    static TaskFindings done(int count) {
        return TaskFindings.done(
                count == 1
                        ? "1 file is in its place again. Undo takes it back."
                        : count + " originals and copies are in their place again. Undo takes it back.");
    }
}
