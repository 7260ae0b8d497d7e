package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.files.CopyFolder;
import docksort.files.Volume;
import docksort.sort.CopyPlace;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.UUID;

/// Where copies go, and whether that can be written to.
public final class CopyFolders {
    private static final String OWNER = "owner";

    private final Catalogue catalogue;
    private final Roots roots;

    CopyFolders(Catalogue catalogue, Roots roots) {
        this.catalogue = catalogue;
        this.roots = roots;
    }

    /// Tells this project's files in the making from those of others that make copies in the same folders.
    /// Workstations of a shared project have names of their own for them.
    String owner() {
        return owner(catalogue.roots().workstation());
    }

    private String owner(String workstation) {
        String ofProject = ownerOfProject();
        return catalogue.isShared() ? ofProject + Integer.toHexString(workstation.hashCode()) : ofProject;
    }

    private String ownerOfProject() {
        return catalogue.settings().get(OWNER).orElseGet(() -> {
            String fresh = UUID.randomUUID().toString().substring(0, 8);
            catalogue.settings().put(OWNER, fresh);
            return fresh;
        });
    }

    /// The folder of the arrival that a clip came with.
    Path sourceFolder(Clip clip) {
        return catalogue.arrivals().all().stream()
                .filter(arrival -> arrival.id().equals(clip.arrival()))
                .findFirst()
                .orElseThrow()
                .folder();
    }

    /// The root folder that a copy's file lies below.
    Path targetFolder(WorkingCopy copy, Clip clip) {
        Path beside = CopyPlace.beside(sourceFolder(clip));
        if (copy.file().startsWith(beside)) {
            return beside;
        }
        return catalogue.roots().all().stream()
                .filter(root -> root.id().equals(copy.rootId()))
                .findFirst()
                .orElseThrow()
                .path();
    }

    /// A mount point whose volume is away is an empty folder of another volume: where work in it began on
    /// one volume, nothing is written on another.
    Optional<String> targetFault(Path folder) {
        if (Root.isNowhere(folder)) {
            return Optional.of("nobody said where it is on this workstation");
        }
        if (Files.isDirectory(folder)) {
            return Files.isWritable(folder) ? otherVolume(folder) : Optional.of("it may not be written to");
        }
        return copiesIn(folder).isEmpty() ? Optional.empty() : Optional.of("it is not there");
    }

    private Optional<String> otherVolume(Path folder) {
        String now = volumeName(folder);
        Optional<String> before =
                catalogue.settings().get(volumeSetting(folder)).filter(name -> !name.equals(now));
        // A volume may have got another name; then what was made is there.
        if (before.isEmpty() || copiesIn(folder).stream().anyMatch(Files::exists)) {
            return Optional.empty();
        }
        return Optional.of("it lies on " + now + " and lay on " + before.get()
                + "; if that is right, choose the folder for copies anew");
    }

    private List<Path> copiesIn(Path folder) {
        return catalogue.copies().all().stream()
                .filter(copy -> copy.state().serves())
                .map(WorkingCopy::file)
                .filter(file -> file.startsWith(folder))
                .toList();
    }

    /// The same folder, made where it is missing, to write to.
    CopyFolder open(WorkingCopy copy, Clip clip) {
        List<Path> originals =
                catalogue.arrivals().all().stream().map(Arrival::folder).toList();
        return CopyFolder.open(targetFolder(copy, clip), originals, owner());
    }

    /// Lets new copies go into another folder. Copies that are there stay where they are, below a root of
    /// their own.
    ///
    /// @throws StorageFailed when the folder lies in an arrival or cannot be used
    public void copiesInto(Path folder) {
        Path place = CopyFolder.open(
                        folder,
                        catalogue.arrivals().all().stream().map(Arrival::folder).toList(),
                        owner())
                .root();
        keepVolume(place);
        catalogue.roots().newCopiesFolder(place, ArrivalId.fresh().value(), "New copies go to " + place);
    }

    /// Keeps which volume a folder for copies lies on, when work in it begins.
    private void rememberVolume(Path folder) {
        if (targetFault(folder).isEmpty()) {
            keepVolume(folder);
        }
    }

    /// A folder that is chosen anew may lie on another volume than before.
    void keepVolume(Path folder) {
        if (Files.isDirectory(folder)) {
            catalogue.settings().put(volumeSetting(folder), volumeName(folder));
        }
    }

    private static String volumeSetting(Path folder) {
        return "volume:" + Measurements.machineName() + ":" + folder;
    }

    private static String volumeName(Path folder) {
        try {
            return Volume.of(folder).name();
        } catch (IOException e) {
            return "a volume that cannot be asked";
        }
    }

    /// Clears away what an interrupted run left half-made, in every folder that copies go to: a run of
    /// this workstation, or of another one that stopped while it made copies and makes none now.
    void sweepLeftovers() {
        sweepLeftovers(owner());
        catalogue.claims().stopped().forEach(workstation -> sweepLeftovers(owner(workstation)));
    }

    private void sweepLeftovers(String owner) {
        List<Path> originals =
                catalogue.arrivals().all().stream().map(Arrival::folder).toList();
        if (targetFault(roots.copies().path()).isEmpty()) {
            CopyFolder.open(roots.copies().path(), originals, owner).sweepLeftovers();
            rememberVolume(roots.copies().path());
        }
        originals.stream()
                .map(CopyPlace::beside)
                .filter(Files::isDirectory)
                .forEach(folder -> CopyFolder.open(folder, originals, owner).sweepLeftovers());
    }
}
