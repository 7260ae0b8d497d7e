package docksort.look;

import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.media.Look;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.Optional;
import java.util.function.DoubleUnaryOperator;

/// A look as it is laid over pictures on the screen, so that an original is seen as its copy has it. Immutable.
public final class ShownLook {
    private static final int LEVELS = 256;
    private static final int BYTES = 4; // blue, green, red, alpha

    private final double[] red;
    private final double[] green;
    private final double[] blue;
    private final double saturation;
    private final Optional<LookTable> table;

    /// @param table the look's, where it has one
    public ShownLook(Look look, Optional<LookTable> table) {
        ColourDecision values = look.decision().orElse(ColourDecision.NONE);
        List<double[]> curves =
                List.of(curve(values, Channels::red), curve(values, Channels::green), curve(values, Channels::blue));
        this.red = curves.get(0);
        this.green = curves.get(1);
        this.blue = curves.get(2);
        this.saturation = values.saturation();
        this.table = table;
    }

    private interface Channel {
        double of(Channels channels);
    }

    /// What each level of a channel becomes.
    private static double[] curve(ColourDecision values, Channel channel) {
        double slope = channel.of(values.slope());
        double offset = channel.of(values.offset());
        double power = channel.of(values.power());
        DoubleUnaryOperator out = in -> Math.pow(Math.clamp(in * slope + offset, 0, 1), power);
        var curve = new double[LEVELS];
        for (int i = 0; i < LEVELS; i++) {
            curve[i] = out.applyAsDouble(i / (LEVELS - 1.0));
        }
        return curve;
    }

    /// The same picture with the look.
    ///
    /// @param pixels blue, green, red, alpha of eight bits each
    public ByteBuffer over(ByteBuffer pixels) {
        ByteBuffer in = pixels.duplicate();
        ByteBuffer out = ByteBuffer.allocate(in.remaining());
        var colour = new double[3];
        while (in.remaining() >= BYTES) {
            colour[2] = blue[in.get() & 0xFF];
            colour[1] = green[in.get() & 0xFF];
            colour[0] = red[in.get() & 0xFF];
            saturate(colour);
            if (table.isPresent()) {
                table.get().apply(colour);
            }
            out.put(level(colour[2]))
                    .put(level(colour[1]))
                    .put(level(colour[0]))
                    .put(in.get());
        }
        return out.flip();
    }

    private void saturate(double[] colour) {
        if (saturation != 1) {
            Channels weights = ColourDecision.LUMA;
            double luma = weights.red() * colour[0] + weights.green() * colour[1] + weights.blue() * colour[2];
            for (int i = 0; i < 3; i++) {
                colour[i] = Math.clamp(luma + saturation * (colour[i] - luma), 0, 1);
            }
        }
    }

    private static byte level(double value) {
        return (byte) Math.round(Math.clamp(value, 0, 1) * (LEVELS - 1));
    }

    /// Luma of a picture, one byte a pixel.
    ///
    /// @param pixels blue, green, red, alpha of eight bits each
    public static ByteBuffer luma(ByteBuffer pixels) {
        ByteBuffer in = pixels.duplicate();
        ByteBuffer out = ByteBuffer.allocate(in.remaining() / BYTES);
        Channels weights = ColourDecision.LUMA;
        while (in.remaining() >= BYTES) {
            double luma = weights.blue() * (in.get() & 0xFF);
            luma += weights.green() * (in.get() & 0xFF);
            luma += weights.red() * (in.get() & 0xFF);
            in.get();
            out.put((byte) Math.round(luma));
        }
        return out.flip();
    }
}
