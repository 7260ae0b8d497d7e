package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalScan;
import docksort.arrival.Settling;
import docksort.arrival.Stamp;
import docksort.catalogue.Catalogue;
import docksort.files.Mounts;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.DirectoryIteratorException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/// Places that are watched: each new folder in one comes in by itself, once nothing in it grows any more. A
/// folder is taken once; one that went out of the project again stays out.
public final class WatchedPlaces {
    private final Catalogue catalogue;
    private final Arrivals arrivals;
    private final Map<Path, Settling> settling = new HashMap<>();

    WatchedPlaces(Catalogue catalogue, Arrivals arrivals) {
        this.catalogue = catalogue;
        this.arrivals = arrivals;
    }

    public List<Path> watched() {
        return catalogue.places().watched();
    }

    /// @throws InputRefused when it is no folder, or lies in an arrival
    public void watch(Path place) {
        Path folder = RealFolder.of(place);
        catalogue.arrivals().all().stream()
                .filter(arrival -> folder.startsWith(arrival.folder()))
                .findFirst()
                .ifPresent(arrival -> {
                    throw new InputRefused(new Problem(
                            folder + " is not watched",
                            "it is part of the arrival " + arrival.name(),
                            "Nothing was changed.",
                            "Let the arrival take new files in by itself, or choose the folder that it lies in."));
                });
        catalogue.places().watch(folder, true, "Watching " + folder + " for new folders");
    }

    public void leave(Path place) {
        catalogue.places().watch(place, false, "No longer watching " + place);
    }

    /// New folders of a place that hold footage of which nothing has grown for a while. Whoever asks takes
    /// them in, and says so with [#taken].
    ///
    /// @param quiet for how long
    /// @throws IOException when the place cannot be listed
    public synchronized List<Path> settled(Path place, Duration quiet, Instant now) throws IOException {
        var found = new ArrayList<Path>();
        for (Path folder : fresh(place)) {
            Map<Path, Stamp> files = footage(folder);
            Set<Path> still =
                    settling.computeIfAbsent(folder, _ -> new Settling(quiet)).look(files, now);
            if (!files.isEmpty() && still.size() == files.size()) {
                found.add(folder);
            }
        }
        return found;
    }

    /// Whether a new folder of a place holds footage, growing or not.
    public boolean holdsNew(Path place) throws IOException {
        for (Path folder : fresh(place)) {
            if (!footage(folder).isEmpty()) {
                return true;
            }
        }
        return false;
    }

    /// What is footage in a folder; nothing where it went away while it was looked at.
    private static Map<Path, Stamp> footage(Path folder) {
        try {
            return ArrivalScan.news(folder, ArrivalScan.Before.NOTHING);
        } catch (InputRefused e) {
            return Map.of();
        }
    }

    /// New folders of a place, whatever they hold.
    private List<Path> fresh(Path place) throws IOException {
        if (!Mounts.HERE.answers(place)) {
            throw new IOException("its volume does not answer");
        }
        Set<Path> taken = catalogue.places().taken();
        List<Arrival> arrivals = catalogue.arrivals().all();
        var fresh = new ArrayList<Path>();
        try (DirectoryStream<Path> entries = Files.newDirectoryStream(place)) {
            for (Path entry : entries) {
                if (Files.isDirectory(entry, LinkOption.NOFOLLOW_LINKS)
                        && !String.valueOf(entry.getFileName()).startsWith(".")
                        && !taken.contains(entry)
                        && arrivals.stream().noneMatch(arrival -> overlap(arrival.folder(), entry))) {
                    fresh.add(entry);
                }
            }
        } catch (DirectoryIteratorException e) {
            throw e.getCause();
        }
        fresh.sort(null);
        return fresh;
    }

    private static boolean overlap(Path one, Path other) {
        return one.startsWith(other) || other.startsWith(one);
    }

    /// New files of an arrival that have stopped growing, such as those that came after its folder was
    /// taken. None where its volume is away, which is told in the stock.
    public synchronized Set<Path> late(Arrival arrival, Duration quiet, Instant now) {
        return arrivals.isThere(arrival)
                ? settling.computeIfAbsent(arrival.folder(), _ -> new Settling(quiet))
                        .look(arrivals.news(arrival), now)
                : Set.of();
    }

    /// Arrivals that came from a place.
    public List<Arrival> of(Path place) {
        return arrivals.all().stream()
                .filter(arrival -> place.equals(arrival.folder().getParent()))
                .toList();
    }

    public synchronized void taken(Path folder) {
        settling.remove(folder);
        catalogue.places().take(folder);
    }
}
