package docksort.timeline;

import docksort.files.Documents;
import docksort.media.ByteSize;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Predicate;

/// A timeline as it lies on the disk. Not safe for use by several threads.
public sealed interface TimelineDocument permits OtioTimeline, EditList, LinkTable {
    /// Endings of the files that are read, without the dot.
    List<String> ENDINGS = List.of("otio", "edl", "csv");

    /// Whether a name is that of a timeline that is read here.
    static boolean isTimeline(Path file) {
        return ENDINGS.contains(ending(file));
    }

    /// Reads a timeline by the ending of its name.
    ///
    /// @param usual rate of an edit list or table that does not tell its own
    /// @throws InputRefused when it cannot be read or is something else
    static TimelineDocument open(Path file, FrameRate usual) {
        Runtime machine = Runtime.getRuntime();
        refuseTooLarge(file, machine.maxMemory() - machine.totalMemory() + machine.freeMemory());
        return switch (ending(file)) {
            case "edl" -> EditList.open(file, usual);
            case "csv" -> LinkTable.open(file, usual);
            default -> OtioTimeline.open(file);
        };
    }

    /// A timeline that is read takes about seven times its bytes, and a little more on the way (measured:
    /// docs/measurements.md).
    ///
    /// @param left bytes of memory that may still be used
    static void refuseTooLarge(Path file, long left) {
        long bytes = Documents.size(file);
        if (bytes > left / TIMES_ITS_BYTES) {
            throw refused(
                    file,
                    "it has " + new ByteSize(bytes) + ", and about " + new ByteSize(bytes * TIMES_ITS_BYTES)
                            + " of memory are needed for it, of which " + new ByteSize(Math.max(0, left)) + " are left",
                    "Split it, or close other timelines and programs and start again.");
        }
    }

    /// Memory for each byte of the file.
    long TIMES_ITS_BYTES = 8;

    private static String ending(Path file) {
        String name = String.valueOf(file.getFileName()).toLowerCase(Locale.ROOT);
        return name.substring(name.lastIndexOf('.') + 1);
    }

    Path file();

    String name();

    /// Rate of the timeline, where it tells one.
    Optional<FrameRate> rate();

    /// Raster of the timeline, where it tells one.
    Optional<Raster> raster();

    /// Every use of media, in the order of the file.
    List<TimelineEvent> events();

    /// Lets an event lead to a file.
    ///
    /// @param number of the event
    /// @param leadsToOriginal tells of an address whether it is the original's
    /// @return whether anything changed
    boolean point(int number, MediaTarget target, Predicate<String> leadsToOriginal);

    /// Says in the document itself that it leaves for a review on copies; an empty text takes that back.
    void markReview(String words);

    /// What [#markReview] wrote, empty where it is not marked.
    String reviewMark();

    /// The same timeline as it stands now, independent of later changes.
    TimelineDocument copy();

    /// The document as it stands now.
    byte[] bytes();

    /// The file as it was last read or written.
    Version version();

    /// That this timeline may replace a file.
    ///
    /// @throws InputRefused when the target is no timeline of this kind by its name, or another program has
    /// changed the opened file since
    default void refuseAs(Path target) {
        Path absolute = target.toAbsolutePath().normalize();
        if (!ending(absolute).equals(ending(file()))) {
            throw new InputRefused(new Problem(
                    "The timeline was not saved as " + target,
                    "its name must end with ." + ending(file()),
                    "Nothing was written.",
                    "Choose another name."));
        }
        if (absolute.equals(file()) && version().isOutdated(file())) {
            throw new InputRefused(new Problem(
                    "The timeline was not saved over " + file(),
                    "another program has changed it since it was opened",
                    "Nothing was written.",
                    "Save under another name, or open it again."));
        }
    }

    /// Replaces a file by this timeline in one step.
    ///
    /// @throws InputRefused as [#refuseAs]
    default void save(Path target) {
        refuseAs(target);
        Documents.replace(target, bytes());
        wasWritten(target);
    }

    /// A file was replaced by this timeline as it stands.
    default void wasWritten(Path target) {
        if (target.toAbsolutePath().normalize().equals(file())) {
            version().isNow(file());
        }
    }

    /// Time stamp of the opened file. Earlier states of the same timeline share it.
    final class Version {
        private volatile long modified;

        Version(Path file) {
            modified = Documents.modified(file);
        }

        /// Whether another program has written the file since.
        public boolean isOutdated(Path file) {
            return Documents.modified(file) != modified;
        }

        void isNow(Path file) {
            modified = Documents.modified(file);
        }
    }

    /// Why a file is not opened.
    static InputRefused refused(Path file, String why, String whatToDo) {
        return new InputRefused(new Problem(
                "Cannot open the timeline " + file, why, "The file and the project are as they were.", whatToDo));
    }
}
