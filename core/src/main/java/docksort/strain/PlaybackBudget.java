package docksort.strain;

import docksort.media.CopyForm;
import docksort.media.VideoTarget;
import java.util.Locale;
import java.util.Optional;

/// Whether several streams of one kind of copy play at once: what they need of a volume and of decoding, against
/// what was measured.
///
/// @param streams how many play at once
/// @param bytesPerSecond what one of them reads
/// @param pixelsPerSecond what one of them decodes
/// @param volume bytes a second that the volume was read with, empty where not measured
/// @param decoding pixels a second of this codec that the machine decodes, empty where not measured
public record PlaybackBudget(
        int streams,
        double bytesPerSecond,
        double pixelsPerSecond,
        Optional<Double> volume,
        Optional<Double> decoding) {
    private static final double COMFORT = 0.7; // what may be planned of a measured figure (common practice, no source)

    /// @param frameBytes bytes of one frame with its sound
    public static PlaybackBudget of(
            int streams, CopyForm form, double frameBytes, Optional<Double> volume, Optional<BayProfile> bay) {
        double rate = form.rate().exact().toDouble();
        Optional<VideoTarget> target = form.target();
        return new PlaybackBudget(
                streams,
                frameBytes * rate,
                form.raster().pixels() * rate,
                volume.or(() -> bay.map(BayProfile::readBytesPerSecond).filter(speed -> speed > 0)),
                bay.flatMap(b -> target.flatMap(b::pixels)));
    }

    /// Share of the volume's measured speed that is needed.
    public Optional<Double> volumeShare() {
        return volume.map(speed -> streams * bytesPerSecond / speed);
    }

    /// Share of the machine's measured decoding that is needed.
    public Optional<Double> decodingShare() {
        return decoding.map(speed -> streams * pixelsPerSecond / speed);
    }

    public boolean fits() {
        return volumeShare().orElse(0.0) <= COMFORT && decodingShare().orElse(0.0) <= COMFORT;
    }

    /// How many streams fit, empty where nothing was measured.
    public Optional<Integer> most() {
        double limit = Double.POSITIVE_INFINITY;
        if (volume.isPresent()) {
            limit = Math.min(limit, COMFORT * volume.get() / bytesPerSecond);
        }
        if (decoding.isPresent()) {
            limit = Math.min(limit, COMFORT * decoding.get() / pixelsPerSecond);
        }
        return Double.isInfinite(limit) ? Optional.empty() : Optional.of((int) Math.min(999, limit));
    }

    /// "3 streams need 27.4 MB/s of 480 measured and 12 % of the decoding: plays"
    public String sentence() {
        String need = String.format(
                Locale.ROOT,
                "%d %s %.1f MB/s%s%s",
                streams,
                streams == 1 ? "stream needs" : "streams need",
                streams * bytesPerSecond / 1e6,
                volume.map(v -> String.format(Locale.ROOT, " of %.0f measured", v / 1e6))
                        .orElse(" (volume not measured)"),
                decodingShare()
                        .map(share -> String.format(Locale.ROOT, " and %.0f %% of the decoding", share * 100))
                        .orElse(" (decoding not measured)"));
        if (volume.isEmpty() && decoding.isEmpty()) {
            return need;
        }
        return need
                + (fits() ? ": plays" : ": too much")
                + most().map(n -> ", at most " + n).orElse("");
    }
}
