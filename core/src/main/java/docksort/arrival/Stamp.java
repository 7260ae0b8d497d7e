package docksort.arrival;

/// What a directory listing says of a clip's file or files. While it stays the same, nothing is read again.
///
/// @param files how many files there are
/// @param bytes their sizes together
/// @param modifiedMillis the latest time stamp among them
public record Stamp(int files, long bytes, long modifiedMillis) {
    Stamp plus(long moreBytes, long millis) {
        return new Stamp(files + 1, bytes + moreBytes, Math.max(modifiedMillis, millis));
    }

    static final Stamp NONE = new Stamp(0, 0, 0);
}
