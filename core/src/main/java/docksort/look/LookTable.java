package docksort.look;

import docksort.files.Documents;
import docksort.media.ColourDecision.Channels;
import docksort.media.KeptFile;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Locale;

/// A three-dimensional lookup table, read from a `.cube` file: text, with `LUT_3D_SIZE` and then as many lines
/// of three numbers as the cube of that size, red changing fastest (Cube LUT Specification, version 1.0, from
/// memory). Immutable.
public final class LookTable {
    private static final int LARGEST = 129;
    private static final int MOST_BYTES = 96 << 20;
    private static final float MOST = 65_504; // of a half-precision number

    private final int size;
    private final float[] values;

    private LookTable(int size, float[] values) {
        this.size = size;
        this.values = values;
    }

    /// @throws InputRefused when the file is no such table, with the line that is wrong
    public static LookTable read(Path file) {
        byte[] bytes = Documents.read(file);
        if (bytes.length > MOST_BYTES) {
            throw refused(file.toString(), "it has more than 96 MB");
        }
        return parse(bytes, file.toString());
    }

    /// @param name where the text is from, for messages
    /// @throws InputRefused see [#read]
    public static LookTable parse(byte[] text, String name) {
        var lines = text(text).lines().iterator();
        int size = 0;
        float[] values = new float[0];
        int filled = 0;
        int number = 0;
        while (lines.hasNext()) {
            number++;
            String line = lines.next().strip();
            if (line.isEmpty() || line.startsWith("#")) {
                continue;
            }
            String[] words = line.split("\\s+");
            if (Character.isLetter(line.charAt(0))) {
                if (filled > 0) {
                    throw refused(name, "line " + number + " has \"" + shortened(line) + "\" among the values");
                }
                switch (words[0].toUpperCase(Locale.ROOT)) {
                    case "LUT_3D_SIZE" -> {
                        size = size(words, name, number);
                        values = new float[3 * size * size * size];
                    }
                    case "LUT_1D_SIZE" ->
                        throw refused(name, "it is one-dimensional; only tables of three dimensions are applied");
                    case "DOMAIN_MIN" -> domain(words, 0, name, number);
                    case "DOMAIN_MAX" -> domain(words, 1, name, number);
                    case "LUT_3D_INPUT_RANGE" -> {
                        domain(new String[] {words[0], word(words, 1)}, 0, name, number);
                        domain(new String[] {words[0], word(words, 2)}, 1, name, number);
                    }
                    case "TITLE" -> {}
                    default -> throw refused(name, "line " + number + " is not known: \"" + shortened(line) + "\"");
                }
                continue;
            }
            if (size == 0) {
                throw refused(name, "line " + number + " has values, and no LUT_3D_SIZE stands before them");
            }
            if (words.length != 3) {
                throw refused(name, "line " + number + " has " + words.length + " numbers in place of 3");
            }
            if (filled == values.length) {
                throw refused(name, "it has more than the " + values.length / 3 + " lines of a table of " + size);
            }
            for (String word : words) {
                values[filled++] = value(word, name, number);
            }
        }
        if (size == 0) {
            throw refused(name, "it has no LUT_3D_SIZE");
        }
        if (filled < values.length) {
            throw refused(
                    name,
                    "it has " + filled / 3 + " lines of values in place of the " + values.length / 3 + " of a table of "
                            + size + ", as where it was not copied to its end");
        }
        return new LookTable(size, values);
    }

    private static String text(byte[] bytes) {
        try {
            String text = StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString();
            return text.startsWith("\uFEFF") ? text.substring(1) : text;
        } catch (CharacterCodingException e) {
            // A title in an older encoding harms nobody; what is no text at all is refused by its first line.
            return new String(bytes, StandardCharsets.ISO_8859_1);
        }
    }

    private static int size(String[] words, String name, int line) {
        String word = word(words, 1);
        int size = word.matches("\\d{1,3}") ? Integer.parseInt(word) : 0;
        if (size < 2 || size > LARGEST) {
            throw refused(
                    name, "line " + line + " has the size \"" + shortened(word) + "\"; sizes are 2 to " + LARGEST);
        }
        return size;
    }

    private static void domain(String[] words, float wanted, String name, int line) {
        for (int i = 1; i < words.length; i++) {
            if (value(words[i], name, line) != wanted) {
                throw refused(
                        name, "line " + line + " says that it is for values other than 0 to 1, which is not applied");
            }
        }
    }

    private static String word(String[] words, int index) {
        return index < words.length ? words[index] : "";
    }

    private static float value(String word, String name, int line) {
        try {
            float value = Float.parseFloat(word);
            if (Math.abs(value) <= MOST) {
                return value + 0f; // of which there is one zero
            }
        } catch (NumberFormatException e) {
            // told below
        }
        throw refused(name, "line " + line + " has \"" + shortened(word) + "\" in place of a number");
    }

    private static String shortened(String words) {
        String printable = words.replaceAll("\\p{Cntrl}", "?");
        return printable.length() > 40 ? printable.substring(0, 40) + "…" : printable;
    }

    private static InputRefused refused(String name, String why) {
        return new InputRefused(new Problem(
                name + " is no lookup table that can be applied",
                why,
                "The project's looks are as they were.",
                "Write it again as a .cube file of three dimensions."));
    }

    public int size() {
        return size;
    }

    /// The table as a `.cube` text of its own: the same for all files with the same values.
    public byte[] text() {
        var text = new StringBuilder(values.length * 9)
                .append("LUT_3D_SIZE ")
                .append(size)
                .append('\n');
        for (int i = 0; i < values.length; i += 3) {
            text.append(values[i])
                    .append(' ')
                    .append(values[i + 1])
                    .append(' ')
                    .append(values[i + 2])
                    .append('\n');
        }
        return text.toString().getBytes(StandardCharsets.US_ASCII);
    }

    /// What recipes know it by.
    ///
    /// @param name for people
    public KeptFile named(String name) {
        return new KeptFile(digest(text()), name);
    }

    /// SHA-256 of a table's own text, in hexadecimal digits.
    public static String digest(byte[] text) {
        try {
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(text));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /// What a colour becomes.
    ///
    /// @param in red, green and blue; 0 to 1, others are taken for the nearest
    public Channels apply(Channels in) {
        double[] colour = {in.red(), in.green(), in.blue()};
        apply(colour);
        return new Channels(colour[0], colour[1], colour[2]);
    }

    /// Changes red, green and blue by tetrahedral interpolation: of the six tetrahedra that the cell around a
    /// colour consists of, the one it lies in is told by the order of its fractions, and what comes out is the
    /// mean of that one's corners by their distances (J. M. Kasson and others, Performing color space
    /// conversions with three-dimensional linear interpolation, 1995, from memory).
    void apply(double[] colour) {
        double red = Math.clamp(colour[0], 0, 1) * (size - 1);
        double green = Math.clamp(colour[1], 0, 1) * (size - 1);
        double blue = Math.clamp(colour[2], 0, 1) * (size - 1);
        int r = Math.min((int) red, size - 2);
        int g = Math.min((int) green, size - 2);
        int b = Math.min((int) blue, size - 2);
        double fr = red - r;
        double fg = green - g;
        double fb = blue - b;
        int start = 3 * (r + size * (g + size * b));
        int byRed = 3;
        int byGreen = 3 * size;
        int byBlue = 3 * size * size;
        // From the corner nearest to black to the one nearest to white, first along the largest fraction.
        if (fr >= fg && fg >= fb) {
            mean(colour, start, byRed, byGreen, byBlue, fr, fg, fb);
        } else if (fr >= fb && fb >= fg) {
            mean(colour, start, byRed, byBlue, byGreen, fr, fb, fg);
        } else if (fb >= fr && fr >= fg) {
            mean(colour, start, byBlue, byRed, byGreen, fb, fr, fg);
        } else if (fg >= fr && fr >= fb) {
            mean(colour, start, byGreen, byRed, byBlue, fg, fr, fb);
        } else if (fg >= fb && fb >= fr) {
            mean(colour, start, byGreen, byBlue, byRed, fg, fb, fr);
        } else {
            mean(colour, start, byBlue, byGreen, byRed, fb, fg, fr);
        }
    }

    private void mean(
            double[] into, int start, int first, int second, int third, double most, double middle, double least) {
        for (int i = 0; i < 3; i++) {
            int at = start + i;
            into[i] = (1 - most) * values[at]
                    + (most - middle) * values[at + first]
                    + (middle - least) * values[at + first + second]
                    + least * values[at + first + second + third];
        }
    }
}
