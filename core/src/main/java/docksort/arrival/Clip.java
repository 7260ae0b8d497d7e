package docksort.arrival;

import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.FrameRate;
import java.util.Optional;
import java.util.function.Supplier;

/// One recording of an arrival: its file or files, what inspecting told, and what recognises it
/// elsewhere.
///
/// Immutable. The facts may be read when they are first asked for, because a list of a hundred thousand
/// clips is wanted long before all of their facts are.
public final class Clip {
    private final ClipId id;
    private final ArrivalId arrival;
    private final ClipSource source;
    private final Supplier<ClipFacts> facts;
    private final Fingerprint fingerprint;

    public Clip(ClipId id, ArrivalId arrival, ClipSource source, ClipFacts facts, Fingerprint fingerprint) {
        this(id, arrival, source, fingerprint, () -> facts);
    }

    private Clip(ClipId id, ArrivalId arrival, ClipSource source, Fingerprint fingerprint, Supplier<ClipFacts> facts) {
        this.id = id;
        this.arrival = arrival;
        this.source = source;
        this.facts = facts;
        this.fingerprint = fingerprint;
    }

    /// A clip whose facts are read when they are first asked for, and kept then.
    ///
    /// @param facts gives the same facts however often and by whichever thread it is asked; clips whose facts come
    ///     from an equal source have the same facts, without reading them
    public static Clip withFactsLater(
            ClipId id, ArrivalId arrival, ClipSource source, Fingerprint fingerprint, Supplier<ClipFacts> facts) {
        return new Clip(id, arrival, source, fingerprint, new Once(facts));
    }

    /// Two threads may both ask at first; both get the same facts then, and one of the answers is kept.
    private static final class Once implements Supplier<ClipFacts> {
        private final Supplier<ClipFacts> source;
        private volatile Optional<ClipFacts> known = Optional.empty();

        Once(Supplier<ClipFacts> source) {
            this.source = source;
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof Once that && source.equals(that.source);
        }

        @Override
        public int hashCode() {
            return source.hashCode();
        }

        @Override
        public ClipFacts get() {
            return known.orElseGet(() -> {
                ClipFacts read = source.get();
                known = Optional.of(read);
                return read;
            });
        }
    }

    public ClipId id() {
        return id;
    }

    public ArrivalId arrival() {
        return arrival;
    }

    public ClipSource source() {
        return source;
    }

    public ClipFacts facts() {
        return facts.get();
    }

    public Fingerprint fingerprint() {
        return fingerprint;
    }

    public String name() {
        return source.name();
    }

    /// The clip read at a rate that somebody chose, where it states none itself.
    public Clip interpretedAt(FrameRate rate) {
        return new Clip(id, arrival, source, facts().interpretedAt(rate), fingerprint);
    }

    @Override
    public boolean equals(Object other) {
        return this == other
                || (other instanceof Clip that
                        && id.equals(that.id)
                        && arrival.equals(that.arrival)
                        && source.equals(that.source)
                        && fingerprint.equals(that.fingerprint)
                        && (facts.equals(that.facts) || facts().equals(that.facts())));
    }

    @Override
    public int hashCode() {
        return id.hashCode();
    }

    @Override
    public String toString() {
        return name() + " (" + source.head() + ")";
    }
}
