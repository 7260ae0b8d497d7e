package docksort.desktop.arrivals;

import docksort.arrival.Whereabouts;
import docksort.desktop.parts.Typed;
import docksort.desktop.parts.Words;
import docksort.desktop.workshop.Insight;
import docksort.media.ByteSize;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import docksort.strain.TimelineFormat;
import docksort.strain.Verdict;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;

/// What came in at one glance, where it lies, and what the project's timeline is and could be.
final class ArrivalModel {
    private static final int SHOWN = 6;
    private static final int TWINS = 5;

    private final List<ClipRow.Known> rows;
    private final int asideFiles;

    /// A fact, with its name.
    record Fact(String name, String value) {}

    /// A volume that clips lie on.
    record VolumeLine(String name, String kind, String room, String speed) {}

    /// Duplicates, the first few, and how many there are besides.
    record Twins(List<String> labels, int more) {
        Twins {
            labels = List.copyOf(labels);
        }
    }

    /// @param rows what the list shows
    /// @param asideFiles files that are not footage
    ArrivalModel(List<ClipRow.Known> rows, int asideFiles) {
        this.rows = List.copyOf(rows);
        this.asideFiles = asideFiles;
    }

    String summary() {
        if (rows.isEmpty()) {
            return "Nothing in this scope.";
        }
        double seconds = rows.stream()
                .mapToDouble(row -> row.clip().facts().seconds().toDouble())
                .sum();
        long bytes = rows.stream()
                .mapToLong(row -> row.clip().facts().size().bytes())
                .sum();
        return rows.size() + (rows.size() == 1 ? " clip, " : " clips, ")
                + Words.of(Duration.ofSeconds(Math.round(seconds))) + ", " + new ByteSize(bytes);
    }

    SortedMap<Verdict, Long> verdicts() {
        return rows.stream().collect(Collectors.groupingBy(ClipRow::verdict, TreeMap::new, Collectors.counting()));
    }

    List<Fact> facts() {
        if (rows.isEmpty()) {
            return List.of();
        }
        var facts = new ArrayList<Fact>();
        facts.add(mix("Codecs", video -> video.codec().family()));
        facts.add(mix("Rates", video -> video.rate().label() + (video.rateKind() == RateKind.VARIABLE ? " VFR" : "")));
        facts.add(mix("Rasters", video -> video.raster().toString()));
        facts.add(mix(
                "Pixel aspect",
                video -> video.isSquare() ? "square" : video.pixelAspect().toString()));
        facts.add(mix("Depth, chroma", video -> video.pixels().label()));
        facts.add(mix("Colour", video -> stated(video.colour().primaries())));
        long differ = rows.stream().filter(ClipRow.Known::differs).count();
        facts.add(new Fact("Differ", differ + " of " + rows.size() + " from the project's timeline"));
        if (asideFiles > 0) {
            facts.add(new Fact(
                    "Left aside",
                    asideFiles + (asideFiles == 1 ? " file that is" : " files that are")
                            + " not footage: sidecars, notes, strays"));
        }
        return facts;
    }

    private static String stated(String primaries) {
        return primaries.isEmpty() ? "not stated" : primaries;
    }

    /// How often each value occurs, the most frequent first.
    private Fact mix(String name, Function<VideoFacts, String> value) {
        Map<String, Long> counts = rows.stream()
                .flatMap(row -> row.video().stream())
                .collect(Collectors.groupingBy(value, Collectors.counting()));
        if (counts.isEmpty()) {
            return new Fact(name, "–");
        }
        String words = counts.entrySet().stream()
                .sorted(Map.Entry.<String, Long>comparingByValue(Comparator.reverseOrder())
                        .thenComparing(Map.Entry.comparingByKey()))
                .limit(SHOWN)
                .map(entry -> entry.getKey() + " ×" + entry.getValue())
                .collect(Collectors.joining(", "));
        int more = counts.size() - SHOWN;
        return new Fact(name, words + (more > 0 ? " and " + more + " more" : ""));
    }

    /// The timeline with a raster as typed; empty where that is none.
    static Optional<TimelineFormat> withRaster(TimelineFormat format, String typed) {
        return typed.isBlank() || Typed.raster(typed).isPresent()
                ? Optional.empty()
                : Optional.of(with(format, Raster.parse(typed), format.pixelAspect()));
    }

    /// The timeline with a pixel aspect as typed; empty where that is none.
    static Optional<TimelineFormat> withPixelAspect(TimelineFormat format, String typed) {
        return Typed.pixelAspect(typed).isPresent()
                ? Optional.empty()
                : Optional.of(with(format, format.raster(), Rational.parse(typed.strip())));
    }

    private static TimelineFormat with(TimelineFormat format, Raster raster, Rational aspect) {
        return new TimelineFormat(raster, format.rate(), aspect, format.primaries(), format.samplesPerSecond());
    }

    static TimelineFormat withRate(TimelineFormat format, FrameRate rate) {
        return new TimelineFormat(
                format.raster(), rate, format.pixelAspect(), format.primaries(), format.samplesPerSecond());
    }

    static TimelineFormat withPrimaries(TimelineFormat format, String primaries) {
        return new TimelineFormat(
                format.raster(), format.rate(), format.pixelAspect(), primaries, format.samplesPerSecond());
    }

    static TimelineFormat withSamples(TimelineFormat format, int samplesPerSecond) {
        return new TimelineFormat(
                format.raster(), format.rate(), format.pixelAspect(), format.primaries(), samplesPerSecond);
    }

    /// Why no volume is listed; empty where one is.
    ///
    /// @param clips how many clips the project has
    static Optional<String> noVolume(Whereabouts where, int clips) {
        if (!where.volumes().isEmpty() || !where.away().isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(clips == 0 ? "Nothing has come in yet." : "Volumes are being looked up…");
    }

    static VolumeLine volume(Whereabouts.OnVolume on, Insight insight) {
        var volume = on.volume();
        return new VolumeLine(
                ArrivalsModel.shortName(volume.name()),
                volume.kind() + ", " + volume.fileSystem() + (volume.system() ? ", the system's own" : ""),
                count(on.clips().size(), " clip") + ", " + on.bytes() + "; " + volume.free() + " of " + volume.total()
                        + " free",
                on.clips().stream()
                        .flatMap(clip -> insight.measured(clip).volumeBytesPerSecond().stream())
                        .findFirst()
                        .map(speed -> "read at " + speed.dividedBy(1e6).label() + " MB/s")
                        .orElse("read speed not measured"));
    }

    static Optional<String> away(Whereabouts where) {
        int away = where.away().size();
        return away == 0
                ? Optional.empty()
                : Optional.of(count(away, " clip") + (away == 1 ? " lies" : " lie") + " on a volume that is away.");
    }

    static Twins twins(Whereabouts where) {
        return new Twins(
                where.twins().stream()
                        .limit(TWINS)
                        .map(Whereabouts.Twins::label)
                        .toList(),
                Math.max(0, where.twins().size() - TWINS));
    }

    private static String count(int count, String what) {
        return count + what + (count == 1 ? "" : "s");
    }
}
