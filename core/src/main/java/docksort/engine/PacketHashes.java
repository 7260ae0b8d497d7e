package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.Wrapper;
import docksort.problem.Causes;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// Hashes of the coded packets of each stream of a copy, taken by the engine beside the container while it
/// writes, and again when the file is read back: the same where the file holds what was coded, byte for byte.
///
/// Containers keep the units of H.264 and HEVC in a form of their own; both times they are hashed in that of a
/// byte stream (annex B of Rec. ITU-T H.264 and H.265).
public final class PacketHashes {
    /// Adler-32 (RFC 1950): any one byte that is another changes it, and it costs a third of a second for a
    /// gigabyte, a CRC three times as much. The engine's murmur3, as quick, comes to other values for other
    /// lengths of packets.
    private static final String HASH = "adler32";

    /// Leaves out access unit delimiters, which say nothing, and writes all other units as a byte stream has
    /// them. Of AV1 the temporal delimiters are left out, which containers do not keep.
    ///
    /// Types of units: table 7-1 of Rec. ITU-T H.264 and of H.265; for AV1 its bitstream specification, from
    /// memory.
    private static final String LEFT_OUT = "filter_units=remove_types=%d";

    private final MediaEngine engine;

    public PacketHashes(MediaEngine engine) {
        this.engine = engine;
    }

    /// Whether a file gets what was coded and nothing else. What is taken over as it is keeps the mark that its
    /// old container has for its codec, which not every container takes, and only the engine's own list of
    /// outputs sets right.
    public static boolean mayTell(CopyOrder order) {
        return !ColourVolume.isNeeded(order) && !order.form().isRewrap();
    }

    /// The arguments for an output that is hashed while it is written.
    ///
    /// @param container the engine's name of the container and its options
    static List<String> written(CopyOrder order, String container, Path hashes) {
        String filter =
                toByteStream(order.form()).map(each -> ":bsfs/v=" + each).orElse("");
        return List.of(
                "-f",
                "tee",
                "[f=" + container + ":onfail=abort]" + quoted(order.output()) + "|[f=streamhash:onfail=abort:hash="
                        + HASH + filter + (tellsSound(order.form()) ? "" : ":select=v") + "]" + quoted(hashes));
    }

    /// Whether the container keeps the codec's parameter sets itself, and the encoder has to be told so,
    /// because it does not see the container.
    static boolean needsGlobalHeader(CopyOrder order) {
        return order.packets().isPresent()
                && (order.form().wrapper() == Wrapper.MOV || order.form().wrapper() == Wrapper.MP4);
    }

    /// Whether sound is hashed, too: MXF has it for as long as pictures, which is not known of all copies.
    private static boolean tellsSound(CopyForm form) {
        return form.wrapper() != Wrapper.MXF || !form.framesMayRound();
    }

    /// A path of any characters, as one word of a list of outputs.
    private static String quoted(Path file) {
        return "'" + ("file:" + file).replace("'", "'\\''") + "'";
    }

    /// Before the arguments of the outputs, where input 0 is a copy. The engine's reader of MP4 leaves out
    /// packets of sound that nobody hears, before the beginning; here none is to be missing.
    static List<String> again(ClipSource copy, CopyForm form) {
        var line = new ArrayList<String>();
        if (form.wrapper() == Wrapper.MP4) {
            line.addAll(List.of("-ignore_editlist", "1"));
            line.addAll(MediaEngine.input(copy, Optional.empty()));
        }
        return List.copyOf(line);
    }

    /// The arguments for an output that hashes the packets of input 0, a copy, see [#again].
    ///
    /// @param hashes where to; it is overwritten
    static List<String> readBack(CopyForm form, Path hashes) {
        var line = new ArrayList<>(List.of("-map", "0:V:0?"));
        if (tellsSound(form)) {
            line.addAll(List.of("-map", (form.wrapper() == Wrapper.MP4 ? 1 : 0) + ":a?"));
        }
        line.addAll(List.of("-c", "copy"));
        toByteStream(form).ifPresent(filter -> line.addAll(List.of("-bsf:v", filter)));
        line.addAll(List.of("-f", "streamhash", "-hash", HASH, "-y", "file:" + hashes));
        return List.copyOf(line);
    }

    /// Reads a copy of sound alone back.
    ///
    /// @param hashes where to; it is overwritten
    /// @return what the engine complained of, empty for nothing; no value when it was cancelled
    public Optional<String> ofSound(ClipSource copy, CopyForm form, Path hashes, ProcessControl control)
            throws InterruptedException {
        var line = new ArrayList<>(MediaEngine.input(copy, Optional.empty()));
        line.addAll(readBack(form, hashes));
        try {
            Ending ending = engine.raw(line, in -> in.transferTo(OutputStream.nullOutputStream()), control);
            if (ending.cut() == Cut.CANCELLED) {
                return Optional.empty();
            }
            return Optional.of(ending.complaint());
        } catch (IOException e) {
            return Optional.of(Causes.inWords(e));
        }
    }

    private static Optional<String> toByteStream(CopyForm form) {
        if (form.target().isEmpty()) {
            return Optional.empty();
        }
        return switch (form.target().get().family()) {
            case H264 -> Optional.of(LEFT_OUT.formatted(9));
            case HEVC -> Optional.of(LEFT_OUT.formatted(35));
            case AV1 -> Optional.of("av1_metadata=td=remove");
            case PRORES, VC3, MOTION_JPEG, CINEFORM -> Optional.empty();
        };
    }

    /// @return the streams that are not as they were coded, in words; empty for none
    /// @throws IOException when one of the files cannot be read
    public static Optional<String> difference(Path written, Path readBack) throws IOException {
        List<String> coded = Files.readAllLines(written);
        List<String> found = Files.readAllLines(readBack);
        if (coded.size() != found.size()) {
            return Optional.of(found.size() + " streams in place of " + coded.size());
        }
        var others = new ArrayList<String>();
        for (int i = 0; i < coded.size(); i++) {
            if (!coded.get(i).equals(found.get(i))) {
                boolean picture = coded.get(i).startsWith(i + ",v,");
                boolean first = coded.getFirst().startsWith("0,a,");
                others.add(picture ? "the picture's" : "those of sound stream " + (first ? i + 1 : i));
            }
        }
        return others.isEmpty() ? Optional.empty() : Optional.of("others: " + String.join(", ", others));
    }
}
