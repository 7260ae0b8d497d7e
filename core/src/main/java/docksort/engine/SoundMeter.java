package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.media.AudioStream;
import docksort.media.ClipSound;
import docksort.media.ClipSource;
import docksort.media.Rational;
import docksort.problem.CoreException.ToolFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.FloatBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/// Measures all of the sound of a clip, channel by channel.
public final class SoundMeter {
    private static final float FULL = 32_767f / 32_768; // of 16 bits; others come nearer to 1
    private static final int IN_A_ROW = 3;

    private final MediaEngine engine;

    public SoundMeter(MediaEngine engine) {
        this.engine = engine;
    }

    /// @param audio all streams of the clip, at least one
    /// @return empty when it was cancelled
    /// @throws ToolFailed when the sound cannot be decoded
    public Optional<ClipSound> measure(ClipSource source, List<AudioStream> audio, Cancellation cancellation)
            throws InterruptedException {
        int rate = audio.stream().mapToInt(AudioStream::samplesPerSecond).max().orElseThrow();
        var line = new ArrayList<String>(MediaEngine.input(source, Optional.empty()));
        line.addAll(List.of("-filter_complex", filters(audio, rate), "-map", "[all]", "-f", "f32le", "pipe:1"));
        var meters = new ArrayList<Meter>();
        for (AudioStream stream : audio) {
            long samples = stream.seconds().times(Rational.of(rate)).rounded();
            IntStream.range(0, stream.channels()).forEach(_ -> meters.add(new Meter(samples, rate)));
        }
        try {
            Ending ending = engine.raw(line, in -> read(in, meters), ProcessControl.of(cancellation));
            if (ending.cut() == Cut.CANCELLED) {
                return Optional.empty();
            }
            if (!ending.isGood()) {
                throw failed(source, ending.complaint());
            }
        } catch (IOException e) {
            throw failed(source, String.valueOf(e.getMessage()));
        }
        return Optional.of(new ClipSound(
                meters.stream().map(Meter::channel).toList(),
                audio.stream().anyMatch(stream -> stream.codec().startsWith("pcm_f"))));
    }

    private static ToolFailed failed(ClipSource source, String why) {
        return new ToolFailed(new Problem(
                "The sound of " + source.head().getFileName() + " could not be measured",
                why,
                "The clip and what was measured before are as they were.",
                "Look whether the file plays to its end; copy it from its card again if it does not."));
    }

    /// Channels are taken for unnamed ones: the engine would bring named ones of several streams into an order
    /// of its own. A stream that ends before the others goes on as silence, which is not counted.
    private static String filters(List<AudioStream> audio, int rate) {
        String longest = Jump.seconds(audio.stream()
                .map(AudioStream::seconds)
                .max(Rational::compareTo)
                .orElseThrow());
        var chains = new StringBuilder();
        var all = new StringBuilder();
        for (int stream = 0; stream < audio.size(); stream++) {
            int channels = audio.get(stream).channels();
            String unnamed = IntStream.range(0, channels)
                    .mapToObj(c -> "|c" + c + "=c" + c)
                    .collect(Collectors.joining());
            chains.append("[0:a:%d]aformat=sample_fmts=flt:sample_rates=%d,pan=%dc%s%s[s%d];"
                    .formatted(
                            stream,
                            rate,
                            channels,
                            unnamed,
                            audio.size() > 1 ? ",apad=whole_dur=" + longest : "",
                            stream));
            all.append("[s").append(stream).append("]");
        }
        return chains + all.toString()
                + (audio.size() > 1 ? "amerge=inputs=" + audio.size() + "," : "")
                + "aformat=sample_fmts=flt[all]";
    }

    private static void read(InputStream in, List<Meter> meters) throws IOException {
        byte[] chunk = new byte[meters.size() * Float.BYTES * 4_096];
        int channel = 0;
        int read = in.readNBytes(chunk, 0, chunk.length);
        while (read > 0) {
            FloatBuffer samples = ByteBuffer.wrap(chunk, 0, read)
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .asFloatBuffer();
            while (samples.hasRemaining()) {
                meters.get(channel).add(samples.get());
                channel = channel + 1 == meters.size() ? 0 : channel + 1;
            }
            read = in.readNBytes(chunk, 0, chunk.length);
        }
    }

    /// Adds up one channel as it comes, so that the length of a clip does not matter.
    private static final class Meter {
        private final long all;
        private final int rate;
        private double peak;
        private double sum;
        private long count;
        private int row;
        private int clips;
        private long firstClip;
        private long lastClip;

        /// @param all how many samples its stream has; what comes behind them fills up
        Meter(long all, int rate) {
            this.all = all;
            this.rate = rate;
        }

        void add(float sample) {
            float size = Math.abs(sample);
            peak = Math.max(peak, size);
            sum += (double) size * size;
            row = size >= FULL ? row + 1 : 0;
            if (row == IN_A_ROW) {
                long from = count + 1 - IN_A_ROW;
                if (clips == 0 || from - lastClip > rate) {
                    clips++;
                    firstClip = clips == 1 ? from : firstClip;
                }
                lastClip = from;
            }
            count++;
        }

        ClipSound.Channel channel() {
            long own = Math.max(1, all > 0 ? Math.min(all, count) : count);
            return new ClipSound.Channel(peak, Math.sqrt(sum / own), clips, (double) firstClip / rate);
        }
    }
}
