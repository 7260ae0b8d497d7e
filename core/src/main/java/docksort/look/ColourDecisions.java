package docksort.look;

import docksort.files.Documents;
import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.io.ByteArrayInputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/// Reads colour decisions from files of the ASC Color Decision List, version 1.2: `.cc` with one correction,
/// `.ccc` with several, `.cdl` with a list of decisions (from memory). All have elements `ColorCorrection` with
/// `SOPNode` and `SatNode` in them, of any namespace.
public final class ColourDecisions {
    private static final int MOST_BYTES = 16 << 20;
    private static final int MOST = 10_000;

    private ColourDecisions() {}

    /// @param id what the file calls it, "1" for the first one where it says nothing
    public record Named(String id, ColourDecision values) {}

    /// All corrections of a file.
    ///
    /// @throws InputRefused when it has none, or one of them cannot be applied
    public static List<Named> read(Path file) {
        byte[] bytes = Documents.read(file);
        if (bytes.length > MOST_BYTES) {
            throw refused(file, "it has more than 16 MB");
        }
        XMLInputFactory factory = XMLInputFactory.newFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(XMLInputFactory.IS_COALESCING, true);
        var found = new ArrayList<Named>();
        try {
            XMLStreamReader reader = factory.createXMLStreamReader(new ByteArrayInputStream(bytes));
            try {
                while (reader.hasNext()) {
                    boolean begins = reader.next() == XMLStreamConstants.START_ELEMENT;
                    if (begins && reader.getLocalName().equals("ColorCorrection")) {
                        found.add(correction(reader, found.size() + 1, file));
                        if (found.size() > MOST) {
                            throw refused(file, "it has more than " + MOST + " corrections");
                        }
                    }
                }
            } finally {
                reader.close();
            }
        } catch (XMLStreamException e) {
            throw refused(
                    file,
                    "it is damaged, or no XML: "
                            + String.valueOf(e.getMessage()).lines().findFirst().orElse(""));
        }
        if (found.isEmpty()) {
            throw refused(file, "it has no element ColorCorrection");
        }
        return List.copyOf(found);
    }

    private static Named correction(XMLStreamReader reader, int number, Path file) throws XMLStreamException {
        String id = Optional.ofNullable(reader.getAttributeValue(null, "id")).orElse(Integer.toString(number));
        Channels slope = ColourDecision.NONE.slope();
        Channels offset = ColourDecision.NONE.offset();
        Channels power = ColourDecision.NONE.power();
        double saturation = 1;
        while (reader.hasNext()) {
            int event = reader.next();
            if (event == XMLStreamConstants.END_ELEMENT && reader.getLocalName().equals("ColorCorrection")) {
                break;
            }
            if (event != XMLStreamConstants.START_ELEMENT) {
                continue;
            }
            switch (reader.getLocalName()) {
                case "Slope" -> slope = channels(reader.getElementText(), id, file);
                case "Offset" -> offset = channels(reader.getElementText(), id, file);
                case "Power" -> power = channels(reader.getElementText(), id, file);
                case "Saturation" -> saturation = numbers(reader.getElementText(), 1, id, file)[0];
                default -> {}
            }
        }
        try {
            return new Named(id, new ColourDecision(slope, offset, power, saturation));
        } catch (IllegalArgumentException e) {
            throw refused(file, "correction " + id + ": " + e.getMessage());
        }
    }

    private static Channels channels(String text, String id, Path file) {
        double[] three = numbers(text, 3, id, file);
        return new Channels(three[0], three[1], three[2]);
    }

    private static double[] numbers(String text, int count, String id, Path file) {
        try {
            double[] numbers = Stream.of(text.strip().split("\\s+"))
                    .mapToDouble(Double::parseDouble)
                    .toArray();
            if (numbers.length == count) {
                return numbers;
            }
        } catch (NumberFormatException e) {
            // told below
        }
        throw refused(
                file,
                "correction " + id + " has \"" + text.strip().replaceAll("\\s+", " ") + "\" in place of "
                        + (count == 1 ? "a number" : count + " numbers"));
    }

    private static InputRefused refused(Path file, String why) {
        return new InputRefused(new Problem(
                file + " is no colour decision that can be applied",
                why,
                "The project's looks are as they were.",
                "Write it again as a .cc, .ccc or .cdl file of the ASC Color Decision List."));
    }
}
