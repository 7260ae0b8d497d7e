package docksort.dispatch;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.media.FrameRange;
import docksort.media.Reels;
import docksort.stock.StockLine;
import docksort.timeline.MediaPath;
import java.text.Normalizer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Function;

/// The project's recordings and copies, by what a timeline may name them: path, folder and name, name,
/// reel, content.
final class ClipIndex {
    private static final int LIST_REEL = 8;

    /// A recording, reached by itself or by a copy.
    ///
    /// @param offset frame of the recording that the file begins with
    record Found(StockLine line, Standing standing, long offset) {
        Clip clip() {
            return line.clip();
        }
    }

    private final List<StockLine> stock;
    private final Map<String, Found> byPath;
    private Optional<Map<String, List<Found>>> byFolderAndName = Optional.empty();
    private Optional<Map<String, List<StockLine>>> byName = Optional.empty();
    private Optional<Map<String, List<StockLine>>> byReel = Optional.empty();
    private Optional<Map<String, List<StockLine>>> byContent = Optional.empty();

    ClipIndex(List<StockLine> stock) {
        this.stock = stock;
        byPath = HashMap.newHashMap(stock.size() * 3);
        each((path, found) -> byPath.putIfAbsent(path.key(), found));
    }

    private void each(BiConsumer<MediaPath, Found> taker) {
        var original = new Standing.OnOriginal();
        for (StockLine line : stock) {
            taker.accept(MediaPath.of(line.clip().source().head()), new Found(line, original, 0));
            for (WorkingCopy copy : line.copies()) {
                long offset = copy.range().map(FrameRange::first).orElse(0L);
                taker.accept(
                        MediaPath.of(copy.file()),
                        new Found(line, new Standing.OnCopy(copy.kind(), copy.id()), offset));
            }
        }
    }

    Optional<Found> at(MediaPath path) {
        return Optional.ofNullable(byPath.get(path.key()));
    }

    List<Found> withFolderAndName(MediaPath path) {
        if (byFolderAndName.isEmpty()) {
            Map<String, List<Found>> groups = HashMap.newHashMap(stock.size() * 3);
            each((file, found) -> groups.computeIfAbsent(file.lastTwoKey(), _ -> new ArrayList<>(1))
                    .add(found));
            byFolderAndName = Optional.of(groups);
        }
        return byFolderAndName.get().getOrDefault(path.lastTwoKey(), List.of());
    }

    /// @param name a clip's name or a file name, with or without an ending
    List<StockLine> named(String name) {
        if (byName.isEmpty()) {
            byName = Optional.of(
                    grouped(line -> nameKey(line.clip().source().head().getFileName() + "")));
        }
        return byName.get().getOrDefault(nameKey(name), List.of());
    }

    List<StockLine> ofReel(String reel) {
        if (byReel.isEmpty()) {
            byReel = Optional.of(
                    grouped(line -> line.clip().facts().reel().map(Reels::key).orElse("")));
        }
        String key = Reels.key(reel);
        List<StockLine> exact = byReel.get().getOrDefault(key, List.of());
        return exact.isEmpty() && key.length() == LIST_REEL ? beginningWith(key) : exact;
    }

    /// Edit lists of the older form have room for a reel of eight characters and cut longer ones off (CMX
    /// 3600, common practice). Cameras that state no reel name their files by it.
    private List<StockLine> beginningWith(String key) {
        return stock.stream()
                .filter(line -> Reels.key(
                                line.clip().facts().reel().orElse(line.clip().name()))
                        .startsWith(key))
                .toList();
    }

    List<StockLine> ofContent(String fingerprint) {
        if (byContent.isEmpty()) {
            byContent = Optional.of(grouped(line -> line.clip().fingerprint().toString()));
        }
        return byContent.get().getOrDefault(fingerprint, List.of());
    }

    private Map<String, List<StockLine>> grouped(Function<StockLine, String> key) {
        Map<String, List<StockLine>> groups = HashMap.newHashMap(stock.size());
        for (StockLine line : stock) {
            groups.computeIfAbsent(key.apply(line), _ -> new ArrayList<>(1)).add(line);
        }
        groups.remove("");
        return groups;
    }

    /// Programs write names with and without ending, and in either case.
    private static String nameKey(String name) {
        String last = name.substring(Math.max(name.lastIndexOf('/'), name.lastIndexOf('\\')) + 1);
        int dot = last.lastIndexOf('.');
        boolean ending = dot > 0 && last.length() - dot >= 3 && last.length() - dot <= 5;
        String stem = ending ? last.substring(0, dot) : last;
        return Normalizer.normalize(stem, Normalizer.Form.NFC)
                .toUpperCase(Locale.ROOT)
                .strip();
    }
}
