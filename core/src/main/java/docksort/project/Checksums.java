package docksort.project;

import docksort.arrival.Arrival;
import docksort.catalogue.Catalogue;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.AscMhl;
import docksort.dispatch.ChecksumCheck;
import docksort.dispatch.ChecksumList;
import docksort.engine.Cancellation;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.run.ProgramVersion;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.function.BiConsumer;

/// Lists of checksums, written and read again.
public final class Checksums {
    private final Catalogue catalogue;
    private final InstantSource clock;

    Checksums(Catalogue catalogue, InstantSource clock) {
        this.catalogue = catalogue;
        this.clock = clock;
    }

    /// Reads every file of a list of checksums whole.
    public static ChecksumCheck verify(Path list, BiConsumer<Integer, Integer> progress, Cancellation cancellation) {
        return ChecksumCheck.of(ChecksumList.read(list), progress, cancellation::isCancelled);
    }

    /// Writes a generation of an ASC Media Hash List for the originals of an arrival, into its folder.
    public Optional<AscMhl.Generation> write(Arrival arrival, Cancellation cancellation) {
        List<Path> files = catalogue.clips().all().stream()
                .filter(clip -> clip.arrival().equals(arrival.id()))
                .flatMap(clip -> clip.source().files().stream())
                .filter(file -> file.startsWith(arrival.folder()) && Files.exists(file))
                .toList();
        return generation(arrival.folder(), files, cancellation);
    }

    /// The same for the copies below a folder.
    public Optional<AscMhl.Generation> write(Path folder, Cancellation cancellation) {
        Path place = RealFolder.of(folder);
        List<Path> files = catalogue.copies().all().stream()
                .filter(copy -> copy.state().serves())
                .map(WorkingCopy::file)
                .filter(file -> file.startsWith(place) && Files.exists(file))
                .toList();
        return generation(place, files, cancellation);
    }

    private Optional<AscMhl.Generation> generation(Path folder, List<Path> files, Cancellation cancellation) {
        if (files.isEmpty()) {
            throw new InputRefused(new Problem(
                    "No checksums were written for " + folder,
                    "nothing of the project lies there now",
                    "Nothing was changed.",
                    "Choose the folder of an arrival, or one with copies."));
        }
        var tool = new AscMhl.Tool("Dock Sort", ProgramVersion.TEXT, Measurements.hostName());
        Optional<AscMhl.Generation> written =
                AscMhl.write(folder, files, tool, clock.instant(), cancellation::isCancelled);
        written.ifPresent(generation -> catalogue
                .activity()
                .write("Wrote checksums of " + generation.files() + " files: " + generation.manifest()));
        return written;
    }
}
