package docksort.dispatch;

import docksort.arrival.Clip;
import docksort.media.Colour;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// What a cut counts on when it uses copies: that the original comes back with this rate, raster, aspect and
/// colour.
record CutForm(FrameRate rate, Raster raster, Rational pixelAspect, int rotationDegrees, Colour colour) {

    /// @return empty for sound alone
    static Optional<CutForm> of(Clip clip) {
        return clip.facts().video().map(CutForm::of);
    }

    private static CutForm of(VideoFacts video) {
        return new CutForm(video.rate(), video.raster(), video.pixelAspect(), video.rotationDegrees(), video.colour());
    }

    /// As one line of text, for [#parse].
    String text() {
        return String.join(
                " ",
                rate.toString(),
                raster.width() + "x" + raster.height(),
                pixelAspect.toString(),
                Integer.toString(rotationDegrees),
                word(colour.primaries()),
                word(colour.transfer()),
                word(colour.matrix()),
                word(colour.range()));
    }

    private static String word(String text) {
        return text.isBlank() ? "-" : text.replace(' ', '_');
    }

    /// @return empty for anything else than what [#text] writes
    static Optional<CutForm> parse(String text) {
        String[] parts = text.split(" ", -1);
        if (parts.length != 8) {
            return Optional.empty();
        }
        try {
            return Optional.of(new CutForm(
                    FrameRate.parse(parts[0]),
                    Raster.parse(parts[1]),
                    Rational.parse(parts[2]),
                    Integer.parseInt(parts[3]),
                    new Colour(parts[4], parts[5], parts[6], parts[7])));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    /// What is otherwise in the original now, in words.
    List<String> differences(CutForm now) {
        var differences = new ArrayList<String>();
        differ(differences, "rate", rate.label(), now.rate.label());
        differ(differences, "raster", raster.toString(), now.raster.toString());
        differ(differences, "pixel aspect", pixelAspect.toString(), now.pixelAspect.toString());
        differ(differences, "rotation", rotationDegrees + "°", now.rotationDegrees + "°");
        differ(differences, "primaries", word(colour.primaries()), word(now.colour.primaries()));
        differ(differences, "transfer", word(colour.transfer()), word(now.colour.transfer()));
        differ(differences, "matrix", word(colour.matrix()), word(now.colour.matrix()));
        differ(differences, "range", word(colour.range()), word(now.colour.range()));
        return differences;
    }

    private static void differ(List<String> differences, String what, String before, String now) {
        if (!before.equals(now)) {
            differences.add(what + " was " + before + " and is " + now);
        }
    }
}
