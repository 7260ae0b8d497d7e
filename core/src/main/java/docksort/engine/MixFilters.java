package docksort.engine;

import docksort.media.AudioStream;
import docksort.media.CopyForm;
import docksort.media.SoundMix;
import docksort.media.SoundMix.Share;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/// The filters that mix sound. Each stream of a copy is made by a graph of its own, which has one end and takes
/// only the streams of the clip that it needs: graphs with several ends let the engine hang in about every second
/// run when eight copies of a clip were made together (FFmpeg 8.0.1).
final class MixFilters {
    private static final double NEARLY_ALL = 0.9999999;

    private MixFilters() {}

    /// What each stream of the clip goes through before it is mixed, and each mix after it.
    ///
    /// @param gapless see [CopyCommand]
    /// @param cut to the beginning of the copy; empty, or with a comma at its end
    /// @param samplesPerSecond of all that is mixed
    /// @param seconds that each stream lasts at least
    /// @param after what the mixes go through, empty for nothing
    record Around(String gapless, String cut, int samplesPerSecond, String seconds, String after) {}

    /// Arguments that make the streams and choose them for an output.
    ///
    /// @param input number of the input that has the sound
    /// @param number tells the mixes from those of other outputs
    static List<String> mapped(SoundMix mix, List<AudioStream> audio, int input, int number, Around around) {
        int available = audio.stream().mapToInt(AudioStream::channels).sum();
        var line = new ArrayList<String>();
        int stream = 0;
        for (List<List<Share>> channels : mix.streams(available)) {
            String name = number + "x" + stream++;
            line.addAll(List.of("-filter_complex", graph(channels, audio, input, name, around)));
            line.addAll(List.of("-map", "[mix" + name + "]"));
        }
        return List.copyOf(line);
    }

    private static String graph(
            List<List<Share>> channels, List<AudioStream> audio, int input, String name, Around around) {
        var graph = new StringBuilder();
        var taken = new ArrayList<Integer>(); // channels of the clip, as they come out of what is merged
        var ends = new ArrayList<String>();
        int before = 0;
        for (int i = 0; i < audio.size(); i++) {
            int first = before;
            int count = audio.get(i).channels();
            before += count;
            boolean needed = channels.stream()
                    .flatMap(List::stream)
                    .anyMatch(from -> from.channel() >= first && from.channel() < first + count);
            if (!needed) {
                continue;
            }
            // Unnamed, as the engine brings named channels of several streams into an order of its own.
            String unnamed =
                    IntStream.range(0, count).mapToObj(c -> "|c" + c + "=c" + c).collect(Collectors.joining());
            String end = "[m%sx%d]".formatted(name, i);
            graph.append("[%d:a:%d]%s%saresample=%d,pan=%dc%s,apad=whole_dur=%s%s;"
                    .formatted(
                            input,
                            i,
                            around.gapless,
                            around.cut,
                            around.samplesPerSecond,
                            count,
                            unnamed,
                            around.seconds,
                            end));
            ends.add(end);
            IntStream.range(first, first + count).forEach(taken::add);
        }
        graph.append(String.join("", ends));
        if (ends.size() > 1) {
            graph.append("amerge=inputs=").append(ends.size()).append(',');
        }
        List<List<Share>> ofTaken = channels.stream()
                .map(from -> from.stream()
                        .map(share -> new Share(taken.indexOf(share.channel()), share.share()))
                        .toList())
                .toList();
        graph.append(pan(ofTaken, ends.size() > 1));
        if (!around.after.isEmpty()) {
            graph.append(',').append(around.after);
        }
        return graph.append("[mix").append(name).append(']').toString();
    }

    /// The filter that makes a stream of unnamed channels. Of several streams that were merged none is taken at
    /// just its level: the engine does that in another way, by which three of three come to other levels (measured
    /// with FFmpeg 8.0.1).
    ///
    /// @param channels which channels, from 0, and how much of each, for each channel of the stream
    static String pan(List<List<Share>> channels, boolean merged) {
        double most = merged ? NEARLY_ALL : 1;
        var filter = new StringBuilder("pan=").append(layout(channels.size()));
        for (int to = 0; to < channels.size(); to++) {
            filter.append("|c").append(to).append('=');
            filter.append(channels.get(to).stream()
                    .map(from -> String.format(Locale.ROOT, "%.7f*c%d", Math.min(from.share(), most), from.channel()))
                    .collect(Collectors.joining("+")));
        }
        return filter.toString();
    }

    /// One or two channels have names that every program knows.
    private static String layout(int channels) {
        return channels == 1 ? "mono" : channels == 2 ? "stereo" : channels + "c";
    }

    /// How the streams are coded; MP4 gets compressed sound.
    static List<String> coded(List<AudioStream> audio, CopyForm form) {
        if (audio.isEmpty()) {
            return List.of();
        }
        return switch (form.wrapper()) {
            case MP4 -> List.of("-c:a", "aac", "-b:a", "256k");
            default -> {
                int bits = audio.stream().mapToInt(form.sound()::bitsFor).max().orElse(16);
                yield List.of("-c:a", bits > 16 ? "pcm_s24le" : "pcm_s16le");
            }
        };
    }
}
