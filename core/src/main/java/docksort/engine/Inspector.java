package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.index.CameraSays;
import docksort.index.ContainerSays;
import docksort.index.ContainerSays.Gap;
import docksort.index.MovIndex;
import docksort.index.MovTrack;
import docksort.index.MxfHeader;
import docksort.index.StillHeader;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Findings;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.SpannedFacts;
import docksort.media.VideoFacts;
import docksort.problem.Causes;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/// Turns a file, or numbered stills, into facts with one or two short runs of ffprobe.
///
/// MOV and MP4 carry an index, which is read whole by [MovIndex]; the engine adds the headers, and one
/// decoded picture where the stream's parameter sets leave something open. Of other files the first run
/// reads the headers and the packets of the whole file if it is small, otherwise a short window. A large
/// one whose codec does not tell how its frames depend on each other is read by its index tables (MXF),
/// or once more, pictures only, for windows that are long enough for the usual keyframe intervals and
/// take in the widest gap that the container lists; such streams have a low data rate, so the windows
/// stay cheap. Where a container times only decoding, a window is decoded.
public final class Inspector {
    private static final long SMALL_FILE_BYTES = 48L * 1024 * 1024;
    private static final int PACKETS_OF_SMALL_FILE = 3_000;
    private static final int PACKETS_OF_HEAD = 48;

    private static final String UNTOUCHED = "The file is as it was; the other files go on.";

    private final MediaEngine engine;

    public Inspector(MediaEngine engine) {
        this.engine = engine;
    }

    /// @param stillsRate how many numbered stills make a second; ignored for media that state a rate
    /// @throws InterruptedException when the calling thread is interrupted; the child process is ended
    public Inspection inspect(ClipSource source, FrameRate stillsRate, Cancellation cancellation)
            throws InterruptedException {
        try {
            Optional<String> early = reasonBeforeLooking(source);
            if (early.isPresent()) {
                return unreadable(source, early.get());
            }
            return look(source, stillsRate, cancellation);
        } catch (IOException e) {
            return unreadable(source, Causes.inWords(e));
        } catch (IllegalArgumentException | ArithmeticException e) {
            return unreadable(source, "its headers contradict themselves (" + e.getMessage() + ")");
        }
    }

    private Inspection look(ClipSource source, FrameRate stillsRate, Cancellation cancellation)
            throws IOException, InterruptedException {
        return switch (source) {
            case ClipSource.SingleFile single -> lookAtFile(single, stillsRate, cancellation);
            case ClipSource.NumberedStills stills -> lookAtStills(stills, stillsRate, cancellation);
            case ClipSource.Spanned spanned -> lookAtParts(spanned, stillsRate, cancellation);
        };
    }

    private Inspection lookAtFile(ClipSource.SingleFile source, FrameRate stillsRate, Cancellation cancellation)
            throws IOException, InterruptedException {
        Path file = source.head();
        return switch (Formats.expected(String.valueOf(file.getFileName()))) {
            case CAMERA_RAW -> new Inspection.Known(raw(source, stillsRate, cancellation));
            case STILL -> stating(opened(source, stillsRate, cancellation), file);
            default -> opened(source, stillsRate, cancellation);
        };
    }

    private static Inspection stating(Inspection inspection, Path still) {
        return inspection instanceof Inspection.Known(var facts)
                ? new Inspection.Known(stating(facts, CameraSays.of(still)))
                : inspection;
    }

    private static ClipFacts stating(ClipFacts facts, CameraSays says) {
        return facts.stating(says.described(), says.recordedAt(), says.tags());
    }

    /// Camera raw of its maker's own kind is shown by what its container states, where that is of a known
    /// kind, by tags in the form of TIFF, and by a sidecar.
    private ClipFacts raw(ClipSource.SingleFile source, FrameRate stillsRate, Cancellation cancellation)
            throws InterruptedException {
        Path file = source.head();
        CameraSays says = CameraSays.of(file).or(CameraSays.besides(file));
        ClipFacts facts = new ClipFacts(
                "camera raw",
                Optional.empty(),
                List.of(),
                Rational.ZERO,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                new ByteSize(file.toFile().length()),
                Findings.NONE,
                Map.of());
        try {
            byte[] head = head(file);
            boolean known = MovIndex.isLikely(head) || MxfHeader.isLikely(head);
            if (known && opened(source, stillsRate, cancellation) instanceof Inspection.Known(var container)) {
                facts = container;
            }
        } catch (IOException | IllegalArgumentException | ArithmeticException e) {
            String why = e instanceof IOException failure ? Causes.inWords(failure) : String.valueOf(e.getMessage());
            facts = facts.withComplaints(List.of("its container cannot be read: " + why));
        }
        return stating(facts.outOfReach("camera raw of its maker's own kind"), says);
    }

    private Inspection opened(ClipSource.SingleFile source, FrameRate stillsRate, Cancellation cancellation)
            throws IOException, InterruptedException {
        Path file = source.head();
        long bytes = Files.size(file);
        if (MovIndex.isLikely(head(file)) && MovIndex.isReference(file)) {
            return unreadable(source, "its pictures or its sound lie in other files, which it only names: add those");
        }
        Optional<MovIndex> index = MovIndex.isLikely(head(file)) ? MovIndex.read(file) : Optional.empty();
        Optional<ContainerSays> header = index.isEmpty() ? Optional.of(ContainerSays.read(file)) : Optional.empty();
        int window = bytes <= SMALL_FILE_BYTES ? PACKETS_OF_SMALL_FILE : PACKETS_OF_HEAD;
        List<String> shown =
                index.isEmpty() ? ProbeQuestions.packets(window) : ProbeQuestions.onePictureOf(index.get());
        Answer answer = ask(source, stillsRate, Headers.WITH, shown, cancellation);
        Optional<Inspection> broken = broken(source, answer);
        if (broken.isPresent()) {
            return broken.get();
        }
        ProbeReader reader = answer.reader;
        var disagreements = new Disagreements();
        Optional<MovTrack> track = StreamStructure.track(index, reader.fourCc());
        if (track.isPresent() && reader.codec().isPresent()) {
            StreamStructure.Found found =
                    StreamStructure.of(file, track.get(), reader.codec().get(), disagreements);
            reader.setStructure(found.structure());
            if (found.recoveryPoints()) {
                reader.decodeFromFirst();
            }
        } else if (!readMxfIndex(file, reader) && reader.needsShownOrder()) {
            Answer decoded = ask(source, stillsRate, Headers.WITHOUT, ProbeQuestions.decodedWindow(), cancellation);
            if (decoded.ending.isGood()) {
                reader.takeShownOrder(decoded.reader, ProbeQuestions.PICTURES_DECODED);
            }
            if (!reader.isOrderedByDecoding() && !reader.isWhole() && reader.packetCount() < window) {
                reader.setWhole();
            }
        } else if (!reader.isWhole() && reader.packetCount() >= window && reader.needsLongerWindow()) {
            Optional<Gap> widest = header.flatMap(ContainerSays::widestGap);
            List<String> windows = ProbeQuestions.windows(reader.containerSeconds(), widest);
            Answer second = ask(source, stillsRate, Headers.WITHOUT, windows, cancellation);
            if (second.ending.isGood()) {
                reader.replacePackets(second.reader);
            }
        } else if (!reader.isWhole() && reader.packetCount() < window) {
            reader.setWhole();
        }
        var complaints = new ArrayList<>(plainComplaints(answer.ending.lastLines()));
        index.ifPresent(found -> complaints.addAll(found.complaints()));
        boolean lacksEnd = ContainerSays.lacksEnd(file);
        if (lacksEnd) {
            complaints.add("its end is missing: the recording or the copy of it was cut off");
        }
        boolean behind = index.filter(found -> !found.complaints().isEmpty()).isPresent();
        if (lacksEnd || behind) {
            reader.doubtCount(behind ? index.get().missingAtEnd(file) : 0);
        }
        StatedPicture said = track.map(StatedPicture::by)
                .or(() -> header.map(StatedPicture::by))
                .orElse(StatedPicture.NOTHING);
        if (index.isEmpty()) {
            reader.checkKeyframes(file, disagreements);
            if (reader.lacksPicture(said)) {
                Answer decoded = ask(source, stillsRate, Headers.WITHOUT, ProbeQuestions.firstPictures(), cancellation);
                reader.takePicture(decoded.reader);
            }
        }
        return new Inspection.Known(reader.facts(source, bytes, stillsRate, said, disagreements, complaints));
    }

    /// The index tables of MXF list every picture. Those that say nothing of reordering are believed for MPEG-2,
    /// whose writers fill them in; for other codecs the decoder is asked.
    private static boolean readMxfIndex(Path file, ProbeReader reader) throws IOException {
        if (!MxfHeader.isLikely(head(file)) || !reader.needsLongerWindow()) {
            return false;
        }
        Optional<FrameStructure> listed = MxfHeader.structure(file)
                .filter(found -> found.reorderDepth() > 0
                        || reader.codec()
                                .filter(c -> c.name().equals("mpeg2video"))
                                .isPresent());
        listed.ifPresent(reader::setStructure);
        return listed.isPresent();
    }

    private Inspection lookAtStills(ClipSource.NumberedStills stills, FrameRate rate, Cancellation cancellation)
            throws IOException, InterruptedException {
        Answer answer = ask(stills, rate, Headers.WITH, ProbeQuestions.packets(1), cancellation);
        Optional<Inspection> broken = broken(stills, answer);
        if (broken.isPresent()) {
            return broken.get();
        }
        var complaints = new ArrayList<>(plainComplaints(answer.ending.lastLines()));
        if (!stills.missing().isEmpty()) {
            complaints.add(stills.missing().size() + " of " + stills.count() + " stills are missing: "
                    + stills.missingLabel());
        }
        ClipFacts facts = answer.reader.facts(
                stills, totalBytes(stills), rate, StatedPicture.NOTHING, new Disagreements(), complaints);
        return new Inspection.Known(
                stating(facts.withComplaints(otherSizes(stills, facts)), CameraSays.of(stills.head())));
    }

    private static List<String> otherSizes(ClipSource.NumberedStills stills, ClipFacts facts) throws IOException {
        Optional<Raster> wanted = facts.video().map(VideoFacts::raster);
        int others = 0;
        String first = "";
        for (Path file : stills.files()) {
            Optional<Raster> raster = StillHeader.raster(file);
            if (raster.isPresent() && !raster.equals(wanted)) {
                first = others++ == 0 ? file.getFileName() + " is " + raster.get() : first;
            }
        }
        return others == 0
                ? List.of()
                : List.of(
                        others + " of " + stills.files().size() + " stills have another size than the first: " + first);
    }

    private Inspection lookAtParts(ClipSource.Spanned spanned, FrameRate stillsRate, Cancellation cancellation)
            throws IOException, InterruptedException {
        var parts = new ArrayList<ClipFacts>();
        for (Path part : spanned.parts()) {
            switch (lookAtFile(new ClipSource.SingleFile(part), stillsRate, cancellation)) {
                case Inspection.Known known -> parts.add(known.facts());
                case Inspection.Unreadable bad -> {
                    return bad;
                }
            }
        }
        return new Inspection.Known(joined(spanned, parts));
    }

    /// The facts of a recording in several files. Put one behind the other they begin where the first of
    /// their streams begins, which compressed sound does a little before the picture.
    ///
    /// @param parts facts of each of its files
    public ClipFacts joined(ClipSource.Spanned spanned, List<ClipFacts> parts)
            throws IOException, InterruptedException {
        ClipFacts facts = SpannedFacts.join(parts);
        Answer answer = ask(spanned, FrameRate.FPS_25, Headers.WITH, List.of(), new Cancellation());
        return answer.ending.isGood()
                ? facts.withVideo(facts.video()
                        .map(video -> video.withFrames(video.frames()
                                .reached(answer.reader.firstAt(), video.frames().reach()))))
                : facts;
    }

    private static Optional<Inspection> broken(ClipSource source, Answer answer) {
        if (answer.ending.cut() == Cut.CANCELLED) {
            return Optional.of(unreadable(source, "looking was cancelled"));
        }
        if (answer.ending.cut() == Cut.SILENT) {
            return Optional.of(unreadable(source, "the media engine did not answer within a minute"));
        }
        return answer.ending.isGood() && answer.reader.hasStreams()
                ? Optional.empty()
                : Optional.of(unreadable(source, reason(answer.ending)));
    }

    private record Answer(Ending ending, ProbeReader reader) {}

    private enum Headers {
        WITH,
        WITHOUT
    }

    private Answer ask(
            ClipSource source, FrameRate stillsRate, Headers headers, List<String> shown, Cancellation cancellation)
            throws IOException, InterruptedException {
        var arguments = new ArrayList<String>(List.of("-v", "error", "-hide_banner", "-of", "json=c=1"));
        if (headers == Headers.WITH) {
            arguments.addAll(List.of("-show_format", "-show_streams"));
        }
        arguments.addAll(shown);
        arguments.addAll(MediaEngine.input(source, Optional.of(stillsRate)));
        var reader = new ProbeReader(engine.pixelFormats());
        Ending ending = engine.probe(arguments, reader::read, cancellation);
        return new Answer(ending, reader);
    }

    private static long totalBytes(ClipSource source) throws IOException {
        long total = 0;
        for (Path file : source.files()) {
            total += Files.size(file);
        }
        return total;
    }

    /// Cheap checks whose answer is clearer than the engine's.
    private static Optional<String> reasonBeforeLooking(ClipSource source) throws IOException {
        Path file = source.head();
        if (!Files.isRegularFile(file)) {
            return Optional.of(Files.exists(file) ? "it is not a file" : "it is not there");
        }
        if (Files.size(file) == 0) {
            return Optional.of("the file is empty");
        }
        return looksLikeText(head(file)) ? Optional.of("it is text, not media") : Optional.empty();
    }

    private static byte[] head(Path file) throws IOException {
        try (var in = Files.newInputStream(file)) {
            return in.readNBytes(512);
        }
    }

    private static boolean looksLikeText(byte[] head) {
        String text = new String(head, StandardCharsets.UTF_8);
        return !text.isEmpty()
                && text.chars()
                        .limit(Math.max(1, text.length() - 1))
                        .allMatch(c -> (c >= ' ' && c != 0xFFFD) || c == '\n' || c == '\r' || c == '\t');
    }

    private static String reason(Ending ending) {
        String all = String.join(" ", ending.lastLines());
        String lower = all.toLowerCase(Locale.ROOT);
        if (lower.contains("moov atom not found")) {
            return "its index is missing: the recording or the copy of it was cut off";
        }
        if (lower.contains("format not on whitelist") || lower.contains("not in whitelist")) {
            return "its kind of file is not opened here, because it can name other files or network addresses";
        }
        if (lower.contains("invalid data found") || lower.contains("could not find codec parameters")) {
            return "it is damaged or not media";
        }
        if (lower.contains("permission denied")) {
            return "this account may not open it";
        }
        if (all.isBlank()) {
            return "no picture and no sound was found in it";
        }
        return "the media engine says: " + String.join(" | ", plainComplaints(ending.lastLines()));
    }

    /// Error lines, the same line once.
    private static List<String> plainComplaints(List<String> lines) {
        return lines.stream()
                .filter(line -> !line.isBlank())
                .distinct()
                .limit(8)
                .toList();
    }

    private static Inspection unreadable(ClipSource source, String why) {
        return new Inspection.Unreadable(new Problem(
                "Cannot read " + source.head(), why, UNTOUCHED, "Copy it again from the card, or leave it out."));
    }
}
