package docksort.stock;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Pin;
import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.files.Mounts;
import docksort.media.FrameRange;
import docksort.problem.Causes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// All copies and their states. What the catalogue says is held against the disk by names, sizes and times
/// alone, so that a look costs about a directory walk.
public final class Stock {
    private static final String SILENT = "its volume does not answer: mount it anew";

    private final Catalogue catalogue;
    private final Mounts mounts;

    public Stock(Catalogue catalogue, Mounts mounts) {
        this.catalogue = catalogue;
        this.mounts = mounts;
    }

    /// Every clip with its copies as the catalogue knows them.
    public List<StockLine> lines(List<Clip> clips, ServingOrder order) {
        Map<ClipId, Presence> presence = catalogue.clips().presence();
        Map<ClipId, List<WorkingCopy>> copies = HashMap.newHashMap(clips.size());
        catalogue
                .copies()
                .all()
                .forEach(copy -> copies.computeIfAbsent(copy.clip(), _ -> new ArrayList<>(2))
                        .add(copy));
        Map<ClipId, ServingOrder> pinned = order.kinds().isEmpty() ? Map.of() : pinned(order.lightLines());
        var lines = new ArrayList<StockLine>(clips.size());
        for (Clip clip : clips) {
            List<WorkingCopy> own = copies.getOrDefault(clip.id(), List.of());
            Presence there = presence.getOrDefault(clip.id(), Presence.ONLINE);
            ServingOrder its = pinned.getOrDefault(clip.id(), order);
            lines.add(new StockLine(clip, there, own, its.serve(clip, own, there)));
        }
        return lines;
    }

    /// Orders of whole clips that are pinned. An order that asks for originals is not turned by them.
    private Map<ClipId, ServingOrder> pinned(int lightLines) {
        Map<ClipId, ServingOrder> pinned = new HashMap<>();
        for (Pin pin : catalogue.timelines().pins()) {
            if (pin.frames().isEmpty()) {
                ServingOrder.named(pin.order())
                        .ifPresent(order -> pinned.put(pin.clip(), order.withLightLines(lightLines)));
            }
        }
        return pinned;
    }

    /// Looks at every original and every finished copy on the disk, and keeps what changed.
    ///
    /// @return how many states changed
    public int refresh(List<Clip> clips, Standards standards) {
        var look = new Look(clips, standards);
        Map<ClipId, Presence> known = catalogue.clips().presence();
        Map<ClipId, Presence> changedPresence = new HashMap<>();
        for (Clip clip : clips) {
            Presence before = known.getOrDefault(clip.id(), Presence.ONLINE);
            Presence now = look.at(clip, before);
            if (!now.equals(before)) {
                changedPresence.put(clip.id(), now);
            }
        }
        List<WorkingCopy> changedCopies = look.copies.stream()
                .filter(copy -> isFinished(copy.state()))
                .flatMap(
                        copy -> Optional.of(look.at(copy))
                                .filter(now -> now.state() != copy.state() || differsInNote(now, copy))
                                .stream())
                .toList();
        if (!changedPresence.isEmpty()) {
            catalogue.clips().note(changedPresence);
        }
        if (!changedCopies.isEmpty()) {
            catalogue.copies().update(changedCopies);
        }
        return changedPresence.size() + changedCopies.size();
    }

    /// Copies that are still to be made, or could not be, have nothing on the disk to look at.
    private static boolean isFinished(CopyState state) {
        return switch (state) {
            case READY, READY_WITH_HOLES, STALE, MISSING, SUSPECT -> true;
            case WANTED, WAITING, MAKING, CHECKING, FAILED -> false;
        };
    }

    /// The note of a ready copy tells of its check, and stays.
    private static boolean differsInNote(WorkingCopy now, WorkingCopy before) {
        return !now.state().serves() && !now.note().equals(before.note());
    }

    /// One look at the disk. Folders are asked for once.
    private final class Look {
        private final List<WorkingCopy> copies = catalogue.copies().all();
        private final Map<ClipId, Clip> clips = new HashMap<>();
        private final Map<ClipId, List<WorkingCopy>> ranges;
        private final Map<Path, Boolean> there = new HashMap<>();
        private final List<Path> roots =
                catalogue.roots().all().stream().map(Root::path).toList();
        private final List<Path> silent =
                roots.stream().filter(root -> !mounts.answers(root)).toList();
        private final Standards standards;

        Look(List<Clip> clips, Standards standards) {
            clips.forEach(clip -> this.clips.put(clip.id(), clip));
            this.ranges = copies.stream()
                    .filter(copy -> copy.range().isPresent() && isFinished(copy.state()))
                    .collect(Collectors.groupingBy(WorkingCopy::clip));
            this.standards = standards;
        }

        private boolean isSilent(Path file) {
            return silent.stream().anyMatch(file::startsWith);
        }

        private boolean volumeIsAway(Path file) {
            return roots.stream()
                    .filter(file::startsWith)
                    .noneMatch(root -> there.computeIfAbsent(root, Files::isDirectory));
        }

        private static String away(Path file) {
            return Root.isNowhere(file)
                    ? "this workstation has no folder for " + file.getName(1) + ": say where it is"
                    : "its volume is away: mount it";
        }

        private Presence at(Clip clip, Presence known) {
            Path head = clip.source().head();
            if (isSilent(head)) {
                return new Presence(Presence.State.OFFLINE, SILENT);
            }
            try {
                BasicFileAttributes found = Files.readAttributes(head, BasicFileAttributes.class);
                boolean single = clip.source().files().size() == 1;
                if (single && found.size() != clip.fingerprint().bytes()) {
                    return new Presence(
                            Presence.State.REFUSED,
                            "the file there has " + found.size() + " bytes, the recording had "
                                    + clip.fingerprint().bytes());
                }
                // A recording that was refused by its content stays refused until it is looked at again.
                return known.state() == Presence.State.REFUSED ? known : Presence.ONLINE;
            } catch (NoSuchFileException e) {
                return volumeIsAway(head)
                        ? new Presence(Presence.State.OFFLINE, away(head))
                        : new Presence(
                                Presence.State.MOVED, "not at " + head + ": put it back, or search for it in Stock");
            } catch (IOException e) {
                return new Presence(Presence.State.OFFLINE, Causes.inWords(e));
            }
        }

        private WorkingCopy at(WorkingCopy copy) {
            Path file = copy.file();
            if (isSilent(file)) {
                return copy.withState(CopyState.MISSING, SILENT);
            }
            try {
                BasicFileAttributes found = Files.readAttributes(file, BasicFileAttributes.class);
                boolean same = found.size() == copy.place().bytes()
                        && found.lastModifiedTime().toMillis() == copy.place().modifiedMillis();
                if (!same) {
                    return copy.withState(
                            CopyState.SUSPECT, "the file was changed since it was checked: make it again");
                }
                if (copy.place().whole().damaged()) {
                    return copy.withState(
                            CopyState.SUSPECT, "its bytes are not those that were checked: make it again");
                }
                Optional<String> stale = stale(copy);
                if (stale.isPresent()) {
                    return copy.withState(CopyState.STALE, stale.get());
                }
                return copy.state() == copy.finished() ? copy : copy.withState(copy.finished(), "as it was made");
            } catch (IOException e) {
                return copy.withState(
                        CopyState.MISSING,
                        volumeIsAway(file) ? away(file) : "not at " + file + ": search for it, or make it again");
            }
        }

        private Optional<String> stale(WorkingCopy copy) {
            Clip clip = clips.get(copy.clip());
            if (clip != null && !clip.fingerprint().equals(copy.source())) {
                return Optional.of("its original is another recording now: make it again");
            }
            String mark = standards.marks().getOrDefault(copy.recipeId(), "");
            String made = copy.place().recipeMark();
            if (!mark.isEmpty() && !made.isEmpty() && !mark.equals(made)) {
                return Optional.of("its recipe was changed since: make it again");
            }
            return outgrown(copy);
        }

        /// What timelines have come to use beside the frames of a range copy, and no other range copy of
        /// the clip holds.
        private Optional<String> outgrown(WorkingCopy copy) {
            if (copy.range().isEmpty()) {
                return Optional.empty();
            }
            List<FrameRange> held = ranges.getOrDefault(copy.clip(), List.of()).stream()
                    .filter(other -> other.recipeId().equals(copy.recipeId()))
                    .flatMap(other -> other.range().stream())
                    .toList();
            List<FrameRange> missing = standards.used().getOrDefault(copy.clip(), List.of()).stream()
                    .filter(range -> range.touches(copy.range().get()))
                    .filter(range -> held.stream().noneMatch(whole -> whole.contains(range)))
                    .flatMap(range -> range.minus(List.of(copy.range().get())).stream())
                    .toList();
            return missing.isEmpty()
                    ? Optional.empty()
                    : Optional.of("a timeline needs "
                            + missing.stream().map(FrameRange::inWords).collect(Collectors.joining(" and "))
                            + " too: a run makes all of it as one file");
        }
    }
}
