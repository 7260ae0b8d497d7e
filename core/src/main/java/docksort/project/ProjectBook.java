package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.files.Documents;
import docksort.sort.BookMerge;
import docksort.sort.SortBook;
import docksort.sort.SortBookFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

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

    /// What became of a wish to change it.
    public sealed interface Changed {
        /// It is as it was wanted, with what others changed meanwhile.
        record Kept() implements Changed {}

        /// Somebody changed the same meanwhile, and nothing was changed now: who wishes sees both and decides.
        ///
        /// @param who changed it, in words
        /// @param theirs the book as it is
        /// @param mine the same with what is wished in place of what meets it; empty where that is not possible
        record Both(String who, SortBook theirs, Optional<SortBook> mine, List<BookMerge.Both> both)
                implements Changed {
            public Both {
                both = List.copyOf(both);
            }
        }
    }

    /// Changes the book together with what others changed since it was looked at.
    ///
    /// @param base the book as it was looked at
    /// @param what what was changed, for the log and for undo
    public Changed change(SortBook base, SortBook wanted, String what) {
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
                return new Changed.Both(who, now, merge.together(), merge.both());
            }
            String next = new String(SortBookFile.write(merge.together().orElseThrow()), StandardCharsets.UTF_8);
            if (catalogue.settings().change(BOOK, text, next, what)) {
                return new Changed.Kept();
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
