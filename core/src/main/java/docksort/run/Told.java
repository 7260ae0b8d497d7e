package docksort.run;

import docksort.engine.PacketHashes;
import docksort.files.PartialFile;
import docksort.problem.Causes;
import docksort.run.CopyCheck.Finding;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/// What was told of a copy while it was made, in files in the making beside it.
///
/// @param pictures a small picture of each frame, or field, that went to the encoder
/// @param packets hashes of what was coded, see [PacketHashes]
public record Told(Optional<Path> pictures, Optional<Path> packets) {
    public static final Told NOTHING = new Told(Optional.empty(), Optional.empty());

    /// Where the packets are hashed to when the copy is read.
    Optional<Path> readBack() {
        return packets.map(Told::readBack);
    }

    static Path readBack(Path packets) {
        return PartialFile.piece(packets, 0);
    }

    /// Once the copy was read; what reading it wrote goes.
    Finding packetsFound() {
        Path again = readBack().orElseThrow();
        String wanted = "as they were coded";
        try {
            Optional<String> difference = PacketHashes.difference(packets.orElseThrow(), again);
            return new Finding("packets", wanted, difference.orElse(wanted), difference.isEmpty());
        } catch (IOException e) {
            return new Finding("packets", wanted, "not told: " + Causes.inWords(e), false);
        } finally {
            PartialFile.discard(again);
        }
    }
}
