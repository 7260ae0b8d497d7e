package docksort.catalogue;

import java.util.Optional;

/// A password that somebody typed. It is kept in memory alone, and never written or shown.
public final class Password {
    /// None was typed: it comes from the environment, a password file or a service file, or is not needed.
    public static final Password NONE = new Password("");

    private final String text;

    private Password(String text) {
        this.text = text;
    }

    public static Password of(String typed) {
        return typed.isEmpty() ? NONE : new Password(typed);
    }

    Optional<String> text() {
        return text.isEmpty() ? Optional.empty() : Optional.of(text);
    }

    @Override
    public String toString() {
        return this == NONE ? "none" : "typed";
    }
}
