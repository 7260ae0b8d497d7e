package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.catalogue.WorkingCopy;
import docksort.engine.LookFiles;
import docksort.files.Documents;
import docksort.look.LookTable;
import docksort.look.ShownLook;
import docksort.media.Look;
import docksort.problem.CoreException;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/// Lookup tables of a project, and where this machine's engine reads them.
public final class Looks {
    private final Catalogue catalogue;
    private final ProjectBook book;

    Looks(Catalogue catalogue, ProjectBook book) {
        this.catalogue = catalogue;
        this.book = book;
    }

    /// All tables, by name.
    public List<Look.Table> all() {
        return catalogue.looks().all();
    }

    /// Takes a `.cube` file in. It is kept by its content: the same one twice is one table.
    ///
    /// @throws InputRefused when it is no such table, with the line that is wrong
    public Look.Table add(Path file) {
        byte[] text = LookTable.read(file).text();
        String digest = LookTable.digest(text);
        Optional<Look.Table> here =
                all().stream().filter(table -> table.digest().equals(digest)).findFirst();
        if (here.isPresent()) {
            return here.get();
        }
        var table = new Look.Table(digest, Look.Table.nameOf(String.valueOf(file.getFileName())));
        keep(table, text);
        return table;
    }

    /// Takes a table out of the project.
    ///
    /// @throws InputRefused when recipes use it
    public void remove(Look.Table table) {
        List<String> users = book.now().own().stream()
                .filter(recipe -> recipe.look().table().filter(table::equals).isPresent())
                .map(Recipe::name)
                .toList();
        if (!users.isEmpty()) {
            throw new InputRefused(new Problem(
                    "The lookup table " + table.name() + " stays",
                    "used by: " + String.join(", ", users),
                    "Nothing was changed.",
                    "Choose another look for " + (users.size() == 1 ? "this recipe" : "these recipes") + " first."));
        }
        catalogue.looks().remove(table);
    }

    /// What a table does to a colour.
    public Optional<LookTable> of(Look.Table table) {
        return catalogue.looks().text(table.digest()).map(text -> LookTable.parse(text, table.name()));
    }

    /// The look of a copy, to be laid over its original; empty where it has none, or its recipe was changed
    /// since.
    public Optional<ShownLook> shown(WorkingCopy copy) {
        return book.now()
                .byId(copy.recipeId())
                .filter(recipe ->
                        copy.bakesLook() && recipe.mark().equals(copy.place().recipeMark()))
                .map(Recipe::look)
                .flatMap(look -> {
                    Optional<LookTable> table = look.table().flatMap(this::of);
                    boolean whole = table.isPresent() == look.table().isPresent();
                    return whole ? Optional.of(new ShownLook(look, table)) : Optional.empty();
                });
    }

    /// Digests of the tables that the project has; each is where this machine's engine can read it.
    Set<String> ready() {
        return all().stream()
                .peek(table -> LookFiles.keep(
                        table, () -> catalogue.looks().text(table.digest()).orElseThrow()))
                .map(Look.Table::digest)
                .collect(Collectors.toUnmodifiableSet());
    }

    /// Takes in the tables that recipes want and the project has not: from beside a file they came in, or from
    /// what this machine has read for another project.
    ///
    /// @throws InputRefused when one is nowhere
    void fill(SortBook wanted, Optional<Path> file) {
        for (Look.Table table : missing(wanted)) {
            byte[] text = file.flatMap(from -> text(from.resolveSibling(table.name()), table))
                    .or(() -> LookFiles.text(table)
                            .filter(known -> LookTable.digest(known).equals(table.digest())))
                    .orElseThrow(() -> new InputRefused(new Problem(
                            "The lookup table " + table.name() + " is not here",
                            "a recipe uses it, and this project has not got it",
                            "Recipes and rules are as they were.",
                            "Add it first, or put it beside the file of recipes under this name.")));
            keep(table, text);
        }
    }

    /// This machine has it from now on, too, for projects that begin as this one is.
    private void keep(Look.Table table, byte[] text) {
        catalogue.looks().add(table, text);
        LookFiles.keep(table, () -> text);
    }

    private List<Look.Table> missing(SortBook wanted) {
        Set<String> here = all().stream().map(Look.Table::digest).collect(Collectors.toSet());
        return wanted.own().stream()
                .flatMap(recipe -> recipe.look().table().stream())
                .filter(table -> !here.contains(table.digest()))
                .distinct()
                .toList();
    }

    private static Optional<byte[]> text(Path file, Look.Table wanted) {
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        try {
            return Optional.of(LookTable.read(file).text())
                    .filter(text -> LookTable.digest(text).equals(wanted.digest()));
        } catch (CoreException e) {
            return Optional.empty(); // another file of that name
        }
    }

    /// Writes the tables that recipes of a book use beside the file it was written to.
    void writeBeside(Path file, SortBook written) {
        written.own().stream()
                .flatMap(recipe -> recipe.look().table().stream())
                .distinct()
                .forEach(table -> catalogue
                        .looks()
                        .text(table.digest())
                        .ifPresent(text -> Documents.replace(file.resolveSibling(table.name()), text)));
    }
}
