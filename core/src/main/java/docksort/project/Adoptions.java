package docksort.project;

import docksort.arrival.Clip;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.Inspector;
import docksort.files.Fingerprinter;
import docksort.link.Adoption;
import docksort.link.AdoptionSearch;
import docksort.link.NamePattern;
import docksort.media.Fingerprint;
import docksort.media.Raster;
import docksort.media.VideoFacts;
import docksort.run.PictureCheck;
import docksort.sort.Recipe;
import docksort.strain.Traits;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.stream.Collectors;

/// Taking over copies that were made elsewhere.
public final class Adoptions {
    private final Catalogue catalogue;
    private final Inspector inspector;
    private final PictureCheck pictures;
    private final ProjectBook book;
    private final Roots roots;
    private final Stocktaking stocktaking;

    Adoptions(
            Catalogue catalogue,
            Inspector inspector,
            PictureCheck pictures,
            ProjectBook book,
            Roots roots,
            Stocktaking stocktaking) {
        this.catalogue = catalogue;
        this.inspector = inspector;
        this.pictures = pictures;
        this.book = book;
        this.roots = roots;
        this.stocktaking = stocktaking;
    }

    /// What a folder of copies comes to. Nothing is changed.
    ///
    /// @param patterns how names of copies follow from names of originals; empty to learn it from the set
    public Adoption look(
            Path folder, List<NamePattern> patterns, BiConsumer<Integer, Integer> progress, Cancellation cancellation)
            throws InterruptedException {
        List<Clip> clips = catalogue.clips().all();
        Set<Path> known =
                catalogue.copies().all().stream().map(WorkingCopy::file).collect(Collectors.toSet());
        return new AdoptionSearch(inspector, pictures, cancellation, progress)
                .search(RealFolder.of(folder), clips, known, patterns);
    }

    /// What speaks for or against a file of which somebody says that it is a copy of a clip. Nothing is
    /// changed.
    public Adoption.Pair look(Path file, Clip clip, Cancellation cancellation) throws InterruptedException {
        Path absolute = file.toAbsolutePath().normalize();
        Path folder = RealFolder.of(Objects.requireNonNull(absolute.getParent()));
        return new AdoptionSearch(inspector, pictures, cancellation, (_, _) -> {})
                .pair(folder.resolve(absolute.getFileName()), clip);
    }

    /// Takes over pairs as one change. Those that are doubtful are taken on trust.
    ///
    /// @return how many copies there are more now
    public int adopt(Path folder, List<Adoption.Pair> pairs) {
        Set<String> ids = catalogue.copies().all().stream().map(WorkingCopy::id).collect(Collectors.toSet());
        var copies = new ArrayList<WorkingCopy>();
        for (Adoption.Pair pair : pairs) {
            WorkingCopy copy = copy(pair, folder);
            if (ids.add(copy.id())) {
                copies.add(copy);
            }
        }
        if (!copies.isEmpty()) {
            catalogue
                    .copyChanges()
                    .add(
                            copies,
                            "Took over " + copies.size() + (copies.size() == 1 ? " copy" : " copies") + " in "
                                    + folder);
            stocktaking.refresh();
        }
        return copies.size();
    }

    private WorkingCopy copy(Adoption.Pair pair, Path folder) {
        Adoption.Own own = pair.own();
        Root root = roots.any(
                pair.file().startsWith(folder)
                        ? folder
                        : Objects.requireNonNull(pair.file().getParent()));
        String stretch = own.range().map(range -> "-" + range).orElse("");
        String maker = own.recipeId().isEmpty()
                ? "adopted-" + Integer.toHexString(pair.file().toString().hashCode())
                : own.recipeId();
        Raster raster = pair.facts().video().map(VideoFacts::raster).orElse(new Raster(1, 1));
        Optional<Fingerprint> fingerprint = fingerprint(pair.file());
        fingerprint.ifPresent(print ->
                Traits.of(pair.facts()).ifPresent(traits -> catalogue.standIns().keep(Map.of(print, traits))));
        return new WorkingCopy(
                pair.clip().id().value() + "-" + maker + stretch,
                pair.clip().id(),
                book.now().byId(own.recipeId()).map(Recipe::kind).orElse(pair.kind()),
                own.recipeId(),
                root.id(),
                pair.file(),
                CopyState.READY,
                (pair.isOnTrust() ? "taken over on trust: " : "taken over: ") + pair.reason(),
                pair.clip().fingerprint(),
                own.range(),
                new WorkingCopy.Place(
                        pair.facts().size().bytes(),
                        pair.file().toFile().lastModified(),
                        raster.width(),
                        raster.height(),
                        pair.facts().video().map(v -> v.codec().label()).orElse(""),
                        own.recipeMark(),
                        fingerprint.map(Fingerprint::toString).orElse("")),
                pair.isOnTrust() ? WorkingCopy.Service.ON_TRUST : WorkingCopy.Service.USUAL,
                0);
    }

    private static Optional<Fingerprint> fingerprint(Path file) {
        try {
            return Optional.of(Fingerprinter.of(file));
        } catch (IOException e) {
            return Optional.empty();
        }
    }
}
