package docksort.dispatch;

import docksort.sort.CopyKind;

/// What an event leads to now.
public sealed interface Standing {
    String label();

    /// The recording itself.
    record OnOriginal() implements Standing {
        @Override
        public String label() {
            return "original";
        }
    }

    /// @param copyId the copy it is
    record OnCopy(CopyKind kind, String copyId) implements Standing {
        @Override
        public String label() {
            return kind.label();
        }
    }

    /// Several recordings, or none for certain, could be meant.
    record Doubtful() implements Standing {
        @Override
        public String label() {
            return "doubtful";
        }
    }

    /// It names media that is not the project's.
    record Foreign() implements Standing {
        @Override
        public String label() {
            return "not in the project";
        }
    }

    /// The event has no media, or a generator.
    record WithoutMedia() implements Standing {
        @Override
        public String label() {
            return "no media";
        }
    }
}
