package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.dispatch.AscMhl;
import docksort.engine.Cancellation;
import docksort.files.Brought;
import docksort.files.Room;
import docksort.files.TreeCopy;
import docksort.media.ByteSize;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.run.ProgramVersion;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.BiConsumer;

/// Copying a card to storage, so that it may be cleared.
public final class BringingIn {
    private final Catalogue catalogue;
    private final InstantSource clock;

    BringingIn(Catalogue catalogue, InstantSource clock) {
        this.catalogue = catalogue;
        this.clock = clock;
    }

    /// Copies a card, or any folder, into a folder of its name at every place, each file read once, and
    /// writes a list of checksums beside it.
    ///
    /// @param twice whether the card is read a second time at the end, before it is called safe to clear
    /// @param progress hears how many bytes of how many were read
    /// @throws InputRefused when it cannot go there
    /// @throws StorageFailed when a list cannot be written
    public Brought bring(
            Path card,
            List<Path> places,
            TreeCopy.Source source,
            boolean twice,
            BiConsumer<Long, Long> progress,
            Cancellation cancellation) {
        Brought brought = copy(card, places, source, twice, progress, cancellation, clock);
        int count = brought.folders().size();
        catalogue
                .activity()
                .write("Copied " + card.getFileName() + " to " + count + (count == 1 ? " place" : " places")
                        + (brought.outcome().isSafeToClear() ? "; safe to clear" : "; not safe to clear"));
        return brought;
    }

    /// The same where there is no project.
    public static Brought copy(
            Path card,
            List<Path> places,
            TreeCopy.Source source,
            boolean twice,
            BiConsumer<Long, Long> progress,
            Cancellation cancellation,
            InstantSource clock) {
        Path from = RealFolder.of(card);
        List<Path> folders = places.stream()
                .map(place -> place.toAbsolutePath().normalize().resolve(String.valueOf(from.getFileName())))
                .toList();
        long all = TreeCopy.bytes(from);
        refuse(from, folders, all);
        long[] read = {0};
        TreeCopy.Outcome outcome = TreeCopy.copy(
                from,
                folders,
                source,
                twice,
                bytes -> {
                    read[0] += bytes;
                    progress.accept(read[0], twice ? 2 * all : all);
                },
                cancellation::isCancelled);
        var lists = new ArrayList<Path>();
        for (Path folder : folders) {
            Map<Path, String> sums = new HashMap<>();
            outcome.lines().stream()
                    .filter(line -> line.place().equals(folder)
                            && (line.fate() == TreeCopy.Fate.COPIED || line.fate() == TreeCopy.Fate.THERE))
                    .forEach(line -> sums.put(folder.resolve(line.path()), line.sum()));
            if (!sums.isEmpty()) {
                var tool = new AscMhl.Tool("Dock Sort", ProgramVersion.TEXT, Measurements.hostName());
                lists.add(AscMhl.write(folder, sums, tool, clock.instant()).manifest());
            }
        }
        return new Brought(outcome, folders, lists);
    }

    /// "1.2 GB of 64.0 GB, 180 MB/s, 349 s left"
    public static String pace(long read, long all, double seconds) {
        double speed = read / Math.max(0.001, seconds);
        return String.format(
                Locale.ROOT,
                "%s of %s, %s/s, %.0f s left",
                new ByteSize(read),
                new ByteSize(all),
                new ByteSize(Math.round(speed)),
                speed > 0 ? (all - read) / speed : 0);
    }

    private static void refuse(Path from, List<Path> folders, long bytes) {
        if (folders.stream().distinct().count() < folders.size()) {
            throw refused(from, "two of the places are one folder", "Choose two volumes.");
        }
        Map<String, Long> needed = new HashMap<>();
        for (Path folder : folders) {
            if (folder.startsWith(from) || from.startsWith(folder)) {
                throw refused(from, folder + " lies in it, or it in that", "Choose a folder elsewhere.");
            }
            Room room = Room.of(folder);
            long need = Files.exists(folder) ? 0 : bytes; // what is there already is not known yet
            long all = needed.merge(room.volume(), need, Long::sum);
            if (all > room.free().bytes()) {
                throw refused(
                        from,
                        "its copies need " + new ByteSize(all) + ", and there are " + room.free() + " free for "
                                + folder,
                        "Free room, or choose another volume.");
            }
        }
    }

    private static InputRefused refused(Path from, String why, String next) {
        return new InputRefused(new Problem(from + " was not copied", why, "Nothing was written.", next));
    }
}
