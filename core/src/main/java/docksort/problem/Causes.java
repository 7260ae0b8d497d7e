package docksort.problem;

import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;
import java.nio.file.NotDirectoryException;
import java.util.Locale;

/// Says what a file system's complaint means in plain words.
public final class Causes {
    private Causes() {}

    public static String inWords(IOException failure) {
        return switch (failure) {
            case NoSuchFileException _ -> "it is not there";
            case AccessDeniedException _ -> "this account may not open it";
            case NotDirectoryException _ -> "it is not a folder";
            case FileAlreadyExistsException _ -> "there is one already";
            case FileSystemException e when e.getReason() != null -> reason(e.getReason());
            default -> {
                String message = failure.getMessage();
                yield message == null ? "reading or writing failed" : reason(message);
            }
        };
    }

    /// Whether the volume had no room for what was to be written.
    public static boolean isFull(String text) {
        String lower = text.toLowerCase(Locale.ROOT);
        return lower.contains("no space left") || lower.contains("not enough space") || lower.contains("disk full");
    }

    /// Whether a program was refused memory.
    public static boolean isOutOfMemory(String text) {
        return text.toLowerCase(Locale.ROOT).contains("cannot allocate memory");
    }

    private static String reason(String text) {
        return isFull(text) ? "the volume is full" : text;
    }
}
