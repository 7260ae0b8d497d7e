package docksort.project;

import docksort.arrival.Clip;
import docksort.catalogue.Catalogue;
import docksort.catalogue.WorkingCopy;
import docksort.files.CopyFolder;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.CopyForm;
import docksort.run.RunHost;
import docksort.sort.Circumstances;
import docksort.sort.LoadSheet;
import docksort.sort.Recipe;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.Supplier;

/// The project as a run sees it.
final class RunGround implements RunHost {
    private final Catalogue catalogue;
    private final ProjectBook book;
    private final CopyFolders folders;
    private final Trials trials;
    private final Supplier<Circumstances> now;

    RunGround(Catalogue catalogue, ProjectBook book, CopyFolders folders, Trials trials, Supplier<Circumstances> now) {
        this.catalogue = catalogue;
        this.book = book;
        this.folders = folders;
        this.trials = trials;
        this.now = now;
    }

    @Override
    public Optional<Recipe> recipe(String id) {
        return book.now().byId(id);
    }

    @Override
    public boolean makes(String recipe) {
        return catalogue.machines().asked().makes(recipe);
    }

    @Override
    public Circumstances circumstances() {
        return now.get();
    }

    @Override
    public Path sourceFolder(Clip clip) {
        return folders.sourceFolder(clip);
    }

    @Override
    public Path targetFolder(WorkingCopy copy, Clip clip) {
        return folders.targetFolder(copy, clip);
    }

    @Override
    public Optional<String> targetFault(Path folder) {
        return folders.targetFault(folder);
    }

    @Override
    public CopyFolder folder(WorkingCopy copy, Clip clip) {
        return folders.open(copy, clip);
    }

    @Override
    public ByteSize need(Clip clip, Recipe recipe, CopyForm form) {
        return LoadSheet.most(clip, recipe, form, trials.pastCopies());
    }

    @Override
    public void measured(Clip clip) {
        catalogue.clips().measured(clip);
    }

    @Override
    public void made(WorkingCopy copy, Clip clip, CopyForm form, ClipFacts facts, Optional<Double> seconds) {
        trials.made(copy, clip, form, facts, seconds);
    }
}
