package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.files.SlowReading;
import docksort.problem.Causes;
import docksort.stock.Reread;
import docksort.stock.Reread.Found;
import docksort.stock.Reread.Line;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.BiConsumer;

/// Reads copies of the stock whole again, and holds them against the checksum that was taken when they were checked:
/// a disk may lose bytes without changing a file's size or time. Each result is kept at once, so that who is stopped
/// goes on where he was.
public final class Rereading {
    private static final int MEGA = 1_000_000;

    private final Catalogue catalogue;
    private final Stocktaking stocktaking;
    private final InstantSource clock;

    Rereading(Catalogue catalogue, Stocktaking stocktaking, InstantSource clock) {
        this.catalogue = catalogue;
        this.stocktaking = stocktaking;
        this.clock = clock;
    }

    /// Copies that are there as they were made and were not read whole for so long, those that waited the longest
    /// first, as they lie on the disk. Looks at the disk for their sizes and times.
    public List<WorkingCopy> due(Duration notFor) {
        stocktaking.refresh();
        long before = clock.instant().minus(notFor).toEpochMilli();
        return catalogue.copies().all().stream()
                .filter(copy -> copy.state().serves() || copy.state() == CopyState.STALE)
                .filter(copy -> copy.place().bytes() > 0 && !Root.isNowhere(copy.file()))
                .filter(copy -> copy.lastReadMillis() <= before)
                .sorted(Comparator.comparingLong(WorkingCopy::lastReadMillis).thenComparing(WorkingCopy::file))
                .toList();
    }

    /// Reads copies, one after the other.
    ///
    /// @param mostMegabytes a second that it reads, 0 for as fast as it goes
    /// @param progress hears how many megabytes of how many were read
    public Reread read(
            List<WorkingCopy> copies,
            int mostMegabytes,
            BiConsumer<Integer, Integer> progress,
            Cancellation cancellation) {
        int all = (int) (copies.stream().mapToLong(copy -> copy.place().bytes()).sum() / MEGA);
        var bytes = new long[1];
        var reading = new SlowReading(
                (long) mostMegabytes * MEGA,
                read -> {
                    bytes[0] = read;
                    progress.accept((int) Math.min(all, read / MEGA), all);
                },
                cancellation::isCancelled);
        var lines = new ArrayList<Line>();
        for (WorkingCopy copy : copies) {
            Optional<Line> line = cancellation.isCancelled() ? Optional.empty() : line(copy, reading);
            if (line.isEmpty()) {
                break;
            }
            lines.add(line.get());
        }
        var reread = new Reread(lines, bytes[0], copies.size() - lines.size());
        if (!lines.isEmpty()) {
            catalogue.activity().write("Read again: " + reread.inWords());
        }
        return reread;
    }

    /// @return empty when it was cancelled
    private Optional<Line> line(WorkingCopy copy, SlowReading reading) {
        try {
            if (!isAsItWas(copy)) {
                return Optional.of(another(copy));
            }
            String known = copy.place().whole().sum();
            Optional<String> sum = reading.sum(copy.file());
            Optional<String> again =
                    sum.isEmpty() || known.isEmpty() || sum.get().equals(known)
                            ? sum
                            : reading.sum(copy.file()); // before a copy is called damaged
            if (sum.isEmpty() || again.isEmpty()) {
                return Optional.empty();
            }
            return Optional.of(isAsItWas(copy) ? found(copy, known, sum.get(), again.get()) : another(copy));
        } catch (NoSuchFileException e) {
            return Optional.of(new Line(
                    copy, Found.UNREADABLE, "it is not in its place any more: search for it, or make it again"));
        } catch (IOException e) {
            return Optional.of(new Line(
                    copy,
                    Found.UNREADABLE,
                    Causes.inWords(e) + ": copy the rest off this volume, and make it again elsewhere"));
        }
    }

    private static Line another(WorkingCopy copy) {
        return new Line(copy, Found.ANOTHER, "it was changed while the stock was read: it is read the next time");
    }

    private static boolean isAsItWas(WorkingCopy copy) throws IOException {
        Path file = copy.file();
        return Files.size(file) == copy.place().bytes()
                && Files.getLastModifiedTime(file).toMillis() == copy.place().modifiedMillis();
    }

    private Line found(WorkingCopy copy, String known, String sum, String again) {
        long now = clock.instant().toEpochMilli();
        if (known.isEmpty()) {
            return !catalogue.copies().readAgain(copy, new WorkingCopy.Whole(sum, now, false))
                    ? another(copy)
                    : new Line(copy, Found.FIRST, "nothing was known of all its bytes before; from now on there is");
        }
        if (sum.equals(known)) {
            return !catalogue.copies().readAgain(copy, new WorkingCopy.Whole(known, now, false))
                    ? another(copy)
                    : new Line(copy, Found.SAME, "");
        }
        if (!sum.equals(again)) {
            return new Line(
                    copy,
                    Found.UNSTEADY,
                    "two readings gave different bytes: its volume or cable is not to be trusted; nothing was changed");
        }
        if (!catalogue.copies().readAgain(copy, new WorkingCopy.Whole(known, now, true))) {
            return another(copy); // somebody has made it anew meanwhile: that one is not suspect
        }
        String why = "its bytes are not those that were checked: make it again";
        catalogue.copies().update(List.of(copy.withState(CopyState.SUSPECT, why)));
        return new Line(copy, Found.DAMAGED, why);
    }
}
