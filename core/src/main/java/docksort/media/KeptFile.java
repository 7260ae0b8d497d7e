package docksort.media;

import java.util.regex.Pattern;

/// A file that a project keeps by its content: a lookup table, or an image.
///
/// @param digest SHA-256 of what it holds, 64 small hexadecimal digits
/// @param name for people: that of the file it came from
public record KeptFile(String digest, String name) {
    private static final int LONGEST_NAME = 120;
    private static final Pattern NAME = Pattern.compile("[^./\\\\:*?\"<>|\\p{Cntrl}][^/\\\\:*?\"<>|\\p{Cntrl}]{0,119}");

    public KeptFile {
        if (!digest.matches("[0-9a-f]{64}")) {
            throw new IllegalArgumentException("a kept file's digest has 64 hexadecimal digits, was " + digest);
        }
        if (!NAME.matcher(name).matches()) {
            throw new IllegalArgumentException(
                    "a kept file's name is of 1 to " + LONGEST_NAME + " characters and without a folder, was " + name);
        }
    }

    /// What is kept.
    public enum Kind {
        TABLE("lookup table"),
        IMAGE("image");

        private final String label;

        Kind(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /// Its name among files where something else may have it: the digest's first half stands before the ending.
    public String nameApart() {
        int ending = name.lastIndexOf('.');
        int stem = ending > 0 ? ending : name.length();
        return name.substring(0, stem) + "-" + digest.substring(0, digest.length() / 2) + name.substring(stem);
    }

    /// The nearest that can be a name.
    ///
    /// @param otherwise where nothing of it is left
    public static String nameOf(String file, String otherwise) {
        String name = file.replaceAll("[/\\\\:*?\"<>|\\p{Cntrl}]", "_").replaceFirst("^\\.+", "");
        return name.isEmpty() ? otherwise : name.substring(Math.max(0, name.length() - LONGEST_NAME));
    }
}
