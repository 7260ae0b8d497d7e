package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.files.Documents;
import docksort.sort.SortBook;
import docksort.sort.SortBookFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;

/// A project's recipes and rules.
public final class ProjectBook {
    static final String BOOK = "sort.book";

    private final Catalogue catalogue;

    ProjectBook(Catalogue catalogue) {
        this.catalogue = catalogue;
    }

    public SortBook now() {
        return catalogue
                .settings()
                .get(BOOK)
                .map(text -> SortBookFile.read(text.getBytes(StandardCharsets.UTF_8), "The project's catalogue"))
                .orElse(SortBook.BUILT_IN);
    }

    /// Puts another book in the place of the project's.
    ///
    /// @param what what was changed, for the log and for undo
    public void change(SortBook book, String what) {
        catalogue.settings().change(BOOK, new String(SortBookFile.write(book), StandardCharsets.UTF_8), what);
    }

    /// Takes in recipes, and rules where wanted, from a file.
    ///
    /// @throws docksort.problem.CoreException.InputRefused when it is damaged, with the places of its
    ///     faults
    public SortBook takeIn(Path file, boolean itsRules) {
        SortBook taken = now().takingIn(SortBookFile.read(Documents.read(file), file.toString()), itsRules);
        change(taken, "Took in recipes" + (itsRules ? " and rules" : "") + " of " + file.getFileName());
        return taken;
    }

    /// Writes the project's own recipes and its rules into a file.
    public void writeOut(Path file) {
        Documents.replace(file, SortBookFile.write(now()));
    }
}
