package docksort.media;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.RoundingMode;

/// An exact fraction in lowest terms with a positive denominator. It is what times and ratios are counted
/// in, because a `double` cannot hold 1/3 of a second or 30000/1001.
public record Rational(long numerator, long denominator) implements Comparable<Rational> {
    public static final Rational ZERO = new Rational(0, 1);
    private static final long SMALL = 1L << 31;

    public Rational {
        if (denominator == 0) {
            throw new IllegalArgumentException("denominator must not be zero: " + numerator + "/0");
        }
        long divisor = divisor(numerator, denominator);
        if (denominator < 0) {
            divisor = -divisor;
        }
        numerator /= divisor;
        denominator /= divisor;
    }

    public static Rational of(long whole) {
        return new Rational(whole, 1);
    }

    /// Reads `12`, `30000/1001` or a decimal such as `12.345`.
    ///
    /// @throws IllegalArgumentException when the text is none of these or does not fit 64 bits
    public static Rational parse(String text) {
        try {
            int slash = text.indexOf('/');
            if (slash < 0) {
                slash = text.indexOf(':');
            }
            if (slash >= 0) {
                return new Rational(
                        Long.parseLong(text.substring(0, slash)), Long.parseLong(text.substring(slash + 1)));
            }
            var decimal = new BigDecimal(text);
            if (decimal.scale() < 0) {
                decimal = decimal.setScale(0);
            }
            if (decimal.scale() > 17) {
                decimal = decimal.setScale(17, RoundingMode.HALF_EVEN);
            }
            return narrow(decimal.unscaledValue(), BigInteger.TEN.pow(decimal.scale()));
        } catch (NumberFormatException | ArithmeticException e) {
            throw new IllegalArgumentException("not a number or fraction: " + text, e);
        }
    }

    public Rational plus(Rational other) {
        if (isSmall() && other.isSmall()) {
            return new Rational(
                    numerator * other.denominator + other.numerator * denominator, denominator * other.denominator);
        }
        return narrow(
                big(numerator)
                        .multiply(big(other.denominator))
                        .add(big(other.numerator).multiply(big(denominator))),
                big(denominator).multiply(big(other.denominator)));
    }

    public Rational minus(Rational other) {
        return plus(new Rational(-other.numerator, other.denominator));
    }

    public Rational times(Rational other) {
        if (isSmall() && other.isSmall()) {
            return new Rational(numerator * other.numerator, denominator * other.denominator);
        }
        return narrow(
                big(numerator).multiply(big(other.numerator)), big(denominator).multiply(big(other.denominator)));
    }

    public Rational dividedBy(Rational other) {
        return times(new Rational(/* numerator= */ other.denominator, /* denominator= */ other.numerator));
    }

    public Rational absolute() {
        return numerator < 0 ? new Rational(-numerator, denominator) : this;
    }

    /// The nearest whole number, halves away from zero.
    public long rounded() {
        long half = numerator >= 0 ? denominator / 2 : -(denominator / 2);
        return big(numerator).add(big(half)).divide(big(denominator)).longValueExact();
    }

    /// The largest whole number that is not larger.
    public long floor() {
        return Math.floorDiv(numerator, denominator);
    }

    public boolean isPositive() {
        return numerator > 0;
    }

    /// For display and for figures that are estimates anyway; never fed back into a time.
    public double toDouble() {
        return (double) numerator / denominator;
    }

    @Override
    public int compareTo(Rational other) {
        if (isSmall() && other.isSmall()) {
            return Long.compare(numerator * other.denominator, other.numerator * denominator);
        }
        return big(numerator)
                .multiply(big(other.denominator))
                .compareTo(big(other.numerator).multiply(big(denominator)));
    }

    @Override
    public String toString() {
        return denominator == 1 ? Long.toString(numerator) : numerator + "/" + denominator;
    }

    /// Whether products and their sums fit 64 bits; nearly all times and rates do.
    private boolean isSmall() {
        return numerator < SMALL && numerator > -SMALL && denominator < SMALL;
    }

    /// The greatest common divisor (Euclid), of which one may be zero.
    private static long divisor(long one, long other) {
        if (one == Long.MIN_VALUE || other == Long.MIN_VALUE) {
            return big(one).gcd(big(other)).longValueExact(); // 64 bits cannot hold their absolute value
        }
        long larger = Math.abs(one);
        long rest = Math.abs(other);
        while (rest != 0) {
            long next = larger % rest;
            larger = rest;
            rest = next;
        }
        return larger;
    }

    private static BigInteger big(long value) {
        return BigInteger.valueOf(value);
    }

    private static Rational narrow(BigInteger numerator, BigInteger denominator) {
        BigInteger divisor = numerator.gcd(denominator);
        if (divisor.signum() == 0) {
            throw new IllegalArgumentException("denominator must not be zero");
        }
        return new Rational(
                numerator.divide(divisor).longValueExact(),
                denominator.divide(divisor).longValueExact());
    }
}
