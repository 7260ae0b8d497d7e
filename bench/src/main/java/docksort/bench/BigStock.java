package docksort.bench;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ScanResult;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Desk;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.files.Documents;
import docksort.files.Fingerprinter;
import docksort.files.Mounts;
import docksort.link.MediaSearch;
import docksort.media.ClipSource.SingleFile;
import docksort.sort.CopyKind;
import docksort.stock.ServingOrder;
import docksort.stock.Stock;
import docksort.stock.StockLine;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.stream.Stream;

/// A stock of very many clips, each with two copies: how long its catalogue takes to open and to filter,
/// what it holds in memory, and what a search for moved media costs beside a bare walk with window hashes
/// of the same tree.
public final class BigStock {
    private static final int ROUNDS = 3;

    private BigStock() {}

    /// @param args a work folder and how many clips
    public static void main(String[] args) throws Exception {
        if (args.length != 2) {
            System.err.println("usage: BigStock WORK CLIPS");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.WARNING);
        Path work = Documents.ensureFolder(Path.of(args[0])).toRealPath();
        int clips = Integer.parseInt(args[1]);
        catalogue(work, clips);
        for (int files = Math.max(100, clips / 100); files <= clips; files *= 10) {
            search(work, files);
        }
    }

    private static void catalogue(Path work, int clips) {
        Path file = work.resolve("catalogue.db");
        try (Catalogue catalogue = Catalogue.open(file, InstantSource.system(), new Desk("bench", "somebody"))) {
            fill(catalogue, clips);
        }
        for (int round = 0; round < ROUNDS; round++) {
            long start = System.nanoTime();
            try (Catalogue catalogue = Catalogue.open(file, InstantSource.system(), new Desk("bench", "somebody"))) {
                long opened = System.nanoTime();
                List<Clip> all = catalogue.clips().all();
                long read = System.nanoTime();
                List<StockLine> stock = new Stock(catalogue, Mounts.HERE).lines(all, ServingOrder.LIGHT_FIRST);
                long listed = System.nanoTime();
                String wanted = "c" + round + "7";
                long found = stock.stream()
                        .filter(line ->
                                line.clip().name().toLowerCase(Locale.ROOT).contains(wanted)
                                        && line.copies().stream().anyMatch(copy -> copy.kind() == CopyKind.LIGHT))
                        .count();
                long filtered = System.nanoTime();
                long planned = stock.stream()
                        .filter(line -> line.clip()
                                        .facts()
                                        .video()
                                        .orElseThrow()
                                        .raster()
                                        .width()
                                > 3_000)
                        .count();
                long looked = System.nanoTime();
                System.out.printf(
                        Locale.ROOT,
                        "%d clips, %d copies: open %.2f s, clips %.2f s, stock %.2f s (all: wanted below 2); filter by"
                                + " name %.0f ms (%d found; wanted below 100), by facts %.0f ms (%d); %d MB live%n",
                        stock.size(),
                        2 * stock.size(),
                        (opened - start) / 1e9,
                        (read - opened) / 1e9,
                        (listed - read) / 1e9,
                        (filtered - listed) / 1e6,
                        found,
                        (looked - filtered) / 1e6,
                        planned,
                        live());
            }
        }
    }

    private static long live() {
        System.gc();
        return (Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory()) / 1_000_000;
    }

    static void fill(Catalogue catalogue, int clips) {
        var root = new Root("volume", "volume", Path.of("/volume"));
        var copies = new Root(Root.COPIES, "Copies", Path.of("/copies"));
        catalogue.roots().add(root);
        catalogue.roots().add(copies);
        for (int i = 0; i < 20; i++) {
            var arrival = new Arrival(new ArrivalId("a" + i), "Card " + i, Path.of("/volume/card"), Instant.EPOCH);
            catalogue.arrivals().begin(arrival, root);
            catalogue
                    .arrivals()
                    .endScan(
                            arrival,
                            root,
                            new ScanResult(List.of(), List.of(), List.of(), Map.of(), List.of(), List.of(), 0, false),
                            Optional.empty(),
                            true);
        }
        for (int from = 0; from < clips; from += 5_000) {
            var some = new ArrayList<Clip>();
            var made = new ArrayList<WorkingCopy>();
            for (int i = from; i < Math.min(clips, from + 5_000); i++) {
                Clip clip = LoadSheetBenchmark.clip(i);
                some.add(clip);
                made.add(copy(clip, CopyKind.LIGHT));
                made.add(copy(clip, CopyKind.FULL));
            }
            catalogue.clips().keep(some, root);
            catalogue.copyChanges().add(made, "bench");
        }
    }

    static WorkingCopy copy(Clip clip, CopyKind kind) {
        return new WorkingCopy(
                clip.id().value() + kind,
                clip.id(),
                kind,
                "recipe",
                Root.COPIES,
                Path.of("/copies/" + kind.label() + "/" + clip.name() + ".mov"),
                CopyState.READY,
                "frames 250, rate 25 fps, raster 960x540",
                clip.fingerprint(),
                Optional.empty(),
                new WorkingCopy.Place(1_000_000, 0, 960, 540, "ProRes Proxy", "mark", ""),
                WorkingCopy.Service.USUAL,
                0);
    }

    // Search

    private static void search(Path work, int files) throws IOException {
        Path tree = work.resolve("tree-" + files);
        var random = new Random(files);
        var wanted = new ArrayList<MediaSearch.Wanted>();
        byte[] bytes = new byte[4_000];
        for (int i = 0; i < files; i++) {
            random.nextBytes(bytes);
            Path file = Documents.ensureFolder(tree.resolve("reel " + i / 200)).resolve("take " + i + ".mov");
            Files.write(file, bytes);
            wanted.add(new MediaSearch.Wanted(
                    "c" + i,
                    "C" + i,
                    new SingleFile(Path.of("/before/card " + i / 99 + "/C" + i + ".mov")),
                    Fingerprinter.of(file)));
        }
        double[] bare = new double[ROUNDS];
        double[] ours = new double[ROUNDS];
        for (int round = 0; round < ROUNDS; round++) {
            long start = System.nanoTime();
            try (Stream<Path> all = Files.walk(tree)) {
                for (Path file : all.filter(Files::isRegularFile).toList()) {
                    Fingerprinter.of(file);
                }
            }
            bare[round] = (System.nanoTime() - start) / 1e9;
            start = System.nanoTime();
            List<MediaSearch.Result> results =
                    new MediaSearch(new Cancellation(), (_, _) -> {}).search(tree, wanted, Set.of());
            ours[round] = (System.nanoTime() - start) / 1e9;
            long found = results.stream()
                    .filter(MediaSearch.Result.Found.class::isInstance)
                    .count();
            if (found != files) {
                throw new IllegalStateException(found + " of " + files + " were found");
            }
        }
        SideBySide.tell("searching " + files + " moved files against a walk with window hashes", ours, bare, 3);
    }
}
