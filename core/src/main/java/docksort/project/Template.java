package docksort.project;

import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.sort.SortBook;
import docksort.sort.SortBookFile;
import docksort.stock.Limits;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/// What a new project begins with: recipes, rules and limits, and of another project also its timeline,
/// delivery, handles and order of serving. Footage, copies and cuts are no part of it.
///
/// @param settings values by their names
/// @param words lines for the log of the new project
public record Template(Map<String, String> settings, List<String> words) {
    /// The built-in rules.
    public static final Template NONE = new Template(Map.of(), List.of());

    public Template {
        settings = Map.copyOf(settings);
        words = List.copyOf(words);
    }

    /// That of the project in another folder, which is only looked at.
    ///
    /// @throws InputRefused when there is none
    public static Template like(Path folder) {
        if (!Project.isIn(folder)) {
            throw new InputRefused(new Problem(
                    folder + " cannot be a template",
                    "it holds no project",
                    "Nothing was begun.",
                    "Choose the folder of a project."));
        }
        return of(String.valueOf(folder.toAbsolutePath().normalize().getFileName()), Project.settingsIn(folder));
    }

    static Template of(String name, Map<String, String> all) {
        var kept = new TreeMap<>(all);
        kept.keySet().retainAll(Settings.OF_A_TEMPLATE);
        return new Template(kept, List.of("Began like " + name));
    }

    /// What this person begins projects with. A library that cannot be used stops nothing: the project says
    /// why it began without.
    public static Template of(Library library) {
        try {
            Library.Contents kept = library.read();
            var settings = new TreeMap<String, String>();
            var parts = new ArrayList<String>();
            kept.book().ifPresent(book -> {
                settings.put(ProjectBook.BOOK, new String(SortBookFile.write(book), StandardCharsets.UTF_8));
                parts.add("recipes and rules");
            });
            if (!kept.limits().isNone()) {
                settings.put(Clearing.LIMITS, kept.limits().text());
                parts.add("limits");
            }
            return new Template(
                    settings,
                    parts.isEmpty()
                            ? List.of()
                            : List.of("Began with the " + String.join(" and ", parts) + " of the library"));
        } catch (InputRefused e) {
            return new Template(
                    Map.of(),
                    List.of("Began without the library: " + e.problem().sentence()));
        }
    }

    SortBook book() {
        String text = settings.get(ProjectBook.BOOK);
        return text == null
                ? SortBook.BUILT_IN
                : SortBookFile.read(text.getBytes(StandardCharsets.UTF_8), "The project's catalogue");
    }

    Limits limits() {
        return Limits.parse(settings.getOrDefault(Clearing.LIMITS, ""));
    }
}
