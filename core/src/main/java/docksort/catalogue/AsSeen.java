package docksort.catalogue;

/// How a project was when somebody looked at it and decided for something.
///
/// @param deed the newest change that was seen
public record AsSeen(long deed) {
    /// As it is, whatever that is.
    public static final AsSeen NOW = new AsSeen(Long.MAX_VALUE);
}
