import com.palantir.javaformat.java.Formatter;
import com.palantir.javaformat.java.FormatterException;
import com.palantir.javaformat.java.JavaFormatterOptions;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;

/// Holds every Java source of the project to one format. `check` fails and names the files, `apply` rewrites them.
public final class Format {
    public static void main(String[] args) throws Exception {
        boolean apply = args[0].equals("apply");
        Formatter formatter = Formatter.createFormatter(JavaFormatterOptions.builder()
                .style(JavaFormatterOptions.Style.PALANTIR)
                .build());
        var wrong = new ArrayList<Path>();
        Path root = Path.of(args[1]).toRealPath();
        try (var files = Files.walk(root)) {
            for (Path file : files.filter(Format::isSource).toList()) {
                String before = Files.readString(file);
                String after = formatted(formatter, file, before);
                if (!before.equals(after)) {
                    wrong.add(root.relativize(file));
                    if (apply) {
                        Files.writeString(file, after);
                    }
                }
            }
        }
        if (!apply && !wrong.isEmpty()) {
            wrong.forEach(file -> System.err.println("not formatted: " + file));
            System.err.println("Run: mvn -q -pl format compile -Dformat.mode=apply");
            System.exit(1);
        }
    }

    private static String formatted(Formatter formatter, Path file, String before) {
        try {
            return formatter.formatSourceAndFixImports(before);
        } catch (FormatterException e) {
            throw new IllegalStateException(file + " cannot be formatted: " + e.getMessage(), e);
        }
    }

    private static boolean isSource(Path file) {
        return file.toString().endsWith(".java") && !file.toString().contains("/target/");
    }
}
