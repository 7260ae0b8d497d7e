package docksort.timeline;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.text.Normalizer;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Where media lies, as text of any system: a timeline written on one workstation names drives that another
/// does not have. Parts are always separated by `/`, and `.` and `..` are resolved. What is read is only
/// compared with known paths, never opened.
///
/// @param text `/a/b`, `E:/a/b`, `//server/share/a`, or `../a/b`
public record MediaPath(Form form, String text) {
    /// Whose manner a path is written in.
    public enum Form {
        /// From the one root of a system such as Linux or macOS.
        POSIX,
        /// From a drive letter.
        DRIVE,
        /// From a server's share (UNC).
        SHARE,
        /// From the timeline's folder.
        RELATIVE;

        /// Whether its system takes `a` and `A` for the same name.
        boolean foldsCase() {
            return this == DRIVE || this == SHARE;
        }
    }

    private static final Pattern SCHEME = Pattern.compile("[A-Za-z][A-Za-z0-9+.-]+:.*", Pattern.DOTALL);
    private static final Pattern DRIVE = Pattern.compile("/?[A-Za-z][:|](?:[/\\\\].*)?", Pattern.DOTALL);
    private static final Pattern LONG = Pattern.compile("\\\\\\\\[?.]\\\\(UNC\\\\)?");
    private static final Set<String> THIS_MACHINE = Set.of("", "localhost", "127.0.0.1");

    /// Kept as they are in a URL. RFC 3986 allows more in a path; `+` and `:` are escaped because some
    /// readers take them for a space and for a scheme.
    private static final String KEPT = "-._~!$&'()*,;=@/";

    public MediaPath {
        text = form == Form.RELATIVE ? resolved("", text) : resolved(root(form, text), text);
    }

    /// @param local an absolute path of this machine
    public static MediaPath of(Path local) {
        String text = local.toString().replace(local.getFileSystem().getSeparator(), "/");
        if (text.startsWith("/") && !text.startsWith("//") && !isDrive(text)) {
            return new MediaPath(Form.POSIX, text);
        }
        return absolute(text).orElseGet(() -> new MediaPath(Form.RELATIVE, text));
    }

    /// What somebody wrote as the path of a folder on a workstation, in that one's own manner.
    public static Optional<MediaPath> ofWorkstation(String text) {
        return readings(text.strip()).stream()
                .filter(path -> path.form != Form.RELATIVE)
                .findFirst();
    }

    /// The ways to read an address, the likelier first: a file URL (RFC 8089), a path of any system, or one
    /// relative to the timeline. Names that are not escaped, and names that look escaped, are both met.
    ///
    /// @return empty for what is no file
    public static List<MediaPath> readings(String address) {
        if (address.isBlank()) {
            return List.of();
        }
        if (address.regionMatches(true, 0, "file:", 0, 5)) {
            return ofUrl(address.substring(5));
        }
        String plain = withoutLongMark(address);
        if (isDrive(plain) || plain.startsWith("\\\\")) {
            return absolute(plain.replace('\\', '/')).map(List::of).orElse(List.of());
        }
        if (SCHEME.matcher(plain).matches()) {
            return List.of();
        }
        Set<String> texts = new LinkedHashSet<>();
        decoded(plain).ifPresent(texts::add);
        texts.add(plain);
        if (plain.contains("\\")) {
            texts.add(plain.replace('\\', '/'));
        }
        var paths = new ArrayList<MediaPath>();
        texts.forEach(text -> paths.add(absolute(text).orElseGet(() -> new MediaPath(Form.RELATIVE, text))));
        return paths;
    }

    /// `\\?\E:\a` is `E:\a`, and `\\?\UNC\server\share` is `\\server\share`.
    private static String withoutLongMark(String address) {
        Matcher mark = LONG.matcher(address);
        if (!mark.lookingAt()) {
            return address;
        }
        return (mark.group(1) == null ? "" : "\\\\") + address.substring(mark.end());
    }

    private static List<MediaPath> ofUrl(String rest) {
        String authority = "";
        String path = rest;
        if (rest.startsWith("//")) {
            int end = rest.indexOf('/', 2);
            authority = rest.substring(2, end < 0 ? rest.length() : end);
            path = end < 0 ? "" : rest.substring(end);
        }
        Set<String> texts = new LinkedHashSet<>();
        decoded(path).ifPresent(texts::add);
        texts.add(path); // some programs do not escape
        var paths = new ArrayList<MediaPath>();
        for (String text : texts) {
            if (authority.matches("[A-Za-z]:")) {
                absolute(authority + text).ifPresent(paths::add); // the drive where a server belongs
            } else if (THIS_MACHINE.contains(authority.toLowerCase(Locale.ROOT))) {
                absolute(text.replace('\\', '/')).ifPresent(paths::add);
            } else {
                paths.add(new MediaPath(Form.SHARE, "//" + authority + text.replace('\\', '/')));
            }
        }
        return paths;
    }

    private static boolean isDrive(String text) {
        int letter = text.startsWith("/") ? 1 : 0;
        boolean marked =
                text.length() > letter + 1 && (text.charAt(letter + 1) == ':' || text.charAt(letter + 1) == '|');
        return marked && DRIVE.matcher(text).matches();
    }

    private static Optional<MediaPath> absolute(String text) {
        if (isDrive(text)) {
            String from = text.startsWith("/") ? text.substring(1) : text;
            return Optional.of(new MediaPath(
                    Form.DRIVE,
                    Character.toUpperCase(from.charAt(0)) + ":/" + from.substring(Math.min(3, from.length()))));
        }
        if (text.startsWith("//")) {
            return Optional.of(new MediaPath(Form.SHARE, "//" + text.replaceFirst("^/+", "")));
        }
        return text.startsWith("/") ? Optional.of(new MediaPath(Form.POSIX, text)) : Optional.empty();
    }

    /// Percent escapes as UTF-8; empty where some `%` is none, or the bytes are not UTF-8.
    private static Optional<String> decoded(String text) {
        if (text.indexOf('%') < 0) {
            return Optional.of(text);
        }
        var bytes = new ByteArrayOutputStream();
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '%') {
                if (i + 2 >= text.length()
                        || Character.digit(text.charAt(i + 1), 16) < 0
                        || Character.digit(text.charAt(i + 2), 16) < 0) {
                    return Optional.empty();
                }
                bytes.write(Integer.parseInt(text.substring(i + 1, i + 3), 16));
                i += 2;
            } else {
                int end = i + Character.charCount(text.codePointAt(i));
                bytes.writeBytes(text.substring(i, end).getBytes(StandardCharsets.UTF_8));
                i = end - 1;
            }
        }
        try {
            return Optional.of(StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes.toByteArray()))
                    .toString());
        } catch (CharacterCodingException e) {
            return Optional.empty();
        }
    }

    private static String root(Form form, String text) {
        return switch (form) {
            case POSIX, RELATIVE -> "/";
            case DRIVE -> text.substring(0, 2) + "/";
            case SHARE -> {
                int server = text.indexOf('/', 2);
                int share = server < 0 ? -1 : text.indexOf('/', server + 1);
                yield share < 0 ? text + "/" : text.substring(0, share + 1);
            }
        };
    }

    private static String resolved(String root, String text) {
        if (isResolved(root, text)) {
            return text;
        }
        Deque<String> parts = new ArrayDeque<>();
        for (String part :
                text.substring(Math.min(root.length(), text.length())).split("/", -1)) {
            boolean inFolder = !parts.isEmpty() && !parts.getLast().equals("..");
            if (part.equals("..") && (inFolder || !root.isEmpty())) {
                parts.pollLast();
            } else if (!part.isEmpty() && !part.equals(".")) {
                parts.addLast(part);
            }
        }
        return root + String.join("/", parts);
    }

    /// Nearly all paths are, and a stock has hundreds of thousands of them.
    private static boolean isResolved(String root, String text) {
        return text.startsWith(root)
                && text.indexOf("//", Math.max(0, root.length() - 1)) < 0
                && text.indexOf("/.") < 0
                && !text.startsWith(".")
                && (text.length() == root.length() || !text.endsWith("/"));
    }

    /// From a folder, where it is relative; else itself.
    public MediaPath from(MediaPath folder) {
        return form == Form.RELATIVE ? new MediaPath(folder.form, folder.text + "/" + text) : this;
    }

    /// The way from a folder to it; itself where there is none, as from another drive.
    public MediaPath relativeTo(MediaPath folder) {
        if (form != folder.form || form == Form.RELATIVE) {
            return this;
        }
        String root = root(form, text);
        if (!folded(root).equals(folded(root(form, folder.text)))) {
            return this;
        }
        String[] here = text.substring(root.length()).split("/");
        String[] there = folder.text.length() <= root.length()
                ? new String[0]
                : folder.text.substring(root.length()).split("/");
        int same = 0;
        while (same < there.length
                && same < here.length - 1
                && folded(here[same]).equals(folded(there[same]))) {
            same++;
        }
        var parts = new ArrayList<String>();
        for (int i = same; i < there.length; i++) {
            parts.add("..");
        }
        parts.addAll(List.of(here).subList(same, here.length));
        return new MediaPath(Form.RELATIVE, String.join("/", parts));
    }

    /// What lies below a folder, moved below another; empty where it does not lie there.
    public Optional<MediaPath> moved(MediaPath folder, MediaPath to) {
        String own = folder.key();
        String key = key();
        boolean below = key.equals(own) || key.startsWith(own.endsWith("/") ? own : own + "/");
        if (form != folder.form || !below) {
            return Optional.empty();
        }
        // Composed and decomposed names differ in length, so parts are counted and not letters.
        String[] parts = text.split("/");
        int skip = folder.text.endsWith("/") ? folder.text.split("/").length : folder.text.split("/", -1).length;
        String rest = String.join("/", List.of(parts).subList(Math.min(skip, parts.length), parts.length));
        return Optional.of(new MediaPath(to.form, to.text + "/" + rest));
    }

    /// By what two paths are the same: letters composed (Unicode form C), and case folded where its system
    /// does.
    public String key() {
        return folded(composed(text));
    }

    private static String composed(String text) {
        return Normalizer.isNormalized(text, Normalizer.Form.NFC)
                ? text
                : Normalizer.normalize(text, Normalizer.Form.NFC);
    }

    private String folded(String part) {
        return form.foldsCase() ? part.toLowerCase(Locale.ROOT) : part;
    }

    public String fileName() {
        return text.substring(text.lastIndexOf('/') + 1);
    }

    /// Last folder and file name, by which media that moved as a whole is known again.
    public String lastTwoKey() {
        int slash = text.lastIndexOf('/');
        int before = slash <= 0 ? -1 : text.lastIndexOf('/', slash - 1);
        return composed(text.substring(before + 1)).toLowerCase(Locale.ROOT);
    }

    /// As a URL: `file:///a/b%20c`, `file:///E:/a`, `file://server/share/a`, or a relative reference.
    public String url() {
        return switch (form) {
            case POSIX -> "file://" + escaped(text);
            case DRIVE -> "file:///" + text.substring(0, 2) + escaped(text.substring(2));
            case SHARE -> "file:" + escaped(text);
            case RELATIVE -> escaped(text);
        };
    }

    private static String escaped(String text) {
        var url = new StringBuilder();
        for (byte b : text.getBytes(StandardCharsets.UTF_8)) {
            char c = (char) (b & 0xff);
            if (c < 128 && (Character.isLetterOrDigit(c) || KEPT.indexOf(c) >= 0)) {
                url.append(c);
            } else {
                url.append(String.format(Locale.ROOT, "%%%02X", b & 0xff));
            }
        }
        return url.toString();
    }

    /// As its system writes it. A relative one never begins like an option.
    ///
    /// @param system whose manner a relative path is written in
    public String plain(Form system) {
        return switch (form) {
            case POSIX -> text;
            case DRIVE, SHARE -> text.replace('/', '\\');
            case RELATIVE -> {
                String safe = text.startsWith("-") ? "./" + text : text;
                yield system.foldsCase() ? safe.replace('/', '\\') : safe;
            }
        };
    }

    /// On this machine; empty for a path of another system.
    public Optional<Path> local() {
        try {
            Path path = Path.of(text);
            boolean own = form == Form.RELATIVE || path.isAbsolute();
            return own ? Optional.of(path) : Optional.empty();
        } catch (InvalidPathException e) {
            return Optional.empty();
        }
    }

    @Override
    public String toString() {
        return plain(form);
    }
}
