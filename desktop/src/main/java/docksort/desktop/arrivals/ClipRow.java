package docksort.desktop.arrivals;

import docksort.arrival.Clip;
import docksort.arrival.Unreadable;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.strain.Strain;
import docksort.strain.Verdict;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;

/// One line of the Arrivals table: a clip with its strain, or a file that cannot be read.
public sealed interface ClipRow {
    String name();

    String arrivalId();

    Verdict verdict();

    /// The words that the filter looks through.
    String words();

    /// @param servedBy the kind of file that serves the clip now
    record Known(Clip clip, Strain strain, String servedBy, boolean differs) implements ClipRow {
        @Override
        public String name() {
            return clip.name();
        }

        @Override
        public String arrivalId() {
            return clip.arrival().value();
        }

        @Override
        public Verdict verdict() {
            return strain.verdict();
        }

        @Override
        public String words() {
            return (name() + " " + codec() + " " + raster() + " " + rate() + " " + pixels() + " " + structure() + " "
                            + clip.facts().container() + " " + verdict().label() + " " + servedBy + " " + timecode())
                    .toLowerCase(Locale.ROOT);
        }

        Optional<VideoFacts> video() {
            return clip.facts().video();
        }

        private String of(Function<VideoFacts, String> words) {
            return video().map(words).orElse("–");
        }

        String codec() {
            return video().map(v -> v.codec().label()).orElse("sound only");
        }

        String raster() {
            return of(v -> v.raster().toString());
        }

        String rate() {
            return of(v -> v.rate().label()
                    + switch (v.rateKind()) {
                        case CONSTANT -> "";
                        case VARIABLE -> " VFR";
                        case INTERPRETED -> " read as";
                    });
        }

        String rateKind() {
            return of(v -> switch (v.rateKind()) {
                case CONSTANT -> "CFR";
                case VARIABLE -> "VFR";
                case INTERPRETED -> "not stated";
            });
        }

        String pixels() {
            return of(v -> v.pixels().label());
        }

        String structure() {
            return of(v -> {
                if (!v.structure().isKnown()) {
                    return "stills";
                }
                return v.structure().isAllIntra()
                        ? "all-intra"
                        : "long-GOP, key every "
                                + v.structure().keyframeInterval().meanFrames().rounded();
            });
        }

        String scrub() {
            return strain.scrubCost()
                    .map(cost -> cost.meanLabel() + " / " + cost.worst())
                    .orElse("–");
        }

        String timecode() {
            return clip.facts().startTimecode().map(Timecode::toString).orElse("–");
        }

        String length() {
            return String.format(Locale.ROOT, "%.1f s", clip.facts().seconds().toDouble());
        }
    }

    record Refused(Unreadable file) implements ClipRow {
        @Override
        public String name() {
            return String.valueOf(file.file().getFileName());
        }

        @Override
        public String arrivalId() {
            return file.arrival().value();
        }

        @Override
        public Verdict verdict() {
            return Verdict.OUT_OF_REACH;
        }

        @Override
        public String words() {
            return (name() + " unreadable out of reach " + file.problem().why()).toLowerCase(Locale.ROOT);
        }
    }
}
