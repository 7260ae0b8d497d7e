package docksort.engine;

import docksort.files.PartialFile;
import docksort.index.MovIndex;
import docksort.index.MovTrack;
import docksort.media.CopyForm;
import docksort.media.VideoFacts;
import docksort.media.Wrapper;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.stream.IntStream;

/// Says in every VC-3 frame of a copy that its colour is that of BT.2020. The engine's encoder leaves the
/// two bits of each frame's header at 0, which means BT.709, and its decoder believes them more than the
/// container; so do players built on it. Offset and bits: libavcodec/dnxhddec.c, FFmpeg 8.0,
/// dnxhd_decode_header (SMPTE ST 2019-1, 2014 and later, "colour volume").
final class ColourVolume {
    private static final int PLACE = 0x2C;
    private static final int CONSTANT = 2 << 1;
    private static final int NOT_CONSTANT = 1 << 1;

    private ColourVolume() {}

    /// Whether copies need it.
    static boolean isNeeded(CopyOrder order) {
        CopyForm form = order.form();
        return form.isVc3()
                && form.wrapper() == Wrapper.MOV
                && form.look().keepsColours()
                && order.facts().video().filter(ColourVolume::isWide).isPresent();
    }

    private static boolean isWide(VideoFacts picture) {
        return picture.colour().isWideGamut() && !CopyCommand.isRgb(picture);
    }

    /// @throws IOException when the copy has no index, or cannot be written to
    static void write(CopyOrder order) throws IOException {
        boolean constant = order.facts()
                .video()
                .filter(picture -> picture.colour().matrix().equals("bt2020c"))
                .isPresent();
        Path file = order.output();
        Optional<MovTrack> track =
                MovIndex.read(file).flatMap(index -> index.tracks().stream().findFirst());
        if (track.isEmpty()) {
            throw new IOException("the copy has no index");
        }
        int[] all = IntStream.range(0, track.get().samples().count()).toArray();
        long[] places = track.get().samples().places(all);
        for (int i = 0; i < places.length; i++) {
            places[i] += PLACE;
        }
        PartialFile.setBits(file, places, constant ? CONSTANT : NOT_CONSTANT);
    }
}
