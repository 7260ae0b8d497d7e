package docksort.index;

import java.io.IOException;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.Optional;

/// What the headers of a file other than MOV or MP4 say of its picture, and what its own list of keyframes
/// says of where they are.
///
/// @param picture what the container states by itself
/// @param setUp bytes in which the stream's parameter sets are to be found
/// @param keyframes seconds from the file's start, ascending, as the container lists them; empty where it
///     lists none
public record ContainerSays(PictureSays picture, ByteBuffer setUp, List<Double> keyframes) {
    private static final int HEAD_BYTES = 1 << 20; // parameter sets stand before the first picture

    public ContainerSays {
        keyframes = List.copyOf(keyframes);
    }

    ContainerSays(PictureSays picture, ByteBuffer setUp) {
        this(picture, setUp, List.of());
    }

    /// @return what is known; nothing stated where the container is not read here or does not hold together
    /// @throws IOException when the file cannot be read
    public static ContainerSays read(Path file) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            int length = (int) Math.min(HEAD_BYTES, channel.size());
            ByteBuffer head = MovIndex.read(channel, 0, length);
            try {
                return switch (length < 16 ? 0 : head.getInt(0)) {
                    case 0x1A45DFA3 -> MkvHeader.read(channel, head);
                    case 0x52494646 -> AviHeader.read(channel, head);
                    case 0x060E2B34 -> new ContainerSays(MxfHeader.picture(head), head);
                    default -> new ContainerSays(PictureSays.NOTHING, head);
                };
            } catch (BufferUnderflowException | IndexOutOfBoundsException | IllegalArgumentException e) {
                return new ContainerSays(PictureSays.NOTHING, head);
            }
        }
    }

    /// Whether a file ends before its headers say: MXF without its footer, AVI shorter than its outermost
    /// chunk.
    public static boolean lacksEnd(Path file) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            if (channel.size() < 16) {
                return false;
            }
            ByteBuffer head = MovIndex.read(channel, 0, 12);
            return switch (head.getInt(0)) {
                case 0x52494646 -> (Integer.reverseBytes(head.getInt(4)) & 0xFFFF_FFFFL) + 8 > channel.size() + 1;
                case 0x060E2B34 -> MxfHeader.lacksEnd(channel);
                default -> false;
            };
        }
    }

    /// Two neighbouring keyframes.
    public record Gap(double fromSeconds, double seconds) {}

    /// The widest gap between two keyframes, empty where fewer than three are listed.
    public Optional<Gap> widestGap() {
        Gap widest = new Gap(0, 0);
        for (int i = 1; i < keyframes.size(); i++) {
            double seconds = keyframes.get(i) - keyframes.get(i - 1);
            widest = seconds > widest.seconds() ? new Gap(keyframes.get(i - 1), seconds) : widest;
        }
        return keyframes.size() > 2 ? Optional.of(widest) : Optional.empty();
    }
}
