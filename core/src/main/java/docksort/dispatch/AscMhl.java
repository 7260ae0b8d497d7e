package docksort.dispatch;

import docksort.files.Checksum;
import docksort.files.Documents;
import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;

/// Writes generations of an ASC Media Hash List, schema 2.0 (American Society of Cinematographers, "ASC
/// MHL Specification", element names from memory): a folder `ascmhl` with a numbered manifest for each
/// generation and a chain file with the checksums of the manifests. Hashes of whole folders, which the
/// schema leaves free, are not written.
public final class AscMhl {
    public static final String FOLDER = "ascmhl";

    private static final String CHAIN = "ascmhl_chain.xml";
    private static final String MANIFEST_SPACE = "urn:ASC:MHL:v2.0";
    private static final String CHAIN_SPACE = "urn:ASC:MHL:DIRECTORY:v2.0";
    private static final Pattern GENERATION = Pattern.compile("(\\d{4})_.*\\.mhl");
    private static final DateTimeFormatter IN_NAMES =
            DateTimeFormatter.ofPattern("yyyy-MM-dd_HHmmss'Z'", Locale.ROOT).withZone(ZoneOffset.UTC);

    private AscMhl() {}

    /// What was written.
    ///
    /// @param changed files whose checksum is not the one of an earlier generation
    public record Generation(Path manifest, int number, int files, List<Path> changed) {
        public Generation {
            changed = List.copyOf(changed);
        }
    }

    /// Reads files whole and writes a generation for them.
    ///
    /// @param folder what the list is for; the files lie below it
    /// @param tool name and version of the program that writes it
    /// @param cancelled asked while files are read
    /// @return empty when it was cancelled; nothing was written then
    /// @throws StorageFailed when a file cannot be read or the list not written
    public static Optional<Generation> write(
            Path folder, List<Path> files, Tool tool, Instant now, BooleanSupplier cancelled) {
        return write(folder, files, file -> Checksum.XXH64.of(file, cancelled), tool, now);
    }

    /// The same for files that were read just now.
    ///
    /// @param sums XXH64 of each
    public static Generation write(Path folder, Map<Path, String> sums, Tool tool, Instant now) {
        return write(folder, List.copyOf(sums.keySet()), file -> Optional.ofNullable(sums.get(file)), tool, now)
                .orElseThrow();
    }

    private interface Sums {
        /// @return empty when it was cancelled
        Optional<String> of(Path file) throws IOException;
    }

    private static Optional<Generation> write(Path folder, List<Path> files, Sums sums, Tool tool, Instant now) {
        try {
            Path place = folder.resolve(FOLDER);
            List<Path> before = generations(place);
            Map<String, String> known = known(before);
            var hashes = new ArrayList<Hashed>();
            var changed = new ArrayList<Path>();
            for (Path file : files.stream().sorted().toList()) {
                String path = folder.relativize(file).toString().replace('\\', '/');
                Optional<String> sum = sums.of(file);
                if (sum.isEmpty()) {
                    return Optional.empty();
                }
                String earlier = known.get(path);
                String action = earlier == null ? "original" : earlier.equals(sum.get()) ? "verified" : "failed";
                if (action.equals("failed")) {
                    changed.add(file);
                }
                hashes.add(new Hashed(
                        path, Files.size(file), Files.getLastModifiedTime(file).toInstant(), sum.get(), action));
            }
            int number = before.size() + 1;
            String name =
                    String.format(Locale.ROOT, "%04d_%s_%s.mhl", number, folder.getFileName(), IN_NAMES.format(now));
            Documents.ensureFolder(place);
            Path manifest = place.resolve(name);
            Documents.replace(manifest, manifest(hashes, tool, now));
            var all = new ArrayList<>(before);
            all.add(manifest);
            Documents.replace(place.resolve(CHAIN), chain(all));
            return Optional.of(new Generation(manifest, number, hashes.size(), changed));
        } catch (IOException | XMLStreamException e) {
            throw new StorageFailed(
                    new Problem(
                            "The checksums of " + folder + " were not written",
                            e instanceof IOException io ? Causes.inWords(io) : String.valueOf(e.getMessage()),
                            "All files are as they were.",
                            "Check that the folder is there and may be written to."),
                    e);
        }
    }

    public record Tool(String name, String version, String host) {}

    private record Hashed(String path, long bytes, Instant modified, String sum, String action) {}

    /// Manifests that are there, the oldest first.
    static List<Path> generations(Path place) throws IOException {
        if (!Files.isDirectory(place)) {
            return List.of();
        }
        try (Stream<Path> files = Files.list(place)) {
            return files.filter(file -> GENERATION
                            .matcher(String.valueOf(file.getFileName()))
                            .matches())
                    .sorted()
                    .toList();
        }
    }

    private static Map<String, String> known(List<Path> generations) {
        var known = new HashMap<String, String>();
        for (Path generation : generations) {
            for (ChecksumList.Entry entry : ChecksumList.read(generation).entries()) {
                String sum = entry.sums().get(Checksum.XXH64);
                if (sum != null) {
                    known.putIfAbsent(entry.path(), sum.toLowerCase(Locale.ROOT));
                }
            }
        }
        return known;
    }

    private static byte[] manifest(List<Hashed> hashes, Tool tool, Instant now) throws XMLStreamException {
        String at = now.truncatedTo(ChronoUnit.SECONDS).toString().replace("Z", "+00:00");
        return document(xml -> {
            xml.writeStartElement("hashlist");
            xml.writeDefaultNamespace(MANIFEST_SPACE);
            xml.writeAttribute("version", "2.0");
            xml.writeStartElement("creatorinfo");
            element(xml, "creationdate", at);
            element(xml, "hostname", tool.host);
            xml.writeStartElement("tool");
            xml.writeAttribute("version", tool.version);
            xml.writeCharacters(tool.name);
            xml.writeEndElement();
            xml.writeEndElement();
            xml.writeStartElement("processinfo");
            element(xml, "process", "in-place");
            xml.writeStartElement("ignore");
            element(xml, "pattern", FOLDER);
            xml.writeEndElement();
            xml.writeEndElement();
            xml.writeStartElement("hashes");
            for (Hashed hashed : hashes) {
                xml.writeStartElement("hash");
                xml.writeStartElement("path");
                xml.writeAttribute("size", Long.toString(hashed.bytes));
                xml.writeAttribute(
                        "lastmodificationdate",
                        hashed.modified
                                .truncatedTo(ChronoUnit.SECONDS)
                                .toString()
                                .replace("Z", "+00:00"));
                xml.writeCharacters(hashed.path);
                xml.writeEndElement();
                xml.writeStartElement("xxh64");
                xml.writeAttribute("action", hashed.action);
                xml.writeAttribute("hashdate", at);
                xml.writeCharacters(hashed.sum);
                xml.writeEndElement();
                xml.writeEndElement();
            }
            xml.writeEndElement();
            xml.writeEndElement();
        });
    }

    private static byte[] chain(List<Path> generations) throws XMLStreamException, IOException {
        var sums = new ArrayList<String>();
        for (Path generation : generations) {
            sums.add(Checksum.C4.of(generation, () -> false).orElseThrow());
        }
        return document(xml -> {
            xml.writeStartElement("ascmhldirectory");
            xml.writeDefaultNamespace(CHAIN_SPACE);
            for (int i = 0; i < generations.size(); i++) {
                xml.writeStartElement("hashlist");
                Matcher number =
                        GENERATION.matcher(String.valueOf(generations.get(i).getFileName()));
                xml.writeAttribute(
                        "sequencenr", number.matches() ? Integer.toString(Integer.parseInt(number.group(1))) : "0");
                element(xml, "path", String.valueOf(generations.get(i).getFileName()));
                element(xml, "c4", sums.get(i));
                xml.writeEndElement();
            }
            xml.writeEndElement();
        });
    }

    private static void element(XMLStreamWriter xml, String name, String text) throws XMLStreamException {
        xml.writeStartElement(name);
        xml.writeCharacters(text);
        xml.writeEndElement();
    }

    private interface Body {
        void write(XMLStreamWriter xml) throws XMLStreamException;
    }

    private static byte[] document(Body body) throws XMLStreamException {
        var bytes = new ByteArrayOutputStream();
        XMLStreamWriter xml = XMLOutputFactory.newFactory().createXMLStreamWriter(bytes, StandardCharsets.UTF_8.name());
        xml.writeStartDocument(StandardCharsets.UTF_8.name(), "1.0");
        body.write(xml);
        xml.writeEndDocument();
        xml.close();
        return bytes.toByteArray();
    }
}
