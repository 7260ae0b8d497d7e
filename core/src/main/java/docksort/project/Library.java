package docksort.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.files.Documents;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.sort.SortBook;
import docksort.sort.SortBookFile;
import docksort.stock.Limits;
import docksort.strain.ShootingMode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// What a person keeps beside all projects, as a JSON file that can be edited by hand and passed on:
/// recipes, rules and limits that new projects begin with, and data rates of own cameras.
public final class Library {
    private static final String FORMAT = "dock-sort library";
    private static final int VERSION = 1;
    private static final int LARGEST = 1_000_000; // Mb/s, and pixels a side

    private static final ObjectMapper JSON =
            JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

    private final Path file;

    public Library(Path file) {
        this.file = file;
    }

    public static Library ofThisPerson() {
        return new Library(Documents.ofThisPerson("library.json"));
    }

    public Path file() {
        return file;
    }

    /// @param book empty where projects begin with the built-in rules
    /// @param modes data rates of own cameras
    public record Contents(Optional<SortBook> book, Limits limits, List<ShootingMode> modes) {
        public static final Contents EMPTY = new Contents(Optional.empty(), Limits.NONE, List.of());

        public Contents {
            modes = List.copyOf(modes);
        }
    }

    /// @return nothing where none was kept
    /// @throws InputRefused with the place of what is wrong, when the file cannot be used
    public Contents read() {
        if (!Files.exists(file)) {
            return Contents.EMPTY;
        }
        JsonNode root;
        try {
            root = JSON.readTree(Documents.read(file));
        } catch (JsonProcessingException e) {
            throw refused(e.getOriginalMessage());
        } catch (IOException e) {
            throw refused(String.valueOf(e.getMessage()));
        }
        if (!FORMAT.equals(root.path("format").asText()) || root.path("version").asInt() != VERSION) {
            throw refused("it does not say \"format\": \"" + FORMAT + "\", \"version\": " + VERSION);
        }
        Optional<SortBook> book = Optional.empty();
        if (root.has("recipesAndRules")) {
            book = Optional.of(SortBookFile.read(bytes(root.get("recipesAndRules")), file.toString()));
        }
        return new Contents(book, Limits.parse(root.path("limits").asText("")), modes(root.path("cameraModes")));
    }

    private List<ShootingMode> modes(JsonNode list) {
        var modes = new ArrayList<ShootingMode>();
        for (JsonNode mode : list) {
            try {
                modes.add(mode(mode));
            } catch (IllegalArgumentException e) {
                throw refused("cameraModes[" + modes.size() + "]: " + e.getMessage());
            }
        }
        return modes;
    }

    private static ShootingMode mode(JsonNode mode) {
        var shape = ShootingMode.Shape.of(
                Raster.parse(mode.path("raster").asText()),
                FrameRate.parse(mode.path("rate").asText()),
                number(mode, "bitDepth", 64));
        return new ShootingMode(
                mode.path("name").asText(),
                Optional.of(shape),
                number(mode, "megabits", LARGEST),
                mode.has("proxyMegabits") ? Optional.of(number(mode, "proxyMegabits", LARGEST)) : Optional.empty());
    }

    private static int number(JsonNode mode, String name, int most) {
        int value = mode.path(name).asInt();
        if (value < 1 || value > most) {
            throw new IllegalArgumentException(name + " must be a whole number from 1 to " + most);
        }
        return value;
    }

    private InputRefused refused(String why) {
        return new InputRefused(new Problem(
                "The library cannot be used: " + file,
                why,
                "It is as it was.",
                "Correct it there, or remove the file to begin anew."));
    }

    public void keep(Contents contents) {
        ObjectNode root = JSON.createObjectNode().put("format", FORMAT).put("version", VERSION);
        contents.book().ifPresent(book -> root.set("recipesAndRules", tree(SortBookFile.write(book))));
        if (!contents.limits().isNone()) {
            root.put("limits", contents.limits().text());
        }
        var modes = root.putArray("cameraModes");
        for (ShootingMode mode : contents.modes()) {
            ShootingMode.Shape shape = mode.shape().orElseThrow();
            ObjectNode node = modes.addObject()
                    .put("name", mode.name())
                    .put("raster", shape.raster().width() + "x" + shape.raster().height())
                    .put("rate", text(shape.highest()))
                    .put("bitDepth", shape.bitDepth())
                    .put("megabits", mode.mainMegabits());
            mode.proxyMegabits().ifPresent(proxy -> node.put("proxyMegabits", proxy));
        }
        Path folder = file.toAbsolutePath().getParent();
        if (folder != null) {
            Documents.ensureFolder(folder);
        }
        Documents.replace(file, bytes(root));
    }

    private static String text(Rational rate) {
        return rate.denominator() == 1 ? Long.toString(rate.numerator()) : rate.toString();
    }

    /// Keeps what new projects begin with; data rates of cameras stay.
    public void keep(Template template) {
        keep(new Contents(Optional.of(template.book()), template.limits(), read().modes()));
    }

    /// Lets new projects begin with the built-in rules again; data rates of cameras stay.
    public void forgetBeginning() {
        keep(new Contents(Optional.empty(), Limits.NONE, read().modes()));
    }

    private static JsonNode tree(byte[] text) {
        try {
            return JSON.readTree(text);
        } catch (IOException e) {
            throw new IllegalStateException("what was written cannot be read", e);
        }
    }

    private static byte[] bytes(JsonNode node) {
        try {
            return JSON.writeValueAsBytes(node);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("what was read cannot be written", e);
        }
    }
}
