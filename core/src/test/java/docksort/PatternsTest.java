package docksort;

import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.IOException;
import java.lang.reflect.Field;
import java.lang.reflect.Modifier;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/// Text of strangers is matched in time that grows with its length and no faster. Steps are counted, not
/// milliseconds.
class PatternsTest {
    private static final List<String> BEGINNINGS = List.of(
            "",
            "* A",
            "* A B",
            "001  AX",
            "001  AX  V     K",
            "001  AX  V     C        01:00:00:00 01:00:00:00 ",
            "M2 A ",
            "TITLE",
            "a (",
            "{",
            "1");
    private static final List<String> MIDDLES = List.of(
            " ",
            "A",
            "A ",
            "a",
            "*",
            ".",
            "_",
            "-",
            "{",
            "{a",
            "1",
            "1a",
            "11_",
            "0x",
            ":",
            ";",
            ")",
            ") = a",
            "(",
            "/",
            "\\",
            "\\\\?\\",
            "\t",
            "SSIM ",
            "average:",
            "V V ",
            "[a @ ",
            "con.",
            "é");
    private static final List<String> ENDS = List.of("", "x", "\n", "!", ":");
    private static final int SHORT = 120;

    /// What is searched for within a text; all others are held against the whole of it.
    private static final Set<String> SEARCHED = Set.of(
            "Naming.TOKEN", "PictureLoss.SSIM", "PictureLoss.PSNR", "StillSequences.NUMBER", "LastLines.ADDRESS");

    /// @param whole whether it is held against the whole of a text
    private record Named(String name, Pattern pattern, boolean whole) {}

    /// A pattern that is written where it is used.
    private static final Pattern INLINE =
            Pattern.compile("\\.(replaceAll|replaceFirst|matches|split)\\(\\s*\"((?:[^\"\\\\]|\\\\.)*+)\"\\s*[,)]");

    /// Counts how often a character is looked at.
    private static final class Counted implements CharSequence {
        private final String text;
        private long looks;

        Counted(String text) {
            this.text = text;
        }

        @Override
        public char charAt(int index) {
            looks++;
            return text.charAt(index);
        }

        @Override
        public int length() {
            return text.length();
        }

        @Override
        public CharSequence subSequence(int start, int end) {
            return text.substring(start, end);
        }

        @Override
        public String toString() {
            return text;
        }
    }

    private static List<Named> constants() throws IllegalAccessException {
        var found = new ArrayList<Named>();
        for (var each : new ClassFileImporter()
                .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
                .importPackages("docksort")) {
            for (Field field : each.reflect().getDeclaredFields()) {
                if (Modifier.isStatic(field.getModifiers()) && field.getType() == Pattern.class) {
                    field.setAccessible(true);
                    String name = each.getSimpleName() + "." + field.getName();
                    found.add(new Named(name, (Pattern) field.get(null), !SEARCHED.contains(name)));
                }
            }
        }
        return found;
    }

    /// Those in the middle of the code, read from the sources of all modules.
    private static List<Named> inline() throws IOException {
        var found = new ArrayList<Named>();
        for (String module : List.of("core", "cli", "desktop", "demo")) {
            Path sources = Path.of("..", module, "src", "main", "java");
            try (Stream<Path> files = Files.walk(sources)) {
                for (Path file :
                        files.filter(each -> each.toString().endsWith(".java")).toList()) {
                    INLINE.matcher(Files.readString(file))
                            .results()
                            .forEach(each -> found.add(new Named(
                                    file.getFileName() + " \"" + each.group(2) + "\"",
                                    Pattern.compile(each.group(2)
                                            .replace("\\u", "\\\\u")
                                            .translateEscapes()),
                                    each.group(1).equals("matches"))));
                }
            }
        }
        return found;
    }

    private static long looks(Pattern pattern, boolean whole, String text) {
        var counted = new Counted(text);
        var matcher = pattern.matcher(counted);
        if (whole) {
            matcher.matches();
        } else {
            while (matcher.find()) {} // to the end of the text
        }
        return counted.looks;
    }

    @Test
    void noPatternTakesMoreThanLinearTime() throws Exception {
        List<Named> patterns = new ArrayList<>(constants());
        assertThat(patterns).hasSizeGreaterThan(15);
        patterns.addAll(inline());
        assertThat(patterns).hasSizeGreaterThan(50);
        var slow = new ArrayList<String>();
        for (Named named : patterns) {
            for (String beginning : BEGINNINGS) {
                for (String middle : MIDDLES) {
                    for (String end : ENDS) {
                        int times = SHORT / middle.length();
                        long few = looks(named.pattern, named.whole, beginning + middle.repeat(times) + end);
                        long many = looks(named.pattern, named.whole, beginning + middle.repeat(2 * times) + end);
                        if (many > 3 * few + 600) {
                            slow.add("%s: \"%s\" + \"%s\" x n + \"%s\": %d to %d"
                                    .formatted(named.name, beginning, middle, end, few, many));
                        }
                    }
                }
            }
        }
        assertThat(slow).isEmpty();
    }
}
