package docksort.timeline;

import com.fasterxml.jackson.databind.JsonNode;
import docksort.media.FrameRate;
import docksort.media.Rational;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Optional;

/// Values of OpenTimelineIO JSON: schemas, times, rates.
final class OtioValues {
    static final int DEEPEST = 200;

    private OtioValues() {}

    static String schema(JsonNode node) {
        return node.path("OTIO_SCHEMA").asText("");
    }

    static Optional<Rational> seconds(JsonNode time) {
        return rateOf(time)
                .flatMap(rate -> number(time.path("value")).flatMap(value -> {
                    try {
                        return Optional.of(value.dividedBy(rate.exact()));
                    } catch (ArithmeticException e) {
                        return Optional.empty();
                    }
                }));
    }

    /// Rates are written as floating point: 23.976023976023978 is 24000/1001.
    static Optional<FrameRate> rateOf(JsonNode time) {
        try {
            return number(time.path("rate"))
                    .filter(Rational::isPositive)
                    .map(rate -> FrameRate.parse(new BigDecimal(rate.numerator())
                            .divide(new BigDecimal(rate.denominator()), 6, RoundingMode.HALF_EVEN)
                            .toPlainString()));
        } catch (IllegalArgumentException | ArithmeticException e) {
            return Optional.empty();
        }
    }

    static Optional<Rational> number(JsonNode node) {
        boolean endless = node.isFloatingPointNumber() && !Double.isFinite(node.doubleValue());
        if (!node.isNumber() || endless) {
            return Optional.empty();
        }
        BigDecimal value = node.decimalValue();
        // What 64 bits cannot count in millionths is no time of a timeline; a large exponent is not even tried.
        if (value.precision() - value.scale() > 12) {
            return Optional.empty();
        }
        return Optional.of(
                Rational.parse(value.setScale(6, RoundingMode.HALF_EVEN).toPlainString()));
    }

    static long frames(JsonNode time) {
        return number(time.path("value")).map(Rational::rounded).orElse(0L);
    }

    static Rational duration(JsonNode node, int depth) {
        Optional<Rational> stated = seconds(node.path("source_range").path("duration"));
        if (stated.isPresent()) {
            return stated.get();
        }
        String schema = schema(node);
        Rational length = Rational.ZERO;
        if (schema.startsWith("Clip.")) {
            return seconds(OtioReferences.active(node).path("available_range").path("duration"))
                    .orElse(length);
        }
        if (depth > DEEPEST) {
            return length;
        }
        for (JsonNode child : node.path("children")) {
            Rational of = duration(child, depth + 1);
            if (schema.startsWith("Track.")) {
                length = length.plus(of);
            } else if (of.compareTo(length) > 0) {
                length = of;
            }
        }
        return length;
    }
}
