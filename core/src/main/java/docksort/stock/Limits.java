package docksort.stock;

import docksort.catalogue.WorkingCopy;
import docksort.media.ByteSize;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/// A project's standing rules for the room that its copies take. They only say which copies are past them:
/// nothing is deleted without a person. Copies that were made elsewhere are not counted.
///
/// @param unusedFor how long a copy stays after it was last needed
/// @param most how many bytes all copies may take together
public record Limits(Optional<Duration> unusedFor, Optional<ByteSize> most) {
    public static final Limits NONE = new Limits(Optional.empty(), Optional.empty());

    private static final String DAYS = "days ";
    private static final String BYTES = "bytes ";

    public boolean isNone() {
        return unusedFor.isEmpty() && most.isEmpty();
    }

    /// Reads what [#text] wrote; what it does not know is left out.
    public static Limits parse(String text) {
        return new Limits(
                value(text, DAYS).map(Duration::ofDays), value(text, BYTES).map(ByteSize::new));
    }

    private static Optional<Long> value(String text, String key) {
        return Stream.of(text.split(", ", -1))
                .filter(part -> part.startsWith(key))
                .map(part -> part.substring(key.length()))
                .filter(digits -> digits.matches("\\d{1,18}"))
                .map(Long::valueOf)
                .findFirst();
    }

    /// For keeping.
    public String text() {
        return String.join(
                ", ",
                Stream.of(unusedFor.map(age -> DAYS + age.toDays()), most.map(bytes -> BYTES + bytes.bytes()))
                        .flatMap(Optional::stream)
                        .toList());
    }

    /// For people.
    public String label() {
        if (isNone()) {
            return "none";
        }
        return String.join(
                "; ",
                Stream.of(
                                unusedFor.map(
                                        age -> age.toDays() + (age.toDays() == 1 ? " day" : " days") + " without need"),
                                most.map(bytes -> bytes + " in all"))
                        .flatMap(Optional::stream)
                        .toList());
    }

    /// Copies that are past the limits: those that were not needed for so long, and of the rest those that were
    /// not needed for longest until what stays is within the bytes.
    public List<WorkingCopy> past(List<StockLine> stock, Instant now) {
        List<WorkingCopy> own = CopySelection.ALL.from(stock, now).stream()
                .filter(copy -> !copy.isAdopted())
                .toList();
        Set<WorkingCopy> aged = unusedFor
                .map(age -> (Set<WorkingCopy>)
                        new HashSet<>(CopySelection.ALL.unusedFor(age).from(stock, now)))
                .orElse(Set.of());
        var past = new ArrayList<>(own.stream().filter(aged::contains).toList());
        List<WorkingCopy> rest =
                own.stream().filter(copy -> !aged.contains(copy)).toList();
        most.ifPresent(bytes -> past.addAll(CopySelection.beyond(rest, bytes)));
        return past;
    }
}
