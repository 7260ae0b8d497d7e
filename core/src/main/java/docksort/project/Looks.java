package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.catalogue.WorkingCopy;
import docksort.engine.KeptFiles;
import docksort.files.Documents;
import docksort.look.LookTable;
import docksort.look.PngImage;
import docksort.look.ShownLook;
import docksort.media.KeptFile;
import docksort.media.KeptFile.Kind;
import docksort.media.KeptImage;
import docksort.problem.CoreException;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Lookup tables and images of a project, and where this machine's engine reads them.
public final class Looks {
    private final Catalogue catalogue;
    private final ProjectBook book;

    Looks(Catalogue catalogue, ProjectBook book) {
        this.catalogue = catalogue;
        this.book = book;
    }

    /// All tables, by name.
    public List<KeptFile> all() {
        return catalogue.kept().all(Kind.TABLE);
    }

    /// All images, by name.
    public List<KeptImage> images() {
        return catalogue.kept().all(Kind.IMAGE).stream()
                .map(file -> new KeptImage(file, PngImage.size(content(file))))
                .toList();
    }

    /// Takes a `.cube` file in. It is kept by its content: the same one twice is one table.
    ///
    /// @throws InputRefused when it is no such table, with the line that is wrong
    public KeptFile add(Path file) {
        byte[] text = LookTable.read(file).text();
        return add(Kind.TABLE, LookTable.digest(text), KeptFile.nameOf(name(file), "table.cube"), text);
    }

    /// Takes a PNG file in. It is kept by its content: the same one twice is one image.
    ///
    /// @throws InputRefused when it is no such image
    public KeptImage addImage(Path file) {
        PngImage image = PngImage.read(file);
        KeptImage named = image.named(KeptFile.nameOf(name(file), "image.png"));
        KeptFile kept = add(Kind.IMAGE, named.file().digest(), named.file().name(), image.bytes());
        return new KeptImage(kept, named.size());
    }

    private static String name(Path file) {
        return String.valueOf(file.getFileName());
    }

    private KeptFile add(Kind kind, String digest, String name, byte[] content) {
        Optional<KeptFile> here = catalogue.kept().all(kind).stream()
                .filter(file -> file.digest().equals(digest))
                .findFirst();
        if (here.isPresent()) {
            return here.get();
        }
        var file = new KeptFile(digest, name);
        keep(kind, file, content);
        return file;
    }

    private byte[] content(KeptFile file) {
        return catalogue.kept().content(file.digest()).orElseThrow();
    }

    /// Takes a table or an image out of the project.
    ///
    /// @throws InputRefused when recipes use it
    public void remove(Kind kind, KeptFile file) {
        List<String> users = book.now().own().stream()
                .filter(recipe -> used(kind, recipe).filter(file::equals).isPresent())
                .map(Recipe::name)
                .toList();
        if (!users.isEmpty()) {
            throw new InputRefused(new Problem(
                    "The " + kind.label() + " " + file.name() + " stays",
                    "used by: " + String.join(", ", users),
                    "Nothing was changed.",
                    "Choose another for " + (users.size() == 1 ? "this recipe" : "these recipes") + " first."));
        }
        catalogue.kept().remove(kind, file);
    }

    /// What a recipe uses of a kind.
    public static Optional<KeptFile> used(Kind kind, Recipe recipe) {
        return switch (kind) {
            case TABLE -> recipe.look().table();
            case IMAGE -> recipe.burnIns().watermark().map(mark -> mark.image().file());
        };
    }

    /// What a table does to a colour.
    public Optional<LookTable> of(KeptFile table) {
        return catalogue.kept().content(table.digest()).map(text -> LookTable.parse(text, table.name()));
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

    /// Digests of what the project has; each is where this machine's engine can read it.
    Set<String> ready() {
        return Stream.of(Kind.values())
                .flatMap(kind -> catalogue.kept().all(kind).stream()
                        .peek(file -> KeptFiles.keep(kind, file, () -> content(file))))
                .map(KeptFile::digest)
                .collect(Collectors.toUnmodifiableSet());
    }

    /// Takes in the tables and images that recipes want and the project has not: from beside a file they came in,
    /// or from what this machine has read for another project.
    ///
    /// @throws InputRefused when one is nowhere
    void fill(SortBook wanted, Optional<Path> file) {
        for (Kind kind : Kind.values()) {
            for (KeptFile missing : missing(kind, wanted)) {
                byte[] content = file.flatMap(from -> read(kind, from.resolveSibling(missing.name()), missing)
                                .or(() -> read(kind, from.resolveSibling(missing.nameApart()), missing)))
                        .or(() -> KeptFiles.content(kind, missing))
                        .orElseThrow(() -> new InputRefused(new Problem(
                                "The " + kind.label() + " " + missing.name() + " is not here",
                                "a recipe uses it, and this project has not got it",
                                "Recipes and rules are as they were.",
                                "Add it first, or put it beside the file of recipes under this name.")));
                keep(kind, missing, content);
            }
        }
    }

    /// This machine has it from now on, too, for projects that begin as this one is.
    private void keep(Kind kind, KeptFile file, byte[] content) {
        catalogue.kept().add(kind, file, content);
        KeptFiles.keep(kind, file, () -> content);
    }

    private List<KeptFile> missing(Kind kind, SortBook wanted) {
        Set<String> here =
                catalogue.kept().all(kind).stream().map(KeptFile::digest).collect(Collectors.toSet());
        return wanted.own().stream()
                .flatMap(recipe -> used(kind, recipe).stream())
                .filter(file -> !here.contains(file.digest()))
                .distinct()
                .toList();
    }

    private static Optional<byte[]> read(Kind kind, Path file, KeptFile wanted) {
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        try {
            byte[] content = kind == Kind.TABLE
                    ? LookTable.read(file).text()
                    : PngImage.read(file).bytes();
            return Optional.of(content).filter(found -> LookTable.digest(found).equals(wanted.digest()));
        } catch (CoreException e) {
            return Optional.empty(); // another file of that name
        }
    }

    /// Writes the tables and images that recipes of a book use beside the file it was written to. Where something
    /// else has the name of one, that stays, and a name apart is taken.
    void writeBeside(Path file, SortBook written) {
        Stream.of(Kind.values())
                .flatMap(kind -> written.own().stream().flatMap(recipe -> used(kind, recipe).stream()))
                .distinct()
                .forEach(kept ->
                        catalogue.kept().content(kept.digest()).ifPresent(content -> writeBeside(file, kept, content)));
    }

    private static void writeBeside(Path file, KeptFile kept, byte[] content) {
        Path named = file.resolveSibling(kept.name());
        boolean free = !Files.exists(named, LinkOption.NOFOLLOW_LINKS);
        if (free || !Files.isRegularFile(named) || !Arrays.equals(Documents.read(named), content)) {
            Documents.replace(free ? named : file.resolveSibling(kept.nameApart()), content);
        }
    }
}
