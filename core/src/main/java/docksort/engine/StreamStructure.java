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
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
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
        var samples = new ArrayList<Integer>();
        var pictures = new ArrayList<Integer>();
        var number = new int[1];
        track.samplesShown((sample, _, key, _) -> {
            if (key && samples.size() < PEEKED_KEYS) {
                samples.add(sample);
                pictures.add(number[0]);
            }
            number[0]++;
        });
        int some = Math.min(PEEKED_RUN, samples.size());
        var few = new ArrayList<>(samples.subList(0, some));
        int middle = Math.max(some, samples.size() / 2);
        few.addAll(samples.subList(middle, Math.min(samples.size(), middle + PEEKED_RUN)));
        if (look(file, track, few).stream().noneMatch(StreamStructure::onlyRecovers)) {
            return Optional.empty();
        }
        return withoutRecoveryPoints(structure, pictures, look(file, track, samples), disagreements);
    }

    /// @param pictures numbers of those that are marked as keyframes
    /// @param looked what is coded at them, in their order
    /// @return empty where nothing recovers
    static Optional<FrameStructure> withoutRecoveryPoints(
            FrameStructure structure,
            List<Integer> pictures,
            List<Optional<Coded>> looked,
            Disagreements disagreements) {
        var recovery = new HashSet<Integer>();
        for (int i = 0; i < pictures.size(); i++) {
            if (onlyRecovers(looked.get(i))) {
                recovery.add(pictures.get(i));
            }
        }
        if (recovery.isEmpty()) {
            return Optional.empty();
        }
        var builder = new FrameStructure.Builder(structure.extent(), structure.timeBase());
        var kept = new int[1];
        Set<Integer> starts = Arrays.stream(structure.stretchStarts()).boxed().collect(Collectors.toSet());
        structure.forEach((index, shown, key, bytes) -> {
            if (index > 0 && starts.contains(index)) {
                builder.breakHere();
            }
            boolean whole = key && !recovery.contains(index);
            kept[0] += whole ? 1 : 0;
            builder.add(shown, whole, bytes);
        });
        disagreements.recoveryPoints(recovery.size(), kept[0]);
        return Optional.of(builder.build());
    }

    private static boolean onlyRecovers(Optional<Coded> looked) {
        return looked.filter(coded -> !coded.intra() && !coded.entry()).isPresent();
    }

    private static List<Optional<Coded>> look(Path file, MovTrack track, List<Integer> samples) throws IOException {
        return SlicePeek.look(
                file, track, samples.stream().mapToInt(Integer::intValue).toArray());
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
