package docksort.link;

import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.problem.Causes;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/// What pointing a root at another folder would do, clip by clip, before it is done. A recording is the same
/// when its fingerprint is; a name alone proves nothing.
public record Relink(Root root, Path newPath, List<Line> lines) {
    public Relink {
        lines = List.copyOf(lines);
    }

    /// One clip and what lies at its place below the new path.
    public record Line(Clip clip, Path candidate, Presence presence) {}

    /// Looks at every clip below the root. Reads three small windows of each file.
    ///
    /// @throws InputRefused when the new path is not a folder
    public static Relink preview(Root root, Path newPath, List<Clip> clips) {
        Path to = newPath.toAbsolutePath().normalize();
        if (!Files.isDirectory(to)) {
            throw new InputRefused(new Problem(
                    "Cannot point " + root.name() + " at " + newPath,
                    Files.exists(to) ? "it is not a folder" : "it is not there",
                    "The project and all files are as they were.",
                    "Choose the folder that the arrivals lie in now."));
        }
        var lines = new ArrayList<Line>();
        for (Clip clip : clips) {
            Path head = clip.source().head();
            if (head.startsWith(root.path())) {
                Path candidate = to.resolve(root.path().relativize(head));
                lines.add(new Line(clip, candidate, compare(clip, candidate)));
            }
        }
        return new Relink(root, to, lines);
    }

    private static Presence compare(Clip clip, Path candidate) {
        Path folder = candidate.getParent();
        if (folder == null || !Files.exists(candidate)) {
            return new Presence(Presence.State.OFFLINE, "not at " + candidate);
        }
        try {
            ClipSource there = clip.source().movedTo(folder);
            Fingerprint found = ArrivalScan.fingerprint(there);
            if (found.equals(clip.fingerprint())) {
                return Presence.ONLINE;
            }
            String how = found.bytes() == clip.fingerprint().bytes()
                    ? "its content is another, though the size is the same"
                    : "it has " + found.bytes() + " bytes, not "
                            + clip.fingerprint().bytes();
            return new Presence(Presence.State.REFUSED, how);
        } catch (NoSuchFileException e) {
            return new Presence(Presence.State.OFFLINE, "not complete at " + candidate);
        } catch (IOException e) {
            return new Presence(Presence.State.OFFLINE, Causes.inWords(e));
        }
    }

    public long count(Presence.State state) {
        return lines.stream().filter(line -> line.presence().state() == state).count();
    }

    /// The result by clip, for the catalogue.
    public Map<ClipId, Presence> presence() {
        var found = new HashMap<ClipId, Presence>();
        lines.forEach(line -> found.put(line.clip().id(), line.presence()));
        return found;
    }
}
