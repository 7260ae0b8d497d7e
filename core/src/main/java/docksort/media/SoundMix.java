package docksort.media;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// Which channels of a clip a copy's channels are made of, in one stream. Channels of a clip are counted
/// through all its streams from 1; several that become one are averaged, so that nothing clips.
///
/// @param channels of the copy: numbers of the clip's, none of them for all there are; an empty list keeps
///     streams and channels as they are
public record SoundMix(List<List<Integer>> channels) {
    /// Streams and channels are kept.
    public static final SoundMix KEPT = new SoundMix(List.of());

    private static final int MOST = 16;
    private static final int HIGHEST = 64;

    public SoundMix {
        channels = channels.stream().map(List::copyOf).toList();
        if (channels.size() > MOST) {
            throw new IllegalArgumentException("sound is mixed to at most " + MOST + " channels");
        }
        if (channels.stream().flatMap(List::stream).anyMatch(channel -> channel < 1 || channel > HIGHEST)) {
            throw new IllegalArgumentException("channels are numbered 1 to " + HIGHEST);
        }
    }

    /// "1+2, 3" for two channels, "all" for one of everything; blank keeps them.
    ///
    /// @throws IllegalArgumentException for anything else
    public static SoundMix parse(String text) {
        var channels = new ArrayList<List<Integer>>();
        if (text.isBlank()) {
            return KEPT;
        }
        for (String part : text.split(",", -1)) {
            String one = part.strip();
            channels.add(
                    one.equalsIgnoreCase("all")
                            ? List.of()
                            : Stream.of(one.split("\\+", -1))
                                    .map(number -> number(number.strip(), text))
                                    .toList());
        }
        return new SoundMix(channels);
    }

    private static int number(String word, String text) {
        if (!word.matches("\\d{1,2}")) {
            throw new IllegalArgumentException("a mix is written as 1+2, 3 or as all, was \"" + text.strip() + "\"");
        }
        return Integer.parseInt(word);
    }

    public boolean isKept() {
        return channels.isEmpty();
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
        return channels.stream()
                .map(from -> from.isEmpty()
                        ? IntStream.rangeClosed(1, available).boxed().toList()
                        : from)
                .map(from -> from.stream()
                        .map(number -> new Share(number - 1, 1.0 / from.size()))
                        .toList())
                .toList();
    }

    /// @param channel from 0
    public record Share(int channel, double share) {}

    /// "1+2, 3"
    @Override
    public String toString() {
        return channels.stream()
                .map(from -> from.isEmpty()
                        ? "all"
                        : from.stream().map(String::valueOf).collect(Collectors.joining("+")))
                .collect(Collectors.joining(", "));
    }
}
