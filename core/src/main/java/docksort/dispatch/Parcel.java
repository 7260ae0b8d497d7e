package docksort.dispatch;

import docksort.files.Documents;
import docksort.files.Room;
import docksort.files.Transfer;
import docksort.media.ByteSize;
import docksort.problem.Causes;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import docksort.stock.ServingOrder;
import docksort.timeline.TimelineDocument;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;

/// A timeline with all it needs in one folder, for another place: the timeline with relative paths, the files,
/// a list of them, and their checksums (ASC MHL).
///
/// @param folder where it lies
/// @param timeline the timeline in it
/// @param files how many files of media it holds
/// @param bytes of all of them
public record Parcel(Path folder, Path timeline, int files, long bytes) {
    private static final String MANIFEST = "manifest.csv";

    /// Copies every file of a list and writes the timeline beside them.
    ///
    /// @param conform the timeline as it stands; it is not changed
    /// @param folder new or empty
    /// @param progress hears how many bytes of how many were copied
    /// @return empty when it was cancelled; what was copied until then stays and is whole
    /// @throws InputRefused when the folder has something in it, or has no room
    public static Optional<Parcel> pack(
            Conform conform,
            PullList list,
            Path folder,
            AscMhl.Tool tool,
            Instant now,
            BiConsumer<Long, Long> progress,
            BooleanSupplier cancelled) {
        refuseUnfit(folder, list);
        Path place = Documents.ensureFolder(folder);
        Map<Path, Path> places = new HashMap<>();
        Map<Path, String> sums = new HashMap<>();
        long all = list.bytes();
        long[] written = {0};
        for (PullList.Line line : list.lines()) {
            for (Path file : line.files()) {
                Path target = place.resolve(line.placeOf(file));
                Optional<String> sum = Transfer.copy(
                        file,
                        target,
                        bytes -> {
                            written[0] += bytes;
                            progress.accept(written[0], all);
                        },
                        cancelled);
                if (sum.isEmpty()) {
                    return Optional.empty();
                }
                places.put(file, target);
                sums.put(file, sum.get());
            }
        }
        Path timeline = place.resolve(String.valueOf(conform.document().file().getFileName()));
        writeTimeline(conform, list, place, timeline, places);
        Documents.replace(place.resolve(MANIFEST), list.csv(sums).getBytes(StandardCharsets.UTF_8));
        List<Path> listed = Stream.concat(places.values().stream(), Stream.of(timeline, place.resolve(MANIFEST)))
                .toList();
        return AscMhl.write(place, listed, tool, now, cancelled)
                .map(_ -> new Parcel(place, timeline, list.files(), all));
    }

    private static void refuseUnfit(Path folder, PullList list) {
        String untouched = "Nothing was copied.";
        try {
            if (Files.exists(folder)) {
                try (Stream<Path> there = Files.list(folder)) {
                    if (there.findAny().isPresent()) {
                        throw new InputRefused(new Problem(
                                "Nothing is packed into " + folder,
                                "there are files in it",
                                untouched,
                                "Choose a new or empty folder."));
                    }
                }
            }
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem("Cannot use the folder " + folder, Causes.inWords(e), untouched, "Choose another."), e);
        }
        if (list.lines().isEmpty()) {
            throw new InputRefused(new Problem(
                    "There is nothing to pack",
                    "no event of the timeline is on " + list.what().label() + " that are there",
                    untouched,
                    "Serve " + list.what().label() + " first, or choose the other kind."));
        }
        ByteSize free = Room.of(folder).free();
        if (free.bytes() < list.bytes()) {
            throw new InputRefused(new Problem(
                    "It does not fit into " + folder,
                    "the files have " + new ByteSize(list.bytes()) + ", the volume has " + free + " free",
                    untouched,
                    "Choose another volume."));
        }
    }

    private static void writeTimeline(
            Conform conform, PullList list, Path place, Path timeline, Map<Path, Path> places) {
        TimelineDocument sent = conform.document().copy();
        Addressing beside = Addressing.relocated(file -> Optional.ofNullable(places.get(file)));
        Conform again = conform.with(sent);
        if (list.what() == PullList.What.ORIGINALS) {
            Switching.carryOut(again, ServingOrder.ORIGINALS, List.of(), beside, place);
        } else {
            Switching.readdress(again, beside, place);
        }
        sent.save(timeline);
    }
}
