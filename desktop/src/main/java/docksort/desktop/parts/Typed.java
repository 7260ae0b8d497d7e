package docksort.desktop.parts;

import docksort.link.NamePattern;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.problem.CoreException.InputRefused;
import java.nio.charset.StandardCharsets;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;

/// What is wrong with what somebody wrote into a field, in words that stand beside it; empty where
/// nothing is. A field that is empty has nothing wrong in it yet. No disk is asked.
public final class Typed {
    private static final int LONGEST_NAME = 255; // bytes; NAME_MAX of Linux and its usual file systems

    private Typed() {}

    public static Optional<String> path(String text) {
        try {
            for (Path name : Path.of(text.strip())) {
                if (name.toString().getBytes(StandardCharsets.UTF_8).length > LONGEST_NAME) {
                    return Optional.of("no disk holds a name of more than " + LONGEST_NAME + " bytes");
                }
            }
            return Optional.empty();
        } catch (InvalidPathException e) {
            return Optional.of("this is no path: " + e.getReason());
        }
    }

    /// What is written there, where nothing is wrong with it.
    public static Optional<Path> asPath(String text) {
        return text.isBlank() || path(text).isPresent() ? Optional.empty() : Optional.of(Path.of(text.strip()));
    }

    /// Patterns of names, with blanks between them.
    public static Optional<String> patterns(String text) {
        if (text.isBlank()) {
            return Optional.empty();
        }
        for (String pattern : text.strip().split("\\s+", -1)) {
            try {
                NamePattern.parse(pattern);
            } catch (InputRefused e) {
                return Optional.of(pattern + ": " + e.problem().why());
            }
        }
        return Optional.empty();
    }

    public static Optional<String> raster(String text) {
        try {
            return text.isBlank() || Raster.parse(text).width() > 0
                    ? Optional.empty()
                    : Optional.of("write it as 1920x1080");
        } catch (IllegalArgumentException e) {
            return Optional.of("write it as 1920x1080");
        }
    }

    /// The aspect of a pixel.
    public static Optional<String> pixelAspect(String text) {
        try {
            return Rational.parse(text.strip()).toDouble() > 0
                    ? Optional.empty()
                    : Optional.of("it must be larger than 0");
        } catch (IllegalArgumentException | ArithmeticException e) {
            return Optional.of("write it as 1 or 12/11");
        }
    }

    public static Optional<String> wholeNumber(String text, long least, long most) {
        Optional<String> wrong = Optional.of("a whole number from " + least + " to " + most);
        try {
            long number = Long.parseLong(text.strip());
            return number >= least && number <= most ? Optional.empty() : wrong;
        } catch (NumberFormatException e) {
            return text.isBlank() ? Optional.empty() : wrong;
        }
    }
}
