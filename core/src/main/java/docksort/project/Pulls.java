package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.dispatch.AscMhl;
import docksort.dispatch.Conform;
import docksort.dispatch.Parcel;
import docksort.dispatch.PullList;
import docksort.files.Documents;
import docksort.run.ProgramVersion;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.BooleanSupplier;

/// Files that a timeline needs, listed or packed.
public final class Pulls {
    private final Catalogue catalogue;
    private final Settings settings;
    private final Roots roots;
    private final InstantSource clock;

    Pulls(Catalogue catalogue, Settings settings, Roots roots, InstantSource clock) {
        this.catalogue = catalogue;
        this.settings = settings;
        this.roots = roots;
        this.clock = clock;
    }

    /// The files that a timeline needs.
    public PullList pullList(Conform conform, PullList.What what) {
        return PullList.of(
                conform, what, catalogue.arrivals().all(), roots.copies().path(), settings.handles());
    }

    /// Packs a timeline with what it needs into a folder.
    public Optional<Parcel> pack(
            Conform conform, PullList list, Path into, BiConsumer<Long, Long> progress, BooleanSupplier cancelled) {
        var tool = new AscMhl.Tool("Dock Sort", ProgramVersion.TEXT, Measurements.hostName());
        Optional<Parcel> parcel = Parcel.pack(conform, list, into, tool, clock.instant(), progress, cancelled);
        parcel.ifPresent(packed -> catalogue
                .activity()
                .write("Packed " + packed.files() + " files of " + list.what().label() + " into " + packed.folder()));
        return parcel;
    }

    /// Writes a pull list as a table.
    public void writePullList(PullList list, Path target) {
        Documents.replace(target, list.csv(Map.of()).getBytes(StandardCharsets.UTF_8));
        catalogue.activity().write("Wrote the pull list " + target.getFileName());
    }
}
