package docksort.index;

import java.nio.ByteBuffer;

/// Single bits, numbers and Exp-Golomb numbers (Rec. ITU-T H.264, 9.1). Behind the end every bit is 1, so that
/// no number can go on for ever; [#isSpent] tells.
final class Bits {
    private final ByteBuffer in;
    private int at;
    private boolean spent;

    Bits(ByteBuffer in) {
        this.in = in;
    }

    /// The payload of a unit, without the bytes that keep start codes out of it (H.264, 7.4.1).
    static Bits ofUnit(ByteBuffer unit) {
        ByteBuffer plain = ByteBuffer.allocate(unit.remaining());
        int zeros = 0;
        while (unit.hasRemaining()) {
            byte b = unit.get();
            if (zeros >= 2 && b == 3) {
                zeros = 0;
                continue;
            }
            zeros = b == 0 ? zeros + 1 : 0;
            plain.put(b);
        }
        return new Bits(plain.flip());
    }

    boolean isSpent() {
        return spent;
    }

    int next() {
        int index = at >> 3;
        if (index >= in.limit()) {
            spent = true;
            return 1;
        }
        return (in.get(index) >> (7 - (at++ & 7))) & 1;
    }

    boolean flag() {
        return next() == 1;
    }

    int number(int bits) {
        int value = 0;
        for (int i = 0; i < bits; i++) {
            value = value << 1 | next();
        }
        return value;
    }

    void skip(int bits) {
        for (int i = 0; i < bits; i++) {
            next();
        }
    }

    int exponential() {
        int zeros = 0;
        while (zeros < 30 && next() == 0) {
            zeros++;
        }
        return (1 << zeros) - 1 + number(zeros);
    }

    int signedExponential() {
        int value = exponential();
        return (value & 1) == 1 ? (value + 1) / 2 : -(value / 2);
    }

    void skipExponential(int times) {
        for (int i = 0; i < times && !spent; i++) {
            exponential();
        }
    }
}
