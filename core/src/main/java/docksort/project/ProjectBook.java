package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.files.Documents;
import docksort.sort.BookMerge;
import docksort.sort.BookOutcome;
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
