package docksort.desktop.parts;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.function.Function;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// What stands beside a field, for everything that somebody may write into it.
class TypedTest {
    private static Function<String, Optional<String>> field(String name) {
        return switch (name) {
            case "path" -> Typed::path;
            case "patterns" -> Typed::patterns;
            case "raster" -> Typed::raster;
            case "aspect" -> Typed::pixelAspect;
            default -> text -> Typed.wholeNumber(text, 0, 500);
        };
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', nullValues = "nothing", textBlock = """
        path     | /volumes/CARD A      | nothing
        path     | ''                   | nothing
        path     | /volumes/NUL/x       | this is no path
        path     | /volumes/LONG        | no disk holds a name of more than 255 bytes
        path     | /volumes/ÄÄÄ         | no disk holds a name of more than 255 bytes
        patterns | ''                   | nothing
        patterns | *_P  small_*         | nothing
        patterns | *_P P                | P: it needs one star
        patterns | **                   | **: it needs one star
        patterns | Small/*              | no folders
        raster   | 1920x1080            | nothing
        raster   | 1920 × 1080          | nothing
        raster   | ''                   | nothing
        raster   | big                  | write it as 1920x1080
        raster   | 0x1080               | write it as 1920x1080
        raster   | 99999999999x1        | write it as 1920x1080
        aspect   | 12/11                | nothing
        aspect   | 0                    | larger than 0
        aspect   | 1/0                  | write it as
        aspect   | wide                 | write it as
        number   | 500                  | nothing
        number   | ''                   | nothing
        number   | 501                  | a whole number from 0 to 500
        number   | -1                   | a whole number from 0 to 500
        number   | 1.5                  | a whole number from 0 to 500
        number   | 99999999999999999999 | a whole number from 0 to 500
        """)
    void saysWhatIsWrong(String name, String text, @org.jspecify.annotations.Nullable String words) {
        String written =
                text.replace("NUL", "a\0b").replace("LONG", "y".repeat(256)).replace("ÄÄÄ", "Ä".repeat(128));
        Optional<String> said = field(name).apply(written);
        if (words == null) {
            assertThat(said).isEmpty();
        } else {
            assertThat(said).hasValueSatisfying(fault -> assertThat(fault).contains(words));
        }
    }
}
