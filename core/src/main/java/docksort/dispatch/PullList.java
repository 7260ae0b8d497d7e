package docksort.dispatch;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.files.Cells;
import docksort.media.CodedFrame;
import docksort.media.FrameRange;
import docksort.media.FrameStructure;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/// The files that a cut needs and no others: its originals for finishing, or the copies it leads to for an
/// editor elsewhere.
///
/// @param what originals or copies
/// @param lines one for each recording or copy, in the order of their first use
/// @param left events that it cannot serve, with the reason
public record PullList(What what, List<Line> lines, List<String> left) {
    public PullList {
        lines = List.copyOf(lines);
        left = List.copyOf(left);
    }

    /// What is pulled.
    public enum What {
        ORIGINALS("originals"),
        COPIES("copies");

        private final String label;

        What(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /// One recording, with the frames of it that are used.
    ///
    /// @param files its file or files, in order
    /// @param place path below the folder it goes into, with the file name of the first file
    /// @param bytes of all its files
    /// @param ranges used frames with handles, merged
    /// @param rangeBytes estimated from the sizes of its coded frames; all of its bytes where these are not
    /// known
    public record Line(Clip clip, List<Path> files, Path place, long bytes, List<FrameRange> ranges, long rangeBytes) {
        public Line {
            files = List.copyOf(files);
            ranges = List.copyOf(ranges);
        }

        /// Where a file of it goes.
        Path placeOf(Path file) {
            Path folder = place.getParent();
            Path name = Path.of(String.valueOf(file.getFileName()));
            return folder == null ? name : folder.resolve(name);
        }
    }

    /// @param handles frames wanted before and after what is used
    public static PullList of(Conform conform, What what, List<Arrival> arrivals, Path copiesFolder, long handles) {
        return new Gathering(what, arrivals, copiesFolder, handles).of(conform);
    }

    public long bytes() {
        return lines.stream().mapToLong(Line::bytes).sum();
    }

    public long rangeBytes() {
        return lines.stream().mapToLong(Line::rangeBytes).sum();
    }

    public int files() {
        return lines.stream().mapToInt(line -> line.files().size()).sum();
    }

    /// As a table (CSV, RFC 4180): every file with what is used of it.
    ///
    /// @param sums XXH64 checksum of files where they were taken, by file
    public String csv(Map<Path, String> sums) {
        var out = new StringWriter();
        CSVFormat format = CSVFormat.RFC4180
                .builder()
                .setHeader(
                        "clip",
                        "reel",
                        "file",
                        "from",
                        "bytes",
                        "xxh64",
                        "used frames",
                        "used timecode",
                        "rate",
                        "used bytes (estimated)")
                .get();
        try (var printer = new CSVPrinter(out, format)) {
            for (Line line : lines) {
                for (Path file : line.files) {
                    boolean first = file.equals(line.files.getFirst());
                    printer.printRecord(Cells.harmless(
                            line.clip.name(),
                            line.clip.facts().reel().orElse(""),
                            line.placeOf(file).toString().replace('\\', '/'),
                            file,
                            size(file),
                            sums.getOrDefault(file, ""),
                            first ? frames(line) : "",
                            first ? timecodes(line) : "",
                            line.clip
                                    .facts()
                                    .video()
                                    .map(video -> video.rate().toString())
                                    .orElse(""),
                            first ? line.rangeBytes : ""));
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return out.toString();
    }

    private static String frames(Line line) {
        return line.ranges.stream()
                .map(range -> range.first() + "-" + (range.end() - 1))
                .collect(Collectors.joining(" "));
    }

    private static String timecodes(Line line) {
        Optional<Timecode> start = line.clip.facts().startTimecode();
        return start.map(zero -> line.ranges.stream()
                        .map(range -> zero.plus(range.first()) + "-" + zero.plus(range.end()))
                        .collect(Collectors.joining(" ")))
                .orElse("");
    }

    private static long size(Path file) {
        try {
            return Files.size(file);
        } catch (IOException e) {
            return 0; // it is told among what is left
        }
    }

    /// One list being gathered.
    private static final class Gathering {
        private final What what;
        private final Map<ArrivalId, Arrival> arrivals;
        private final Path copiesFolder;
        private final long handles;
        private final List<String> left = new ArrayList<>();
        private final Map<Path, Source> sources = new LinkedHashMap<>();
        private final Map<ClipId, List<FrameRange>> used = new HashMap<>();
        private final Set<String> takenPlaces = new LinkedHashSet<>();
        private final Map<Path, String> folderNames = new HashMap<>();

        private record Source(Clip clip, List<Path> files, Path root, boolean isCopy) {}

        Gathering(What what, List<Arrival> arrivals, Path copiesFolder, long handles) {
            this.what = what;
            this.arrivals = arrivals.stream().collect(Collectors.toMap(Arrival::id, arrival -> arrival));
            this.copiesFolder = copiesFolder;
            this.handles = handles;
        }

        PullList of(Conform conform) {
            conform.events().forEach(this::take);
            return new PullList(what, sources.values().stream().map(this::line).toList(), left);
        }

        private void take(ConformedEvent event) {
            if (event.standing() instanceof Standing.WithoutMedia) {
                return;
            }
            String name = "event " + event.number() + ", " + event.event().name() + ": ";
            if (event.line().isEmpty()) {
                left.add(name + event.standing().label() + (event.how().isEmpty() ? "" : ", " + event.how()));
                return;
            }
            Clip clip = event.line().get().clip();
            Source source;
            if (what == What.COPIES && event.copy().isPresent()) {
                Path file = event.copy().get().file();
                source = new Source(clip, List.of(file), copiesFolder, true);
            } else if (what == What.COPIES) {
                left.add(name + "it is on its original, which is not sent along");
                return;
            } else {
                Arrival arrival = arrivals.get(clip.arrival());
                Path root = arrival == null ? copiesFolder : arrival.folder(); // every clip has an arrival
                source = new Source(clip, clip.source().files(), root, false);
            }
            Optional<Path> missing = source.files().stream()
                    .filter(file -> !Files.isRegularFile(file))
                    .findFirst();
            if (missing.isPresent()) {
                left.add(name + missing.get() + " is not there");
                return;
            }
            sources.putIfAbsent(source.files().getFirst(), source);
            event.needed()
                    .ifPresent(range -> used.computeIfAbsent(clip.id(), _ -> new ArrayList<>())
                            .add(range));
        }

        private Line line(Source source) {
            Path head = source.files().getFirst();
            long bytes = source.files().stream().mapToLong(PullList::size).sum();
            long frames = source.clip()
                    .facts()
                    .video()
                    .map(video -> video.frames().count())
                    .orElse(0L);
            List<FrameRange> ranges =
                    FrameRange.merged(used.getOrDefault(source.clip().id(), List.of()), handles, Math.max(1, frames));
            long rangeBytes = source.isCopy() ? bytes : Math.min(bytes, bytesOf(source.clip(), ranges, bytes));
            return new Line(source.clip(), source.files(), place(head, source.root()), bytes, ranges, rangeBytes);
        }

        /// A folder for each arrival or for the copies, and below it what lies there. Two of one name get
        /// numbers.
        private Path place(Path head, Path root) {
            String folder = folderNames.computeIfAbsent(root, this::folderName);
            Path below = head.startsWith(root) ? root.relativize(head) : Path.of(String.valueOf(head.getFileName()));
            return Path.of("media", folder).resolve(below);
        }

        private String folderName(Path root) {
            String name = root.equals(copiesFolder) ? "copies" : String.valueOf(root.getFileName());
            String unique = name;
            for (int n = 2; !takenPlaces.add(unique.toLowerCase(Locale.ROOT)); n++) {
                unique = name + " " + n;
            }
            return unique;
        }

        /// The coded frames of the ranges, and their share of sound and wrapping. Frames of long groups are
        /// counted from the keyframe that they need.
        private static long bytesOf(Clip clip, List<FrameRange> ranges, long bytes) {
            Optional<VideoFacts> video = clip.facts().video();
            List<CodedFrame> coded = video.map(VideoFacts::structure)
                    .filter(FrameStructure::isKnown)
                    .map(FrameStructure::frames)
                    .orElse(List.of());
            long frames = video.map(v -> v.frames().count()).orElse(0L);
            if (coded.size() != frames || frames == 0) {
                long wanted = ranges.stream().mapToLong(FrameRange::count).sum();
                return frames == 0 ? bytes : bytes * Math.min(frames, wanted) / frames;
            }
            long all = coded.stream().mapToLong(CodedFrame::bytes).sum();
            long wanted = 0;
            for (FrameRange range : ranges) {
                int from = (int) range.first();
                while (from > 0 && !coded.get(from).key()) {
                    from--;
                }
                for (int i = from; i < range.end(); i++) {
                    wanted += coded.get(i).bytes();
                }
            }
            return all == 0 ? bytes : (long) ((double) bytes * wanted / all);
        }
    }
}
