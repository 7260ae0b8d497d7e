package docksort.dispatch;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.media.Raster;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.BooleanSupplier;
import java.util.stream.Collectors;

/// The check before a timeline leaves. Every condition is looked at on the disk and in the timeline as
/// they are now; nothing is remembered from when it was switched.
///
/// @param purpose what it leaves for
/// @param findings what is not as it must be, and remarks
/// @param files every file that the timeline leads to, with its checksum where that was asked for
/// @param events how many events were looked at
/// @param complete whether it was carried out to its end
/// @param evidence what it looked at, as it was when the check began
public record DepartureCheck(
        Purpose purpose, List<Finding> findings, List<FileSum> files, int events, boolean complete, Evidence evidence) {
    public DepartureCheck {
        findings = List.copyOf(findings);
        files = List.copyOf(files);
    }

    /// What a timeline leaves for.
    public enum Purpose {
        FINISHING("finishing, on originals"),
        /// Copies are meant to be seen.
        REVIEW("a review, on copies");

        private final String label;

        Purpose(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /// What has to hold.
    public enum Condition {
        KNOWN("known", "Every event's recording is known for certain"),
        ON_ORIGINALS("on originals", "Every event leads to its original"),
        THERE("there", "Every file is there"),
        UNCHANGED("unchanged", "Originals are what their copies were made from"),
        RANGE("frames", "Recordings have the frames that are used, and the handles"),
        AS_CUT("as cut", "Rate, raster, aspect and colour are those that were cut with"),
        FIRST_HAND("first hand", "No original is itself a copy"),
        DELIVERY_RASTER("delivery raster", "The timeline has the raster of the delivery"),
        FRESH_COPIES("copies fit", "No event is on a copy that may not serve");

        private final String title;
        private final String label;

        Condition(String title, String label) {
            this.title = title;
            this.label = label;
        }

        /// In a word or two.
        public String title() {
            return title;
        }

        /// As a sentence that holds or not.
        public String label() {
            return label;
        }
    }

    /// Something that is not as it must be, or should be known.
    ///
    /// @param event number of the event, 0 for the timeline itself
    /// @param subject the event's name, or the timeline's
    /// @param blocks whether the timeline may not leave with it
    public record Finding(Condition condition, int event, String subject, String words, boolean blocks) {}

    /// @param sum XXH64, empty where it was not asked for
    public record FileSum(Path file, long bytes, String sum) {}

    /// What the check rests on.
    ///
    /// @param forms what cuts counted on, by clip, as [CutForm#text]
    /// @param timeline raster of the project's timeline
    /// @param delivery raster of what is delivered; empty where nobody has said it yet
    /// @param handles frames wanted before and after what is used
    /// @param sums whether checksums of all files are taken, which reads all of them
    public record Ground(
            Map<ClipId, String> forms, Raster timeline, Optional<Raster> delivery, long handles, boolean sums) {}

    /// What has changed since, in a sentence; empty when a check would look at the same.
    public Optional<String> changesUntil(Conform now, Ground nowOn) {
        return Evidence.of(now, purpose, nowOn).changes(evidence);
    }

    public boolean passes() {
        return complete && findings.stream().noneMatch(Finding::blocks);
    }

    public boolean failed(Condition condition) {
        return findings.stream().anyMatch(finding -> finding.condition == condition && finding.blocks);
    }

    /// How many findings block, by condition.
    public Map<Condition, Long> blocking() {
        return findings.stream()
                .filter(Finding::blocks)
                .collect(Collectors.groupingBy(
                        Finding::condition, () -> new EnumMap<>(Condition.class), Collectors.counting()));
    }

    /// @param progress hears how many recordings of how many are done
    /// @param cancelled asked while files are read
    public static DepartureCheck of(
            Conform conform,
            Purpose purpose,
            Ground ground,
            BiConsumer<Integer, Integer> progress,
            BooleanSupplier cancelled) {
        return new DepartureLook(conform, purpose, ground, cancelled).carryOut(progress);
    }

    /// What clips a cut counts on now, for the record.
    public static Map<ClipId, String> formsOf(List<Clip> clips) {
        Map<ClipId, String> forms = new LinkedHashMap<>();
        for (Clip clip : clips) {
            CutForm.of(clip).ifPresent(form -> forms.put(clip.id(), form.text()));
        }
        return forms;
    }
}
