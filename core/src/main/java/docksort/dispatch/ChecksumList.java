package docksort.dispatch;

import docksort.files.Checksum;
import docksort.files.Documents;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/// A list of checksums that came with footage: an ASC MHL generation (schema 2.0), a Media Hash List 1.x,
/// or the lists that `md5sum`, `sha1sum` and `xxhsum` write.
///
/// @param file the list itself
/// @param folder what the paths in it are relative to
public record ChecksumList(Path file, Path folder, List<Entry> entries) {
    private static final int MOST_ENTRIES = 2_000_000;
    private static final Pattern PLAIN =
            Pattern.compile("\\\\?(?:XXH3_)?([0-9A-Fa-f]{16}|[0-9A-Fa-f]{32}|[0-9A-Fa-f]{40}) [ *](.+)");
    private static final Pattern TAGGED = Pattern.compile("(MD5|SHA1|XXH64|XXH3|XXH128) \\((.+)\\) = ([0-9A-Fa-f]+)");

    public ChecksumList {
        entries = List.copyOf(entries);
    }

    /// @param sums checksums by kind; none when the list has only kinds that are not known here
    /// @param bytes size where the list says one, otherwise -1
    public record Entry(String path, Map<Checksum, String> sums, long bytes) {
        public Entry {
            sums = Map.copyOf(sums);
        }
    }

    /// @throws InputRefused when it is none of these lists, or leads out of its folder
    public static ChecksumList read(Path file) {
        byte[] bytes = Documents.read(file);
        String text = new String(bytes, StandardCharsets.UTF_8);
        boolean xml = text.stripLeading().startsWith("<");
        Path folder = Objects.requireNonNull(file.toAbsolutePath().getParent());
        boolean generation = xml && String.valueOf(folder.getFileName()).equals(AscMhl.FOLDER);
        Path root = generation ? Objects.requireNonNull(folder.getParent()) : folder;
        List<Entry> entries = xml ? xml(file, bytes) : plain(file, text);
        if (entries.isEmpty()) {
            throw refused(file, "there is no checksum in it");
        }
        for (Entry entry : entries) {
            Path place = root.resolve(entry.path).normalize();
            if (!place.startsWith(root)) {
                throw refused(file, "it names a file outside its folder: " + entry.path);
            }
        }
        return new ChecksumList(file, root, entries);
    }

    private static InputRefused refused(Path file, String why) {
        return new InputRefused(new Problem(
                "The list of checksums cannot be used: " + file,
                why,
                "Nothing was changed.",
                "Choose an ASC MHL generation, a media hash list, or a list of md5sum, sha1sum or xxhsum."));
    }

    private static List<Entry> plain(Path file, String text) {
        var entries = new ArrayList<Entry>();
        int number = 0;
        for (String line : text.lines().toList()) {
            number++;
            if (line.isBlank() || line.startsWith("#") || line.startsWith(";")) {
                continue;
            }
            Matcher plain = PLAIN.matcher(line);
            Matcher tagged = TAGGED.matcher(line);
            if (plain.matches()) {
                entries.add(
                        entry(plain.group(2), kind(file, line, plain.group(1).length()), plain.group(1)));
            } else if (tagged.matches()) {
                entries.add(
                        entry(tagged.group(2), Checksum.named(tagged.group(1)).orElseThrow(), tagged.group(3)));
            } else {
                throw refused(file, "line " + number + " is no checksum: " + shortened(line));
            }
            if (entries.size() > MOST_ENTRIES) {
                throw refused(file, "it has more than " + MOST_ENTRIES + " lines");
            }
        }
        return entries;
    }

    private static Entry entry(String path, Checksum kind, String sum) {
        return new Entry(path.replace('\\', '/'), Map.of(kind, sum), -1);
    }

    /// `xxhsum` marks the kind where 16 digits could be two, and leaves 32 digits to the list's name.
    private static Checksum kind(Path file, String line, int digits) {
        String name = String.valueOf(file.getFileName()).toLowerCase(Locale.ROOT);
        return switch (digits) {
            case 16 -> line.startsWith("XXH3_") ? Checksum.XXH3 : Checksum.XXH64;
            case 32 -> name.endsWith(".xxh") || name.endsWith(".xxh128") ? Checksum.XXH128 : Checksum.MD5;
            default -> Checksum.SHA1;
        };
    }

    private static String shortened(String line) {
        return line.length() > 60 ? line.substring(0, 60) + "…" : line;
    }

    // Both kinds of XML: elements <hash> with the path as <path> or <file>, the size beside it, and the
    // checksums as elements that bear their names.

    private static List<Entry> xml(Path file, byte[] bytes) {
        XMLInputFactory factory = XMLInputFactory.newFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(XMLInputFactory.IS_COALESCING, true);
        var entries = new ArrayList<Entry>();
        try {
            XMLStreamReader reader = factory.createXMLStreamReader(new ByteArrayInputStream(bytes));
            try {
                while (reader.hasNext()) {
                    if (reader.next() == XMLStreamConstants.START_ELEMENT
                            && reader.getLocalName().equals("hash")) {
                        hash(reader).ifPresent(entries::add);
                        if (entries.size() > MOST_ENTRIES) {
                            throw refused(file, "it has more than " + MOST_ENTRIES + " entries");
                        }
                    }
                }
            } finally {
                reader.close();
            }
        } catch (XMLStreamException e) {
            throw refused(
                    file,
                    "it is damaged: "
                            + String.valueOf(e.getMessage()).lines().findFirst().orElse(""));
        }
        return entries;
    }

    private static Optional<Entry> hash(XMLStreamReader reader) throws XMLStreamException {
        String path = "";
        long bytes = -1;
        var sums = new LinkedHashMap<Checksum, String>();
        while (reader.hasNext()) {
            int event = reader.next();
            if (event == XMLStreamConstants.END_ELEMENT && reader.getLocalName().equals("hash")) {
                break;
            }
            if (event != XMLStreamConstants.START_ELEMENT) {
                continue;
            }
            String name = reader.getLocalName();
            switch (name) {
                case "path", "file" -> {
                    String size = reader.getAttributeValue(null, "size");
                    bytes = size == null ? bytes : number(size);
                    path = reader.getElementText().strip();
                }
                case "size" -> bytes = number(reader.getElementText());
                default -> {
                    Optional<Checksum> kind = Checksum.named(name);
                    if (kind.isPresent()) {
                        sums.put(kind.get(), reader.getElementText().strip());
                    }
                }
            }
        }
        return path.isEmpty() ? Optional.empty() : Optional.of(new Entry(path, sums, bytes));
    }

    private static long number(String text) {
        return text.strip().matches("\\d{1,18}") ? Long.parseLong(text.strip()) : -1;
    }
}
