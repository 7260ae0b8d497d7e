package docksort.dispatch;

import docksort.timeline.MediaPath;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.Function;

/// How addresses are written into a timeline.
///
/// @param manner relative, absolute, or as each stands
/// @param places the project's roots
/// @param workstation for whom it is written; empty for this one
/// @param relocated where the reader finds a file, as in a folder it was copied into; empty for files that
/// stayed
public record Addressing(
        Manner manner, Places places, Optional<String> workstation, Function<Path, Optional<Path>> relocated) {
    /// In the manner of the addresses that are there, for this workstation. What leads to the right file stays.
    public static final Addressing AS_IT_STANDS =
            new Addressing(Manner.AS_IT_STANDS, Places.NONE, Optional.empty(), Optional::of);

    /// For a timeline that comes to lie in another folder: relative addresses lead on to the same files from
    /// there.
    public static final Addressing ELSEWHERE =
            new Addressing(Manner.ELSEWHERE, Places.NONE, Optional.empty(), Optional::of);

    /// How an address begins.
    public enum Manner {
        AS_IT_STANDS,
        /// As it stands, and relative ones anew.
        ELSEWHERE,
        RELATIVE,
        ABSOLUTE
    }

    public static Addressing forWorkstation(Places places, String workstation, Manner manner) {
        return new Addressing(manner, places, Optional.of(workstation), Optional::of);
    }

    public static Addressing relative() {
        return new Addressing(Manner.RELATIVE, Places.NONE, Optional.empty(), Optional::of);
    }

    /// Relative to a timeline that lies beside the files it leads to.
    static Addressing relocated(Function<Path, Optional<Path>> to) {
        return new Addressing(Manner.RELATIVE, Places.NONE, Optional.empty(), to);
    }

    /// Whether addresses are written anew even where they lead to the right file.
    boolean anew() {
        return manner != Manner.AS_IT_STANDS || workstation.isPresent();
    }

    /// @param folder folder of the timeline that is written
    /// @param like the address it replaces or stands beside
    /// @param urls whether the document writes URLs
    /// @return empty where the reader has no path for the file
    Optional<String> write(Path file, Path folder, String like, boolean urls) {
        Optional<Path> meant = relocated.apply(file);
        if (meant.isEmpty()) {
            return Optional.empty();
        }
        MediaPath here = MediaPath.of(meant.get());
        Optional<MediaPath> absolute =
                workstation.isEmpty() ? Optional.of(here) : places.on(workstation.get(), meant.get());
        boolean url = urls || like.regionMatches(true, 0, "file:", 0, 5);
        return absolute.map(path -> {
            MediaPath relative = here.relativeTo(MediaPath.of(folder)); // itself where there is no relative way
            boolean asRelative = isRelative(like) && relative.form() == MediaPath.Form.RELATIVE;
            MediaPath written = asRelative ? relative : path;
            return url ? written.url() : written.plain(path.form());
        });
    }

    /// Whether an address has to be written anew although it leads to the right file.
    boolean concerns(String address) {
        return manner != Manner.ELSEWHERE || isRelative(address);
    }

    private boolean isRelative(String like) {
        return switch (manner) {
            case RELATIVE -> true;
            case ABSOLUTE -> false;
            case AS_IT_STANDS, ELSEWHERE -> {
                var readings = MediaPath.readings(like);
                yield !readings.isEmpty() && readings.stream().allMatch(path -> path.form() == MediaPath.Form.RELATIVE);
            }
        };
    }
}
