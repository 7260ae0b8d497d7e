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
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;

/// The frame structure from a file's own index, held against the coded pictures where the index could be
/// wrong.
final class StreamStructure {
    private static final int PEEKED_RUN = 48;
    private static final int PEEKED_KEYS = 12_000;
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

    /// @param recoveryPoints whether places are marked as keyframes at which a decoder only begins to
    ///     recover
    record Found(FrameStructure structure, boolean recoveryPoints) {
        Found(FrameStructure structure) {
            this(structure, false);
        }
    }

    static Found of(Path file, MovTrack track, Codec codec, Disagreements disagreements) throws IOException {
        FrameStructure structure = track.structure(false);
        if (track.samples().claimsAllKeys() && !codec.isIntraByNature()) {
            return checked(file, track, structure, disagreements);
        }
        Optional<FrameStructure> recovering = withoutRecoveryPoints(file, track, structure, disagreements);
        if (recovering.isPresent()) {
            return new Found(recovering.get(), true);
        }
        if (structure.grouping() == Grouping.OPEN && leadingStandAlone(file, track)) {
            return new Found(track.structure(true));
        }
        return new Found(structure);
    }

    /// Encoders that refresh a picture bit by bit list the places where they begin as keyframes. A
    /// decoder that begins there has no whole picture until some frames later (Rec. ITU-T H.264, D.2.8,
    /// recovery point). All places that are listed are looked at when one of some is such.
    ///
    /// @return the structure with intra pictures as its only keyframes; empty where nothing recovers
    private static Optional<FrameStructure> withoutRecoveryPoints(
            Path file, MovTrack track, FrameStructure structure, Disagreements disagreements) throws IOException {
        var listed = new ArrayList<Integer>();
        track.samplesShown((sample, _, key, _) -> {
            if (key && listed.size() < PEEKED_KEYS) {
                listed.add(sample);
            }
        });
        int some = Math.min(PEEKED_RUN, listed.size());
        var few = new ArrayList<>(listed.subList(0, some));
        int middle = Math.max(some, listed.size() / 2);
        few.addAll(listed.subList(middle, Math.min(listed.size(), middle + PEEKED_RUN)));
        if (recovering(file, track, few).isEmpty()) {
            return Optional.empty();
        }
        Set<Integer> recovery = recovering(file, track, listed);
        var builder = new FrameStructure.Builder(structure.extent(), structure.timeBase());
        var kept = new int[1];
        track.samplesShown((sample, shown, key, bytes) -> {
            boolean whole = key && !recovery.contains(sample);
            kept[0] += whole ? 1 : 0;
            builder.add(shown, whole, bytes);
        });
        disagreements.recoveryPoints(recovery.size(), kept[0]);
        return Optional.of(builder.build());
    }

    private static Set<Integer> recovering(Path file, MovTrack track, List<Integer> samples) throws IOException {
        int[] wanted = samples.stream().mapToInt(Integer::intValue).toArray();
        List<Optional<Coded>> looked = SlicePeek.look(file, track, wanted);
        var found = new HashSet<Integer>();
        for (int i = 0; i < wanted.length; i++) {
            if (looked.get(i).filter(coded -> !coded.intra() && !coded.entry()).isPresent()) {
                found.add(wanted[i]);
            }
        }
        return found;
    }

    /// A container without a list of keyframes says that every picture is one. Codecs that can do
    /// otherwise are asked themselves.
    private static Found checked(Path file, MovTrack track, FrameStructure structure, Disagreements disagreements)
            throws IOException {
        int count = track.samples().count();
        int[] run = IntStream.concat(
                        IntStream.range(0, Math.min(PEEKED_RUN, count)),
                        IntStream.range(Math.max(PEEKED_RUN, count / 2), Math.min(count / 2 + PEEKED_RUN, count)))
                .toArray();
        List<Optional<Coded>> looked = SlicePeek.look(file, track, run);
        boolean allIntra = looked.stream().flatMap(Optional::stream).allMatch(Coded::intra);
        if (allIntra) {
            return new Found(structure);
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
        return new Found(corrected.build());
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

    /// Pictures in decode order from pictures in the order of showing, where a container times only
    /// decoding: each picture that others lean on is decoded before the two-way ones shown before it.
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
