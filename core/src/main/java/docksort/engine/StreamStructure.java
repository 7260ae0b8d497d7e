package docksort.engine;

import docksort.index.MovIndex;
import docksort.index.MovTrack;
import docksort.index.SlicePeek;
import docksort.index.SlicePeek.Coded;
import docksort.media.Codec;
import docksort.media.CodedFrame;
import docksort.media.FrameStructure;
import docksort.media.FrameStructure.Extent;
import docksort.media.FrameStructure.Grouping;
import docksort.media.Rational;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/// The frame structure from a file's own index, held against the coded pictures where the index could be wrong.
final class StreamStructure {
    private static final int PEEKED_RUN = 48;
    private static final int PEEKED_WHERE_WRONG = 3_000;
    private static final int PEEKED_LEADING = 16;

    private StreamStructure() {}

    /// The track that a stream of the engine is.
    static Optional<MovTrack> track(Optional<MovIndex> index, String fourCc) {
        List<MovTrack> tracks = index.map(MovIndex::tracks).orElse(List.of());
        return tracks.stream()
                .filter(track -> track.fourCc().equals(fourCc))
                .findFirst()
                .or(() -> tracks.stream().findFirst());
    }

    static FrameStructure of(Path file, MovTrack track, Codec codec, Disagreements disagreements) throws IOException {
        FrameStructure structure = track.structure(false);
        if (track.samples().claimsAllKeys() && !codec.isIntraByNature()) {
            return checked(file, track, structure, disagreements);
        }
        if (structure.grouping() == Grouping.OPEN && leadingStandAlone(file, track)) {
            return track.structure(true);
        }
        return structure;
    }

    /// A container without a list of keyframes says that every picture is one. Codecs that can do otherwise are
    /// asked themselves.
    private static FrameStructure checked(
            Path file, MovTrack track, FrameStructure structure, Disagreements disagreements) throws IOException {
        int count = track.samples().count();
        int[] run = IntStream.concat(
                        IntStream.range(0, Math.min(PEEKED_RUN, count)),
                        IntStream.range(Math.max(PEEKED_RUN, count / 2), Math.min(count / 2 + PEEKED_RUN, count)))
                .toArray();
        List<Optional<Coded>> looked = SlicePeek.look(file, track, run);
        boolean allIntra = looked.stream().flatMap(Optional::stream).allMatch(Coded::intra);
        if (allIntra) {
            return structure;
        }
        int[] all = IntStream.range(0, Math.min(count, PEEKED_WHERE_WRONG)).toArray();
        List<Optional<Coded>> pictures = SlicePeek.look(file, track, all);
        boolean marked = pictures.stream().flatMap(Optional::stream).anyMatch(Coded::entry);
        List<CodedFrame> frames = structure.frames(0, all.length);
        var corrected =
                new FrameStructure.Builder(all.length == count ? Extent.WHOLE : Extent.STRETCH, structure.timeBase());
        int keys = 0;
        for (int i = 0; i < frames.size(); i++) {
            boolean key =
                    pictures.get(i).map(c -> marked ? c.entry() : c.intra()).orElse(false);
            keys += key ? 1 : 0;
            corrected.add(frames.get(i).shownAtTicks(), key, frames.get(i).bytes());
        }
        disagreements.keyframes(keys + " of the first " + frames.size());
        return corrected.build();
    }

    private static boolean leadingStandAlone(Path file, MovTrack track) throws IOException {
        var leading = new ArrayList<Integer>();
        var keyShown = new long[] {Long.MIN_VALUE};
        var keySample = new int[] {-1};
        track.samplesShown((sample, shown, key, _) -> {
            if (key) {
                keyShown[0] = shown;
                keySample[0] = sample;
            } else if (shown < keyShown[0] && leading.size() < PEEKED_LEADING) {
                if (!leading.contains(keySample[0])) {
                    leading.add(keySample[0]);
                }
                leading.add(sample);
            }
        });
        int[] samples = leading.stream().mapToInt(Integer::intValue).toArray();
        List<Coded> looked = SlicePeek.look(file, track, samples).stream()
                .flatMap(Optional::stream)
                .toList();
        return track.marksLeading() && !looked.isEmpty() && looked.stream().noneMatch(Coded::leadingNeedsBefore);
    }

    /// Pictures in decode order from pictures in the order of showing, where a container times only decoding:
    /// each
    /// picture that others lean on is decoded before the two-way ones shown before it.
    ///
    /// @param kinds one letter for each picture as shown: I, P or B
    static FrameStructure fromShownOrder(String kinds, boolean[] keys, int[] sizes, Rational timeBase, Extent extent) {
        var builder = new FrameStructure.Builder(extent, timeBase);
        int waiting = 0;
        for (int i = 0; i < kinds.length(); i++) {
            boolean twoWay = kinds.charAt(i) == 'B';
            if (twoWay && i + 1 < kinds.length()) {
                waiting++;
                continue;
            }
            builder.add(i, keys[i], sizes[i]);
            for (int b = i - waiting; b < i; b++) {
                builder.add(b, keys[b], sizes[b]);
            }
            waiting = 0;
        }
        return builder.build();
    }
}
