package docksort.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigInteger;
import java.util.Random;
import org.junit.jupiter.api.Test;

/// Fractions against the platform's integers of any size.
class RationalTest {
    private static final BigInteger MOST = BigInteger.valueOf(Long.MAX_VALUE);

    private final Random random = new Random(4);

    /// Numbers of all lengths, so that short and long ways of reckoning are both taken.
    private long number() {
        return random.nextLong() >> random.nextInt(64);
    }

    private static BigInteger big(long value) {
        return BigInteger.valueOf(value);
    }

    private static boolean fits(BigInteger numerator, BigInteger denominator) {
        BigInteger divisor = numerator.gcd(denominator);
        return numerator.divide(divisor).abs().compareTo(MOST) <= 0
                && denominator.divide(divisor).abs().compareTo(MOST) <= 0;
    }

    private static void isFraction(Rational found, BigInteger numerator, BigInteger denominator) {
        assertThat(big(found.numerator()).multiply(denominator))
                .isEqualTo(big(found.denominator()).multiply(numerator));
        assertThat(found.denominator()).isPositive();
        assertThat(big(found.numerator()).gcd(big(found.denominator()))).isEqualTo(BigInteger.ONE);
    }

    @Test
    void sumsProductsAndOrderAreThoseOfIntegersOfAnySize() {
        int reckoned = 0;
        for (int i = 0; i < 20_000; i++) {
            long a = number();
            long b = number() | 1;
            long c = number();
            long d = number() | 1;
            var one = new Rational(a, b);
            var other = new Rational(c, d);
            isFraction(one, big(a), big(b));
            BigInteger bottom = big(b).multiply(big(d));
            BigInteger sum = big(a).multiply(big(d)).add(big(c).multiply(big(b)));
            BigInteger product = big(a).multiply(big(c));
            if (fits(sum, bottom) && fits(product, bottom)) {
                isFraction(one.plus(other), sum, bottom);
                isFraction(one.times(other), product, bottom);
                reckoned++;
            } else if (!fits(product, bottom)) {
                assertThatThrownBy(() -> one.times(other)).isInstanceOf(ArithmeticException.class);
            }
            BigInteger difference = big(a).multiply(big(d)).subtract(big(c).multiply(big(b)));
            int order = difference.signum() * bottom.signum();
            assertThat(Integer.signum(one.compareTo(other))).isEqualTo(order);
        }
        assertThat(reckoned).isGreaterThan(2_000);
    }

    @Test
    void theEndsOfWhat64BitsHoldAreReached() {
        assertThat(new Rational(Long.MIN_VALUE, 2)).isEqualTo(new Rational(Long.MIN_VALUE / 2, 1));
        assertThat(new Rational(Long.MAX_VALUE, Long.MAX_VALUE)).isEqualTo(Rational.of(1));
        assertThat(new Rational(0, -7)).isEqualTo(Rational.ZERO);
        assertThat(new Rational(3, -6)).isEqualTo(new Rational(-1, 2));
        assertThatThrownBy(() -> new Rational(1, 0)).isInstanceOf(IllegalArgumentException.class);
        assertThat(Rational.parse("30000/1001").dividedBy(Rational.parse("29.97")))
                .as("what a rounded rate is off by")
                .isEqualTo(new Rational(1_000_000, 999_999));
    }
}
