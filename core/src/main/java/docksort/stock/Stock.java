package docksort.stock;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
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
    private final Catalogue catalogue;

    public Stock(Catalogue catalogue) {
        this.catalogue = catalogue;
    }

    /// Every clip with its copies as the catalogue knows them.
    public List<StockLine> lines(List<Clip> clips, ServingOrder order) {
        Map<ClipId, Presence> presence = catalogue.presence();
        Map<ClipId, List<WorkingCopy>> copies =
                catalogue.copies().stream().collect(Collectors.groupingBy(WorkingCopy::clip));
        var lines = new ArrayList<StockLine>(clips.size());
        for (Clip clip : clips) {
            List<WorkingCopy> own = copies.getOrDefault(clip.id(), List.of());
            Presence there = presence.getOrDefault(clip.id(), Presence.ONLINE);
            lines.add(new StockLine(clip, there, own, order.serve(clip, own, there)));
        }
        return lines;
    }

    /// Looks at every original and every finished copy on the disk, and keeps what changed.
    ///
    /// @return how many states changed
    public int refresh(List<Clip> clips) {
        Map<ClipId, Presence> known = catalogue.presence();
        Map<ClipId, Presence> changedPresence = new HashMap<>();
        Map<ClipId, Clip> byId = new HashMap<>();
        for (Clip clip : clips) {
            byId.put(clip.id(), clip);
            Presence now = look(clip, known.getOrDefault(clip.id(), Presence.ONLINE));
            if (!now.equals(known.get(clip.id()))) {
                changedPresence.put(clip.id(), now);
            }
        }
        List<WorkingCopy> changedCopies = catalogue.copies().stream()
                .filter(copy -> !copy.state().isQueued() && copy.state() != CopyState.FAILED)
                .flatMap(copy -> look(copy, Optional.ofNullable(byId.get(copy.clip()))).stream())
                .toList();
        if (!changedPresence.isEmpty()) {
            catalogue.note(changedPresence);
        }
        if (!changedCopies.isEmpty()) {
            catalogue.update(changedCopies);
        }
        return changedPresence.size() + changedCopies.size();
    }

    private static Presence look(Clip clip, Presence known) {
        try {
            BasicFileAttributes head = Files.readAttributes(clip.source().head(), BasicFileAttributes.class);
            boolean single = clip.source().files().size() == 1;
            if (single && head.size() != clip.fingerprint().bytes()) {
                return new Presence(
                        Presence.State.REFUSED,
                        "the file there has " + head.size() + " bytes, the recording had "
                                + clip.fingerprint().bytes());
            }
            // A recording that was refused by its content stays refused until it is looked at again.
            return known.state() == Presence.State.REFUSED ? known : Presence.ONLINE;
        } catch (NoSuchFileException e) {
            return new Presence(
                    Presence.State.OFFLINE, "not at " + clip.source().head());
        } catch (IOException e) {
            return new Presence(Presence.State.OFFLINE, docksort.problem.Causes.inWords(e));
        }
    }

    private static Optional<WorkingCopy> look(WorkingCopy copy, Optional<Clip> clip) {
        WorkingCopy now = state(copy, clip);
        return now.state() == copy.state() ? Optional.empty() : Optional.of(now);
    }

    private static WorkingCopy state(WorkingCopy copy, Optional<Clip> clip) {
        Path file = copy.file();
        try {
            BasicFileAttributes found = Files.readAttributes(file, BasicFileAttributes.class);
            if (clip.isPresent() && !clip.get().fingerprint().equals(copy.source())) {
                return copy.withState(CopyState.STALE, "its original is another recording now: make it again");
            }
            boolean same = found.size() == copy.place().bytes()
                    && found.lastModifiedTime().toMillis() == copy.place().modifiedMillis();
            if (!same) {
                return copy.withState(CopyState.SUSPECT, "the file was changed since it was checked: make it again");
            }
            return copy.state() == CopyState.READY ? copy : copy.withState(CopyState.READY, "there again, unchanged");
        } catch (IOException e) {
            return copy.withState(CopyState.MISSING, "not at " + file + ": mount its volume or make it again");
        }
    }
}
