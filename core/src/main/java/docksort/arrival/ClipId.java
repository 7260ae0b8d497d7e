package docksort.arrival;

import java.util.UUID;

/// Names a clip for the life of a project.
public record ClipId(String value) implements Comparable<ClipId> {
    public ClipId {
        if (value.isBlank()) {
            throw new IllegalArgumentException("a clip needs an id");
        }
    }

    public static ClipId fresh() {
        return new ClipId(UUID.randomUUID().toString());
    }

    @Override
    public int compareTo(ClipId other) {
        return value.compareTo(other.value);
    }

    @Override
    public String toString() {
        return value;
    }
}
