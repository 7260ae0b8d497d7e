package docksort.index;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// Boxes of a MOV or MP4 header in memory (ISO/IEC 14496-12, 4.2). Every length is held to its parent's.
final class Boxes {
    private static final int MOST = 10_000; // boxes in one parent; a file with more is not walked further

    private Boxes() {}

    /// One box: its type and its content, without the header.
    record Box(String type, ByteBuffer content) {
        /// A view of the content whose position may be moved.
        ByteBuffer read() {
            return content.duplicate();
        }

        List<Box> children() {
            return Boxes.in(content);
        }

        Optional<Box> child(String wanted) {
            return children().stream().filter(box -> box.type.equals(wanted)).findFirst();
        }

        /// The box at the end of a path of types, each the first of its kind.
        Optional<Box> at(String... path) {
            Optional<Box> box = Optional.of(this);
            for (String type : path) {
                box = box.flatMap(parent -> parent.child(type));
            }
            return box;
        }
    }

    static List<Box> in(ByteBuffer parent) {
        var found = new ArrayList<Box>();
        ByteBuffer in = parent.duplicate();
        while (in.remaining() >= 8 && found.size() < MOST) {
            int start = in.position();
            long size = in.getInt() & 0xFFFF_FFFFL;
            String type = type(in);
            if (size == 1 && in.remaining() >= 8) {
                size = in.getLong();
            } else if (size == 0) {
                size = (long) in.limit() - start;
            }
            int header = in.position() - start;
            if (size < header || size > (long) in.limit() - start) {
                break; // the rest cannot be told apart
            }
            found.add(new Box(type, in.slice(in.position(), (int) size - header)));
            in.position(start + (int) size);
        }
        return found;
    }

    static String type(ByteBuffer in) {
        byte[] four = new byte[4];
        in.get(four);
        return new String(four, StandardCharsets.ISO_8859_1);
    }
}
