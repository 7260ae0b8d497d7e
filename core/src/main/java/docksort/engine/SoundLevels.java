package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.media.AudioStream;
import docksort.media.ClipSource;
import docksort.media.Rational;
import docksort.media.SoundMix;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.ShortBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/// How loud each channel of a clip is in some short stretches of it.
public final class SoundLevels {
    private static final int SAMPLES_PER_SECOND = 16_000;
    private static final double FULL_SCALE = 32_768; // of 16 bits

    // Where a jump ends, decoders of some codecs need a while: 80 ms for Opus (RFC 7845, 4.6).
    private static final Rational LEAD = Rational.of(1);

    private final MediaEngine engine;

    public SoundLevels(MediaEngine engine) {
        this.engine = engine;
    }

    /// What was heard.
    ///
    /// @param levels root mean square of each channel over all stretches, 1 for full scale; channels are
    /// counted
    ///     through all streams; empty when it was cancelled or does not decode
    /// @param envelope of all channels together
    /// @param envelopes of each channel
    /// @param complaint why it does not decode, empty when it does
    public record Heard(List<Double> levels, Envelope envelope, List<Envelope> envelopes, String complaint) {
        Heard(String complaint) {
            this(List.of(), new Envelope(), List.of(), complaint);
        }

        public Heard {
            levels = List.copyOf(levels);
            envelopes = List.copyOf(envelopes);
        }
    }

    /// @param audio all streams of the clip, at least one
    /// @param reached whether a jump comes to a moment exactly, so that each stretch is come to from
    ///     before it; a jump to its very beginning loses what its first packet holds from before
    /// @param starts of the stretches, in seconds of the file
    /// @param seconds how long each of them is
    /// @param mix what is made of the channels before they are measured
    public Heard hear(
            ClipSource source,
            List<AudioStream> audio,
            boolean reached,
            List<Rational> starts,
            Rational seconds,
            SoundMix mix,
            ProcessControl control)
            throws InterruptedException {
        var line = new ArrayList<String>();
        List<Rational> leads = starts.stream()
                .map(start -> !reached ? Rational.ZERO : start.compareTo(LEAD) < 0 ? start : LEAD)
                .toList();
        for (int i = 0; i < starts.size(); i++) {
            Rational from = starts.get(i).minus(leads.get(i));
            if (from.isPositive()) {
                line.addAll(List.of("-ss", Jump.seconds(from)));
            }
            line.addAll(List.of("-t", Jump.seconds(seconds.plus(leads.get(i)))));
            line.addAll(MediaEngine.input(source, Optional.empty()));
        }
        line.addAll(List.of("-filter_complex", filters(audio, leads, seconds), "-map", "[all]"));
        line.addAll(List.of("-f", "s16le", "pipe:1"));
        var meter = new Meter(audio.stream().mapToInt(AudioStream::channels).sum(), mix);
        try {
            Ending ending = engine.raw(line, meter::read, control);
            if (ending.cut() == Cut.CANCELLED) {
                return new Heard("");
            }
            if (!ending.isGood()) {
                return new Heard(ending.complaint());
            }
        } catch (IOException e) {
            return new Heard(String.valueOf(e.getMessage()));
        }
        return new Heard(meter.levels(), meter.envelope, meter.envelopes, "");
    }

    /// A stream that ends before the others is heard as silent from there on. Channels are taken for
    /// unnamed ones: the engine would bring named ones of several streams into an order of its own.
    private static String filters(List<AudioStream> audio, List<Rational> leads, Rational seconds) {
        int stretches = leads.size();
        String whole = Jump.seconds(seconds.times(Rational.of(stretches)));
        var chains = new StringBuilder();
        var all = new StringBuilder();
        for (int stream = 0; stream < audio.size(); stream++) {
            int channels = audio.get(stream).channels();
            var parts = new StringBuilder();
            for (int stretch = 0; stretch < stretches; stretch++) {
                // Joining wants channels with names; what a file leaves unnamed is named by their number. Where sound
                // begins late or has a gap there is silence, so that it stays in its place.
                String part = "[p" + stream + "x" + stretch + "]";
                chains.append("[").append(stretch).append(":a:").append(stream).append("]");
                chains.append("aresample=async=1:min_hard_comp=0.005:first_pts=0,aformat=channel_layouts=")
                        .append(channels)
                        .append("c,atrim=start=")
                        .append(Jump.seconds(leads.get(stretch)))
                        .append(",asetpts=PTS-STARTPTS,")
                        .append(exactly(Jump.seconds(seconds)))
                        .append(part)
                        .append(";");
                parts.append(part);
            }
            chains.append(parts);
            String unnamed = IntStream.range(0, channels)
                    .mapToObj(c -> "|c" + c + "=c" + c)
                    .collect(Collectors.joining());
            chains.append("concat=n=").append(stretches).append(":v=0:a=1");
            chains.append(",aformat=sample_fmts=s16:sample_rates=").append(SAMPLES_PER_SECOND);
            chains.append(",pan=").append(channels).append("c").append(unnamed);
            chains.append(",").append(exactly(whole));
            chains.append("[s").append(stream).append("];");
            all.append("[s").append(stream).append("]");
        }
        return chains + all.toString() + (audio.size() > 1 ? "amerge=inputs=" + audio.size() : "anull") + "[all]";
    }

    /// Silence up to a length and no more: padding without an end would never end where there is no sound
    /// at all.
    private static String exactly(String seconds) {
        return "apad=whole_dur=" + seconds + ",atrim=duration=" + seconds;
    }

    /// Adds up samples as they come, so that the length of a clip does not matter. A mix is reckoned here, and
    /// not by the filter that copies are mixed by.
    private static final class Meter {
        private static final int BYTES_OF_SAMPLE = 2;

        private static final int SAMPLES_OF_STEP = SAMPLES_PER_SECOND / Envelope.PER_SECOND;

        private final double[] moment; // one sample of each channel
        private final List<List<SoundMix.Share>> shares;
        private final double[] sums;
        private final Envelope envelope = new Envelope();
        private final List<Envelope> envelopes;
        private final double[] steps; // power of each channel since the last step
        private int filled;
        private long moments;

        Meter(int channels, SoundMix mix) {
            this.moment = new double[channels];
            this.shares = mix.isKept()
                    ? IntStream.range(0, channels)
                            .mapToObj(c -> List.of(new SoundMix.Share(c, 1)))
                            .toList()
                    : mix.shares(channels);
            this.sums = new double[shares.size()];
            this.steps = new double[shares.size()];
            this.envelopes = shares.stream().map(_ -> new Envelope()).toList();
        }

        void read(InputStream in) throws IOException {
            byte[] chunk = new byte[moment.length * BYTES_OF_SAMPLE * 4_096];
            int read = in.readNBytes(chunk, 0, chunk.length);
            while (read > 0) {
                ShortBuffer buffer = ByteBuffer.wrap(chunk, 0, read)
                        .order(ByteOrder.LITTLE_ENDIAN)
                        .asShortBuffer();
                while (buffer.hasRemaining()) {
                    moment[filled++] = buffer.get() / FULL_SCALE;
                    if (filled == moment.length) {
                        add();
                    }
                }
                read = in.readNBytes(chunk, 0, chunk.length);
            }
        }

        private void add() {
            filled = 0;
            for (int to = 0; to < sums.length; to++) {
                double sample = 0;
                for (SoundMix.Share from : shares.get(to)) {
                    sample += from.share() * moment[from.channel()];
                }
                steps[to] += sample * sample;
            }
            moments++;
            if (moments % SAMPLES_OF_STEP == 0) {
                endStep();
            }
        }

        private void endStep() {
            double all = 0;
            for (int to = 0; to < steps.length; to++) {
                envelopes.get(to).add(Math.sqrt(steps[to] / SAMPLES_OF_STEP));
                sums[to] += steps[to];
                all += steps[to];
                steps[to] = 0;
            }
            envelope.add(Math.sqrt(all / SAMPLES_OF_STEP / steps.length));
        }

        List<Double> levels() {
            for (int to = 0; to < steps.length; to++) {
                sums[to] += steps[to];
                steps[to] = 0;
            }
            double each = Math.max(1.0, (double) moments);
            return Arrays.stream(sums).mapToObj(sum -> Math.sqrt(sum / each)).toList();
        }
    }
}
