package docksort.desktop.arrivals;

import docksort.arrival.Clip;
import docksort.arrival.Unreadable;
import docksort.media.AudioStream;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.strain.Strain;
import docksort.strain.Verdict;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;

/// One line of the Arrivals table: a clip with its strain, or a file that cannot be read.
public sealed interface ClipRow {
    String name();

    String arrivalId();

    /// What the row is recognised by when the list is filled anew.
    String key();

    /// Where its first file lies.
    Path path();

    Verdict verdict();

    /// Whether a person put it aside.
    boolean isAside();

    /// The words that the filter looks through.
    String words();

    /// @param servedBy the kind of file that serves the clip now
    /// @param differences in what it differs from the project's timeline
    record Known(Clip clip, Strain strain, String servedBy, List<String> differences, boolean isAside)
            implements ClipRow {
        public Known {
            differences = List.copyOf(differences);
        }

        public boolean differs() {
            return !differences.isEmpty();
        }

        @Override
        public String name() {
            return clip.name();
        }

        @Override
        public String arrivalId() {
            return clip.arrival().value();
        }

        @Override
        public String key() {
            return clip.id().value();
        }

        @Override
        public Path path() {
            return clip.source().head();
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
            boolean raw = clip.facts().findings().outOfReach().isPresent();
            return video().map(v -> v.codec().label()).orElse(raw ? "camera raw" : "sound only");
        }

        /// The value, marked where the project's timeline has another.
        private String marked(String what, String value) {
            return differences.stream().anyMatch(text -> text.startsWith(what)) ? "≠ " + value : value;
        }

        String raster() {
            return marked("raster", of(v -> v.raster().toString()));
        }

        String rateLabel() {
            return marked("rate", of(v -> v.rate().label()));
        }

        String rate() {
            return of(v -> v.rate().label()
                    + switch (v.rateKind()) {
                        case CONSTANT -> "";
                        case VARIABLE -> " VFR";
                        case UNSTATED -> " ?";
                        case INTERPRETED -> " read as";
                    });
        }

        String rateKind() {
            return of(v -> switch (v.rateKind()) {
                case CONSTANT -> "CFR";
                case VARIABLE -> "VFR";
                case UNSTATED -> "say how";
                case INTERPRETED -> clip.facts().described().rate().isPresent() ? "as stated" : "as you said";
            });
        }

        String pixels() {
            return of(v -> v.pixels().label());
        }

        String structure() {
            return of(v -> {
                if (!v.structure().isKnown()) {
                    return clip.facts().container().equals("stills") ? "stills" : "not known";
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

        String sound() {
            List<AudioStream> streams = clip.facts().audio();
            return streams.isEmpty()
                    ? "–"
                    : streams.getFirst().label() + (streams.size() > 1 ? " + " + (streams.size() - 1) : "");
        }

        String length() {
            return String.format(Locale.ROOT, "%.1f s", clip.facts().seconds().toDouble());
        }
    }

    record Refused(Unreadable file, boolean isAside) implements ClipRow {
        @Override
        public String name() {
            return String.valueOf(file.file().getFileName());
        }

        @Override
        public String arrivalId() {
            return file.arrival().value();
        }

        @Override
        public String key() {
            return file.file().toString();
        }

        @Override
        public Path path() {
            return file.file();
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
