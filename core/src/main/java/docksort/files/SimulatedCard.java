package docksort.files;

import docksort.files.TreeCopy.Source;
import java.io.ByteArrayInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Optional;

/// Cards that misbehave, to try out what happens: a folder on a disk is read as if it were one. Nothing
/// in it is changed.
public enum SimulatedCard {
    /// The first file cannot be read beyond its middle.
    READ_FAULT {
        @Override
        InputStream open(Path file, boolean first) throws IOException {
            InputStream in = Files.newInputStream(file);
            return first ? new Failing(in, Files.size(file) / 2) : in;
        }
    },
    /// After the first file there is no card any more.
    PULLED_OUT {
        @Override
        InputStream open(Path file, boolean first) throws IOException {
            if (!first) {
                throw new IOException("the card was pulled out");
            }
            return Files.newInputStream(file);
        }
    },
    /// The first file is longer than the card's listing said.
    CHANGED {
        @Override
        InputStream open(Path file, boolean first) throws IOException {
            InputStream in = Files.newInputStream(file);
            return first ? new SequenceInputStream(in, new ByteArrayInputStream(new byte[] {0})) : in;
        }
    };

    abstract InputStream open(Path file, boolean first) throws IOException;

    /// "read-fault"
    public String label() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    public static Optional<SimulatedCard> named(String label) {
        for (SimulatedCard card : values()) {
            if (card.label().equals(label)) {
                return Optional.of(card);
            }
        }
        return Optional.empty();
    }

    /// One such card.
    public Source source() {
        return new Source() {
            private boolean begun;

            @Override
            public InputStream open(Path file) throws IOException {
                boolean first = !begun;
                begun = true;
                return SimulatedCard.this.open(file, first);
            }
        };
    }

    private static final class Failing extends FilterInputStream {
        private long left;

        Failing(InputStream in, long left) {
            super(in);
            this.left = left;
        }

        @Override
        public int read(byte[] buffer, int from, int length) throws IOException {
            if (left <= 0) {
                throw new IOException("the card cannot be read here");
            }
            int count = super.read(buffer, from, (int) Math.min(length, left));
            left -= count;
            return count;
        }
    }
}
