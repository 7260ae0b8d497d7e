package docksort.arrival;

import docksort.arrival.FootageWalk.Listed;
import docksort.engine.Cancellation;
import docksort.engine.Inspector;
import docksort.files.Fingerprinter;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.FrameRate;
import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;

/// Looks into everything of a folder tree, several files at once, and tells of each clip as soon as it is
/// known.
public final class ArrivalScan {
    private final Inspector inspector;
    private final SameScene sameScene;
    private final int lookers;

    /// @param sameScene asked where only pictures tell whether a small file is of an original
    /// @param lookers how many files are looked into at the same time
    public ArrivalScan(Inspector inspector, SameScene sameScene, int lookers) {
        this.inspector = inspector;
        this.sameScene = sameScene;
        this.lookers = lookers;
    }

    /// What the catalogue knows of an arrival from before.
    ///
    /// @param stamps the listing's word on each source, by its head; what still has the same is not opened
    /// @param clips clips by their head, so that one whose file changed keeps its id; only asked for when
    /// something
    ///     is new
    public record Before(Map<Path, Stamp> stamps, Supplier<Map<Path, Clip>> clips) {
        public static final Before NOTHING = new Before(Map.of(), Map::of);

        public Before {
            stamps = Map.copyOf(stamps);
        }
    }

    /// @param stillsRate how numbered stills are read until somebody says otherwise
    /// @throws docksort.problem.CoreException.InputRefused when the folder cannot be listed
    public ScanResult scan(
            ArrivalId arrival,
            Path folder,
            Before before,
            FrameRate stillsRate,
            ScanListener listener,
            Cancellation cancellation)
            throws InterruptedException {
        return scan(arrival, FootageWalk.of(folder), before, stillsRate, listener, cancellation);
    }

    /// The same, leaving out new sources that have not settled.
    ///
    /// @param settled heads of the new sources to look into
    public ScanResult scanSettled(
            ArrivalId arrival,
            Path folder,
            Before before,
            Set<Path> settled,
            FrameRate stillsRate,
            ScanListener listener,
            Cancellation cancellation)
            throws InterruptedException {
        FootageWalk.Found found = FootageWalk.of(folder);
        List<Listed> kept = found.sources().stream()
                .filter(listed -> settled.contains(listed.source().head())
                        || listed.stamp()
                                .equals(before.stamps.get(listed.source().head())))
                .toList();
        return scan(
                arrival,
                new FootageWalk.Found(kept, found.asides(), found.unlisted()),
                before,
                stillsRate,
                listener,
                cancellation);
    }

    /// The result of a look by directory listing alone, where everything is as before.
    ///
    /// @param asides how many files that are no footage there were
    /// @return empty when something is new, changed or gone, or cannot be listed
    public static Optional<ScanResult> asBefore(Path folder, Before before, int asides) {
        FootageWalk.Found found = FootageWalk.unordered(folder);
        boolean same = found.sources().size() == before.stamps.size()
                && found.asides().size() == asides
                && found.unlisted().isEmpty()
                && found.sources().stream()
                        .allMatch(listed -> listed.stamp()
                                .equals(before.stamps.get(listed.source().head())));
        return same
                ? Optional.of(new ScanResult(
                        List.of(),
                        List.of(),
                        List.of(),
                        Map.of(),
                        List.of(),
                        found.asides(),
                        found.sources().size(),
                        false))
                : Optional.empty();
    }

    /// What could be a clip below a folder, in order, by directory listing alone.
    public static List<ClipSource> listing(Path folder) {
        return FootageWalk.of(folder).sources().stream().map(Listed::source).toList();
    }

    /// What could be a clip, and the bytes of its file or files.
    public record Sized(ClipSource source, long bytes) {}

    /// The same in no particular order, with sizes.
    public static List<Sized> sized(Path folder) {
        return FootageWalk.unordered(folder).sources().stream()
                .map(listed -> new Sized(listed.source(), listed.stamp().bytes()))
                .toList();
    }

    /// What a folder holds that is new or has changed, by directory listing alone.
    public static Map<Path, Stamp> news(Path folder, Before before) {
        var news = new HashMap<Path, Stamp>();
        for (Listed listed : FootageWalk.of(folder).sources()) {
            if (!listed.stamp().equals(before.stamps.get(listed.source().head()))) {
                news.put(listed.source().head(), listed.stamp());
            }
        }
        return news;
    }

    private ScanResult scan(
            ArrivalId arrival,
            FootageWalk.Found found,
            Before before,
            FrameRate stillsRate,
            ScanListener listener,
            Cancellation cancellation)
            throws InterruptedException {
        return new ArrivalPass(
                        inspector, sameScene, lookers, arrival, found, before, stillsRate, listener, cancellation)
                .run();
    }

    /// The fingerprint of a clip's file or files.
    public static Fingerprint fingerprint(ClipSource source) throws IOException {
        return switch (source) {
            case ClipSource.SingleFile single -> Fingerprinter.of(single.head());
            case ClipSource.NumberedStills stills -> Fingerprinter.ofAll(stills.files());
            case ClipSource.Spanned spanned -> Fingerprinter.ofAll(spanned.parts());
        };
    }
}
