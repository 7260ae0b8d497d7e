package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.files.Documents;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.sort.BookMerge;
import docksort.sort.BookOutcome;
import docksort.sort.SortBook;
import docksort.sort.SortBookFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Optional;

/// A project's recipes and rules.
public final class ProjectBook {
    static final String BOOK = "sort.book";

    private final Catalogue catalogue;
    private final Looks looks;

    ProjectBook(Catalogue catalogue) {
        this.catalogue = catalogue;
        this.looks = new Looks(catalogue, this);
    }

    Looks looks() {
        return looks;
    }

    public SortBook now() {
        return catalogue.settings().get(BOOK).map(ProjectBook::read).orElse(SortBook.BUILT_IN);
    }

    /// Puts another book in the place of the project's.
    ///
    /// @param what what was changed, for the log and for undo
    public void change(SortBook book, String what) {
        catalogue.settings().change(BOOK, new String(SortBookFile.write(book), StandardCharsets.UTF_8), what);
    }

    /// Changes the book together with what others changed since it was looked at.
    ///
    /// @param base the book as it was looked at
    /// @param what what was changed, for the log and for undo
    public BookOutcome change(SortBook base, SortBook wanted, String what) {
        while (true) {
            String text = catalogue.settings().get(BOOK).orElse("");
            SortBook now = text.isEmpty() ? SortBook.BUILT_IN : read(text);
            BookMerge merge = BookMerge.of(base, wanted, now);
            if (!merge.both().isEmpty()) {
                String who = catalogue
                        .activity()
                        .latestOf(BOOK)
                        .map(deed -> deed.who() + ": " + deed.what())
                        .orElse("somebody");
                return new BookOutcome.Both(who, now, merge.together(), merge.both());
            }
            String next = new String(SortBookFile.write(merge.together().orElseThrow()), StandardCharsets.UTF_8);
            if (catalogue.settings().change(BOOK, text, next, what)) {
                return new BookOutcome.Kept();
            } // else somebody was faster: looked at again
        }
    }

    private static SortBook read(String text) {
        return SortBookFile.read(text.getBytes(StandardCharsets.UTF_8), "The project's catalogue");
    }

    /// Takes in recipes, and rules where wanted, from a file. Its rules may name recipes of the project. Lookup
    /// tables that its recipes use lie beside it, where the project has not got them.
    ///
    /// @param same what becomes of recipes that the project has in another form
    /// @throws InputRefused when it is damaged, with the places of its faults, or does not go together with
    ///     what is here
    public SortBook takeIn(Path file, boolean itsRules, SortBook.Same same) {
        SortBook now = now();
        SortBook taken;
        try {
            taken = now.takingIn(SortBookFile.read(Documents.read(file), file.toString(), now.own()), itsRules, same);
        } catch (IllegalArgumentException e) {
            throw new InputRefused(new Problem(
                    file + " does not go together with the recipes and rules that are here",
                    String.valueOf(e.getMessage()),
                    "Recipes and rules are as they were.",
                    "Take its rules in, too, or let its recipes come in beside the ones here."));
        }
        looks.fill(taken, Optional.of(file));
        change(taken, "Took in recipes" + (itsRules ? " and rules" : "") + " of " + file.getFileName());
        return taken;
    }

    /// Writes the project's own recipes and its rules into a file, and lookup tables that they use beside it.
    public void writeOut(Path file) {
        SortBook book = now();
        Documents.replace(file, SortBookFile.write(book));
        looks.writeBeside(file, book);
    }
}
