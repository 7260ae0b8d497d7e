package docksort.media;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// Which channels of a clip a copy's channels are made of, and in which streams they are. Channels of a clip are
/// counted through all its streams from 1; several that become one are averaged, so that nothing clips.
///
/// @param channels of the copy: numbers of the clip's, none of them for all there are; an empty list takes all
///     channels as they are
/// @param streams how many of the channels each stream of the copy has, in their order; an empty list keeps
///     streams as they are
public record SoundMix(List<List<Integer>> channels, List<Integer> streams) {
    /// Streams and channels are kept.
    public static final SoundMix KEPT = new SoundMix(List.of(), List.of());

    /// All channels are taken as they are, each as a stream of its own.
    public static final SoundMix EACH = new SoundMix(List.of(), List.of(1));

    private static final int MOST = 16;
    private static final int HIGHEST = 64;
    private static final String EACH_WORD = "each";

    public SoundMix {
        channels = channels.stream().map(List::copyOf).toList();
        streams = List.copyOf(streams);
        if (channels.size() > MOST) {
            throw new IllegalArgumentException("sound is mixed to at most " + MOST + " channels");
        }
        if (channels.stream().flatMap(List::stream).anyMatch(channel -> channel < 1 || channel > HIGHEST)) {
            throw new IllegalArgumentException("channels are numbered 1 to " + HIGHEST);
        }
        boolean sound = channels.isEmpty()
                ? streams.isEmpty() || streams.equals(List.of(1))
                : streams.stream().allMatch(size -> size > 0)
                        && streams.stream().mapToInt(Integer::intValue).sum() == channels.size();
        if (!sound) {
            throw new IllegalArgumentException("streams of " + streams + " channels do not hold " + channels.size());
        }
    }

    /// "1+2, 3" for two channels, "all" for one of everything, "1; 2" for two streams, "each" for a stream for
    /// each channel; blank keeps them.
    ///
    /// @throws IllegalArgumentException for anything else
    public static SoundMix parse(String text) {
        if (text.isBlank()) {
            return KEPT;
        }
        if (text.strip().equalsIgnoreCase(EACH_WORD)) {
            return EACH;
        }
        var channels = new ArrayList<List<Integer>>();
        var streams = new ArrayList<Integer>();
        for (String stream : text.split(";", -1)) {
            String[] parts = stream.split(",", -1);
            streams.add(parts.length);
            for (String part : parts) {
                String one = part.strip();
                channels.add(
                        one.equalsIgnoreCase("all")
                                ? List.of()
                                : Stream.of(one.split("\\+", -1))
                                        .map(number -> number(number.strip(), text))
                                        .toList());
            }
        }
        return new SoundMix(channels, streams);
    }

    private static int number(String word, String text) {
        if (!word.matches("\\d{1,2}")) {
            throw new IllegalArgumentException(
                    "a mix is written as 1+2, 3, with ; between streams, as each or as all, was \"" + text.strip()
                            + "\"");
        }
        return Integer.parseInt(word);
    }

    public boolean isKept() {
        return streams.isEmpty();
    }

    /// Whether every channel becomes a stream of its own, as it is.
    public boolean isEach() {
        return channels.isEmpty() && !streams.isEmpty();
    }

    /// How many channels each stream of a copy has.
    ///
    /// @param available how many channels the clip has
    public List<Integer> sizes(int available) {
        return isEach() ? Collections.nCopies(available, 1) : streams;
    }

    /// The highest number of a channel that it takes, 0 for none.
    public int highest() {
        return channels.stream()
                .flatMap(List::stream)
                .mapToInt(Integer::intValue)
                .max()
                .orElse(0);
    }

    /// Shares of the clip's channels in each of the copy's.
    ///
    /// @param available how many channels the clip has
    /// @return for each channel of the copy pairs of a channel, from 0, and its share
    public List<List<Share>> shares(int available) {
        if (channels.isEmpty()) {
            return IntStream.range(0, available)
                    .mapToObj(channel -> List.of(new Share(channel, 1)))
                    .toList();
        }
        return channels.stream()
                .map(from -> from.isEmpty()
                        ? IntStream.rangeClosed(1, available).boxed().toList()
                        : from)
                .map(from -> from.stream()
                        .map(number -> new Share(number - 1, 1.0 / from.size()))
                        .toList())
                .toList();
    }

    /// The same, for each stream of a copy.
    public List<List<List<Share>>> streams(int available) {
        List<List<Share>> all = shares(available);
        var streams = new ArrayList<List<List<Share>>>();
        int next = 0;
        for (int size : sizes(available)) {
            streams.add(all.subList(next, next + size));
            next += size;
        }
        return List.copyOf(streams);
    }

    /// @param channel from 0
    public record Share(int channel, double share) {}

    /// "1+2, 3"
    @Override
    public String toString() {
        if (channels.isEmpty()) {
            return isEach() ? EACH_WORD : "";
        }
        var words = new ArrayList<String>();
        int from = 0;
        for (int size : streams) {
            words.add(channels.subList(from, from + size).stream()
                    .map(channel -> channel.isEmpty()
                            ? "all"
                            : channel.stream().map(String::valueOf).collect(Collectors.joining("+")))
                    .collect(Collectors.joining(", ")));
            from += size;
        }
        return String.join("; ", words);
    }
}
