package docksort.index;

import com.drew.imaging.tiff.TiffProcessingException;
import com.drew.imaging.tiff.TiffReader;
import com.drew.lang.RandomAccessFileReader;
import com.drew.metadata.Directory;
import com.drew.metadata.Metadata;
import com.drew.metadata.exif.ExifDirectoryBase;
import com.drew.metadata.exif.ExifTiffHandler;
import com.drew.metadata.xmp.XmpDirectory;
import com.drew.metadata.xmp.XmpReader;
import docksort.media.Described;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.regex.Pattern;

/// What a recording states besides its picture: in its own tags, or in a sidecar beside it.
///
/// Sources: TIFF/EP and Exif (read by a library); CinemaDNG image data format, tags TimeCodes 51043
/// (SMPTE ST 331, eight bytes a code), FrameRate 51044 and ReelName 51081; XMP part 2, dynamic media
/// namespace.
///
/// @param described what timelines count on
/// @param notes what else it says, by the trade's name
public record CameraSays(Described described, Optional<String> recordedAt, Map<String, String> notes) {
    public static final CameraSays NOTHING = new CameraSays(Described.NOTHING, Optional.empty(), Map.of());

    private static final int TIME_CODES = 51_043;
    private static final int FRAME_RATE = 51_044;
    private static final int REEL_NAME = 51_081;
    private static final int DROP_FRAME = 0x40;
    private static final int PHOTOMETRIC = ExifDirectoryBase.TAG_PHOTOMETRIC_INTERPRETATION;
    private static final int COLOUR_FILTER = 32_803; // TIFF/EP

    private static final long LARGEST_SIDECAR = 4L * 1024 * 1024;
    private static final int LONGEST = 120;
    private static final String DYNAMIC = "xmpDM:";
    private static final Pattern DECLARATION = Pattern.compile("<!(DOCTYPE|ENTITY)", Pattern.CASE_INSENSITIVE);

    public CameraSays {
        notes = Map.copyOf(notes);
    }

    /// The same, and where it is silent what another says.
    public CameraSays or(CameraSays other) {
        var all = new TreeMap<>(other.notes);
        all.putAll(notes);
        return new CameraSays(described.or(other.described), recordedAt.or(() -> other.recordedAt), all);
    }

    /// Everything in one list.
    public Map<String, String> tags() {
        var all = new TreeMap<>(notes);
        all.putAll(described.tags());
        return all;
    }

    /// What a file in the form of TIFF says of itself.
    ///
    /// @return nothing when it is not one, or cannot be read as one
    public static CameraSays of(Path file) {
        try {
            if (!isTiff(file)) {
                return NOTHING;
            }
            var metadata = new Metadata();
            try (var bytes = new RandomAccessFile(file.toFile(), "r")) {
                new TiffReader()
                        .processTiff(new RandomAccessFileReader(bytes), new ExifTiffHandler(metadata, null, 0), 0);
            } catch (TiffProcessingException e) {
                // What was read up to there counts.
            }
            return read(metadata, StillHeader.raster(file));
        } catch (IOException e) {
            return NOTHING;
        }
    }

    /// What a sidecar of its name says: `K0042.xmp` or `K0042.r3d.xmp` beside `K0042.r3d`.
    public static CameraSays besides(Path file) {
        String name = String.valueOf(file.getFileName());
        int dot = name.lastIndexOf('.');
        String stem = dot > 0 ? name.substring(0, dot) : name;
        for (String sidecar : List.of(name + ".xmp", stem + ".xmp", stem + ".XMP")) {
            Path there = file.resolveSibling(sidecar);
            if (Files.isRegularFile(there)) {
                return sidecar(there);
            }
        }
        return NOTHING;
    }

    private static boolean isTiff(Path file) throws IOException {
        try (var in = Files.newInputStream(file)) {
            byte[] head = in.readNBytes(4);
            String magic = new String(head, StandardCharsets.ISO_8859_1);
            return magic.equals("II*\0") || magic.equals("MM\0*");
        }
    }

    private static CameraSays read(Metadata metadata, Optional<Raster> raster) {
        Map<String, String> notes = new TreeMap<>();
        note(notes, "camera", words(metadata, ExifDirectoryBase.TAG_MODEL));
        note(notes, "camera maker", words(metadata, ExifDirectoryBase.TAG_MAKE));
        note(notes, "lens", words(metadata, ExifDirectoryBase.TAG_LENS_MODEL));
        note(notes, "exposure", words(metadata, ExifDirectoryBase.TAG_EXPOSURE_TIME));
        note(notes, "aperture", words(metadata, ExifDirectoryBase.TAG_FNUMBER));
        note(notes, "ISO", words(metadata, ExifDirectoryBase.TAG_ISO_EQUIVALENT));
        boolean sensors = metadata.getDirectoriesOfType(ExifDirectoryBase.class).stream()
                .anyMatch(directory -> Objects.equals(directory.getInteger(PHOTOMETRIC), COLOUR_FILTER));
        if (sensors) {
            notes.put("picture", "as the sensor saw it: linear light, colours not balanced");
        }
        Optional<String> date = words(metadata, ExifDirectoryBase.TAG_DATETIME_ORIGINAL)
                .or(() -> words(metadata, ExifDirectoryBase.TAG_DATETIME));
        return new CameraSays(
                new Described(
                        raster,
                        first(metadata, FRAME_RATE, directory -> directory.getRational(FRAME_RATE))
                                .flatMap(stated -> rate(stated.getNumerator(), stated.getDenominator())),
                        Optional.empty(),
                        first(metadata, TIME_CODES, directory -> directory.getByteArray(TIME_CODES))
                                .flatMap(CameraSays::timecode),
                        first(metadata, REEL_NAME, directory -> directory.getString(REEL_NAME))
                                .flatMap(CameraSays::plain)),
                date,
                notes);
    }

    /// Cameras write 24000/1001 also as 23976/1000.
    private static Optional<FrameRate> rate(long numerator, long denominator) {
        boolean stated = numerator > 0 && denominator > 0 && numerator / denominator < 1_000;
        return stated
                ? Optional.of(FrameRate.parse(String.format(Locale.ROOT, "%.4f", (double) numerator / denominator)))
                : Optional.empty();
    }

    /// The first code of a list. Tens and units are in four bits each.
    private static Optional<String> timecode(byte[] code) {
        if (code.length < 8) {
            return Optional.empty();
        }
        String mark = (code[0] & DROP_FRAME) == 0 ? ":" : ";";
        String text = String.format(
                Locale.ROOT,
                "%x%x:%x%x:%x%x%s%x%x",
                code[3] >> 4 & 3,
                code[3] & 15,
                code[2] >> 4 & 7,
                code[2] & 15,
                code[1] >> 4 & 7,
                code[1] & 15,
                mark,
                code[0] >> 4 & 3,
                code[0] & 15);
        return text.matches("\\d\\d:[0-5]\\d:[0-5]\\d[:;]\\d\\d") ? Optional.of(text) : Optional.empty();
    }

    /// Sidecars are other people's: one that declares a document type is not read, because that could
    /// lead elsewhere or grow without end.
    private static CameraSays sidecar(Path file) {
        try {
            if (Files.size(file) > LARGEST_SIDECAR) {
                return NOTHING;
            }
            byte[] bytes = Files.readAllBytes(file);
            String text = new String(bytes, StandardCharsets.ISO_8859_1).replace("\0", "");
            if (DECLARATION.matcher(text).find()) {
                return NOTHING;
            }
            var metadata = new Metadata();
            new XmpReader().extract(bytes, metadata);
            Map<String, String> says = new TreeMap<>();
            metadata.getDirectoriesOfType(XmpDirectory.class)
                    .forEach(directory -> says.putAll(directory.getXmpProperties()));
            return sidecar(says);
        } catch (IOException e) {
            return NOTHING;
        }
    }

    private static CameraSays sidecar(Map<String, String> says) {
        Optional<FrameRate> rate = value(says, DYNAMIC + "videoFrameRate", FrameRate::parse);
        Optional<Raster> raster = value(
                says,
                DYNAMIC + "videoFrameSize/stDim:w",
                width -> Raster.parse(width + "x" + says.getOrDefault(DYNAMIC + "videoFrameSize/stDim:h", "")));
        Optional<Long> frames = rate.flatMap(fps -> value(says, DYNAMIC + "duration/xmpDM:value", Long::parseLong)
                .flatMap(count -> value(
                        says,
                        DYNAMIC + "duration/xmpDM:scale",
                        scale -> fps.framesIn(Rational.of(count).times(Rational.parse(scale))))));
        Map<String, String> notes = new TreeMap<>();
        note(notes, "camera", Optional.ofNullable(says.get("tiff:Model")));
        note(notes, "camera maker", Optional.ofNullable(says.get("tiff:Make")));
        note(notes, "lens", Optional.ofNullable(says.get("aux:Lens")));
        note(notes, "scene", Optional.ofNullable(says.get(DYNAMIC + "scene")));
        note(notes, "take", Optional.ofNullable(says.get(DYNAMIC + "takeNumber")));
        return new CameraSays(
                new Described(
                        raster,
                        rate,
                        frames.filter(count -> count > 0 && count < 20_000_000),
                        Optional.ofNullable(says.get(DYNAMIC + "startTimecode/xmpDM:timeValue"))
                                .filter(text -> text.matches("\\d\\d:[0-5]\\d:[0-5]\\d[:;]\\d\\d")),
                        Optional.ofNullable(says.get(DYNAMIC + "tapeName")).flatMap(CameraSays::plain)),
                Optional.ofNullable(says.get("xmp:CreateDate")).flatMap(CameraSays::plain),
                notes);
    }

    private static <T> Optional<T> value(Map<String, String> says, String name, Function<String, T> reader) {
        try {
            return Optional.ofNullable(says.get(name)).map(reader);
        } catch (IllegalArgumentException | ArithmeticException e) {
            return Optional.empty(); // somebody else's words
        }
    }

    private static <T> Optional<T> first(Metadata metadata, int tag, Function<Directory, T> reader) {
        for (Directory directory : metadata.getDirectories()) {
            if (directory instanceof ExifDirectoryBase && directory.containsTag(tag)) {
                return Optional.ofNullable(reader.apply(directory));
            }
        }
        return Optional.empty();
    }

    private static Optional<String> words(Metadata metadata, int tag) {
        return first(metadata, tag, directory -> directory.getDescription(tag)).flatMap(CameraSays::plain);
    }

    /// One line, not overlong.
    private static Optional<String> plain(String text) {
        String line = text.strip().replaceAll("\\p{Cntrl}", " ");
        return line.isEmpty() ? Optional.empty() : Optional.of(line.substring(0, Math.min(LONGEST, line.length())));
    }

    private static void note(Map<String, String> notes, String name, Optional<String> words) {
        words.flatMap(CameraSays::plain).ifPresent(said -> notes.put(name, said));
    }
}
