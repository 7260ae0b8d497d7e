package docksort.engine;

import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.PixelFormat.Chroma;
import java.nio.file.Path;
import java.util.Collections;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/// One copy to encode: from what, into what, to where. All choices are made; nothing is left to the
/// encoder's defaults.
///
/// @param name the clip's name, for a burn-in
/// @param tags what the copy tells of itself, written into its metadata where the container takes it
/// @param output a partial file; it is overwritten
/// @param heldToEnd whether the last frame that decodes is repeated until the copy has all its frames
/// @param pictures a file that gets a small picture of each frame as it goes to the encoder, see [FrameSamples#kept];
///     it is overwritten
/// @param packets a file that gets hashes of the packets that are coded, see [PacketHashes]; it is overwritten
public record CopyOrder(
        ClipSource source,
        ClipFacts facts,
        CopyForm form,
        String name,
        Map<String, String> tags,
        Path output,
        boolean heldToEnd,
        Optional<Path> pictures,
        Optional<Path> packets) {
    /// Without anything being held.
    public CopyOrder(
            ClipSource source, ClipFacts facts, CopyForm form, String name, Map<String, String> tags, Path output) {
        this(source, facts, form, name, tags, output, false, Optional.empty(), Optional.empty());
    }

    public CopyOrder {
        tags = Collections.unmodifiableMap(new TreeMap<>(tags));
    }

    /// The same, and every frame that goes to the encoder is told by a small picture.
    public CopyOrder telling(Path small) {
        return new CopyOrder(source, facts, form, name, tags, output, heldToEnd, Optional.of(small), packets);
    }

    /// The same, and the packets that are coded are hashed.
    public CopyOrder hashing(Path hashes) {
        return new CopyOrder(source, facts, form, name, tags, output, heldToEnd, pictures, Optional.of(hashes));
    }

    /// Whether small pictures of what goes to the encoder have the luma of what comes out of it: of colours that the
    /// encoder's end of the chain turns into video, they have not.
    public boolean mayTellFrames() {
        return form.target().filter(target -> target.chroma() != Chroma.RGB).isPresent()
                && !heldToEnd
                && facts.video()
                        .filter(picture -> !picture.isRgb() && !picture.pixels().isMosaic())
                        .isPresent();
    }

    public CopyOrder holdingToEnd() {
        return new CopyOrder(source, facts, form, name, tags, output, true, Optional.empty(), packets);
    }
}
