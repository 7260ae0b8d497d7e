package docksort.media;

/// A fact on which two sources of one clip disagree. Both are shown; the safer one is used.
///
/// @param fact what it is about: "frames", "pixel aspect"
/// @param one who says the first: "container", "header"
/// @param used which of the two is taken, and why
public record Contradiction(String fact, String one, String oneSays, String other, String otherSays, String used) {
    /// The fact that a stream's clock begins anew within it.
    public static final String CLOCK = "clock";

    /// "pixel aspect: the container says 1, the stream 4/3; the container is used, as players do"
    public String label() {
        return fact + ": " + one + " says " + oneSays + ", " + other + " " + otherSays + "; " + used;
    }
}
