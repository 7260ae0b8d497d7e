package docksort.dispatch;

import java.net.URI;
import java.net.URISyntaxException;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;

/// Reads and writes the addresses of media in timelines: file URLs (RFC 8089), absolute paths, and paths
/// relative to the timeline. What is read is only compared with known paths, never opened.
final class MediaUrl {
    private MediaUrl() {}

    /// @param folder the timeline's folder
    /// @return empty for addresses that are not files of this machine
    static Optional<Path> toPath(String url, Path folder) {
        if (url.isBlank()) {
            return Optional.empty();
        }
        try {
            if (url.regionMatches(true, 0, "file:", 0, 5)) {
                URI uri = new URI(url);
                String host = uri.getHost();
                if (host != null && !host.isEmpty() && !host.equalsIgnoreCase("localhost")) {
                    return Optional.empty();
                }
                return uri.getPath() == null
                        ? Optional.empty()
                        : Optional.of(Path.of(uri.getPath()).normalize());
            }
            if (url.matches("[A-Za-z][A-Za-z0-9+.-]+:.*")) {
                return Optional.empty();
            }
            String text = url.contains("%") ? decoded(url) : url;
            return Optional.of(folder.resolve(text).normalize());
        } catch (URISyntaxException e) {
            return literal(url.substring(5), folder);
        } catch (InvalidPathException e) {
            return Optional.empty();
        }
    }

    /// Some programs write file URLs without escaping; then the text after the scheme is the path itself.
    private static Optional<Path> literal(String rest, Path folder) {
        try {
            String path = rest.startsWith("///")
                    ? rest.substring(2)
                    : rest.startsWith("//localhost/") ? rest.substring(11) : rest;
            return Optional.of(folder.resolve(path).normalize());
        } catch (InvalidPathException e) {
            return Optional.empty();
        }
    }

    private static String decoded(String url) {
        try {
            String path = new URI(url).getPath();
            return path == null ? url : path;
        } catch (URISyntaxException e) {
            return url;
        }
    }

    /// Writes an address in the manner of the one it stands beside: relative where that was relative, otherwise a
    /// file URL.
    static String write(Path file, Path folder, String like) {
        boolean relative = !like.isBlank() && !like.startsWith("/") && !like.matches("[A-Za-z][A-Za-z0-9+.-]*:.*");
        if (relative) {
            try {
                String path = folder.toAbsolutePath()
                        .relativize(file.toAbsolutePath())
                        .toString()
                        .replace('\\', '/');
                return new URI(null, null, path, null).getRawPath();
            } catch (URISyntaxException | IllegalArgumentException e) {
                return file.toUri().toString(); // another drive: there is no relative way
            }
        }
        URI uri = file.toUri();
        return uri.toString().startsWith("file:///") ? uri.toString() : "file://" + uri.getRawPath();
    }
}
