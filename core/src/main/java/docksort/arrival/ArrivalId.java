package docksort.arrival;

import java.util.UUID;

/// Names an arrival for the life of a project.
public record ArrivalId(String value) {
    public ArrivalId {
        if (value.isBlank()) {
            throw new IllegalArgumentException("an arrival needs an id");
        }
    }

    public static ArrivalId fresh() {
        return new ArrivalId(UUID.randomUUID().toString());
    }

    @Override
    public String toString() {
        return value;
    }
}
