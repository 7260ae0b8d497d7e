package docksort.files;

import java.nio.file.Path;
import java.util.Locale;
import java.util.Optional;

/// Where the system keeps what programs write for a person beside all projects (XDG Base Directory
/// Specification 0.8 for state, cache and configuration; the others common practice, no source).
final class UserFolders {
    private UserFolders() {}

    /// For logs.
    static Path logs() {
        return folder(
                "LOCALAPPDATA",
                "AppData/Local",
                "Dock Sort/Logs",
                "Library/Logs/Dock Sort",
                "XDG_STATE_HOME",
                ".local/state");
    }

    /// For what can be made again at any time.
    static Path cache() {
        return folder(
                "LOCALAPPDATA",
                "AppData/Local",
                "Dock Sort/Cache",
                "Library/Caches/Dock Sort",
                "XDG_CACHE_HOME",
                ".cache");
    }

    /// For what a person decided, and wants to keep.
    static Path config() {
        return folder(
                "APPDATA",
                "AppData/Roaming",
                "Dock Sort",
                "Library/Application Support/Dock Sort",
                "XDG_CONFIG_HOME",
                ".config");
    }

    private static Path folder(
            String windows, String windowsBelowHome, String windowsOwn, String mac, String xdg, String xdgBelowHome) {
        Path home = Path.of(System.getProperty("user.home", "."));
        String system = System.getProperty("os.name", "").toLowerCase(Locale.ROOT);
        if (system.startsWith("windows")) {
            return environment(windows, home.resolve(windowsBelowHome)).resolve(windowsOwn);
        }
        return system.startsWith("mac")
                ? home.resolve(mac)
                : environment(xdg, home.resolve(xdgBelowHome)).resolve("dock-sort");
    }

    private static Path environment(String name, Path otherwise) {
        return Optional.ofNullable(System.getenv(name))
                .filter(value -> !value.isBlank())
                .map(Path::of)
                .filter(Path::isAbsolute)
                .orElse(otherwise);
    }
}
