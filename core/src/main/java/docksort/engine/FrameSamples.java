package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.engine.ChildProcesses.OutputReader;
import docksort.media.ByteSize;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRate;
import docksort.media.Frames;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.problem.CoreException.ToolFailed;
import docksort.problem.Problem;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;

/// Small pictures of single frames, for telling frames apart and levels and colours from each other.
public final class FrameSamples {
    /// Sides of a sample.
    public static final int WIDTH = 96;

    public static final int HEIGHT = 54;

    /// Places of a sample's luma.
    public static final int PLACES = WIDTH * HEIGHT;

    /// Those of each of its two colour differences, which have half as many to either side.
    public static final int COLOUR_PLACES = PLACES / 4;

    private static final int BYTES = PLACES + 2 * COLOUR_PLACES;

    private final MediaEngine engine;

    public FrameSamples(MediaEngine engine) {
        this.engine = engine;
    }

    /// Decodes all of a copy and keeps some of its frames. Anything that cannot be decoded is an error.
    ///
    /// @param frames numbers of frames from 0, ascending
    /// @param packets where the packets that are read are hashed to
    /// @return what the decoder complained of, or the samples; empty when it was cancelled
    public Optional<Whole> whole(
            ClipSource copy, FrameRate rate, List<Long> frames, Optional<Packets> packets, ProcessControl control)
            throws InterruptedException {
        String wanted = frames.stream().map(frame -> "eq(n\\," + frame + ")").collect(Collectors.joining("+"));
        var line = new ArrayList<String>(List.of("-err_detect", "explode", "-xerror"));
        line.addAll(MediaEngine.input(copy, Optional.of(rate)));
        packets.ifPresent(each -> line.addAll(PacketHashes.again(copy, each.form())));
        line.addAll(
                List.of("-map", "0:V:0", "-vf", "select=" + wanted + ",scale=" + SMALL, "-fps_mode", "passthrough"));
        line.addAll(OUT);
        // The sound is decoded beside it.
        line.addAll(List.of("-map", "0:a?", "-f", "null", "-"));
        packets.ifPresent(each -> line.addAll(each.arguments()));
        var bytes = new ByteArrayOutputStream();
        Ending ending = run(line, bytes, control);
        if (ending.cut() == Cut.CANCELLED) {
            return Optional.empty();
        }
        String complaint = ending.complaint();
        return Optional.of(new Whole(complaint, split(bytes.toByteArray(), 1).getFirst()));
    }

    /// Decodes all of a copy and hands over each of its frames. Anything that cannot be decoded is an error.
    ///
    /// @param look how they are made small
    /// @param packets where the packets that are read are hashed to
    /// @return what the decoder complained of, empty for nothing; no value when it was cancelled
    public Optional<String> every(
            ClipSource copy,
            FrameRate rate,
            Small look,
            Optional<Packets> packets,
            Consumer<Sample> taker,
            ProcessControl control)
            throws InterruptedException {
        var line = new ArrayList<String>(List.of("-err_detect", "explode", "-xerror"));
        line.addAll(MediaEngine.input(copy, Optional.of(rate)));
        packets.ifPresent(each -> line.addAll(PacketHashes.again(copy, each.form())));
        line.addAll(List.of("-map", "0:V:0", "-vf", look.filters(), "-fps_mode", "passthrough"));
        line.addAll(OUT);
        line.addAll(List.of("-map", "0:a?", "-f", "null", "-"));
        packets.ifPresent(each -> line.addAll(each.arguments()));
        Ending ending = read(
                line,
                in -> {
                    byte[] planes = in.readNBytes(BYTES);
                    while (planes.length == BYTES) {
                        taker.accept(new Sample(planes));
                        planes = in.readNBytes(BYTES);
                    }
                },
                control);
        if (ending.cut() == Cut.CANCELLED) {
            return Optional.empty();
        }
        return Optional.of(ending.complaint());
    }

    /// Where the packets of a copy are hashed to while it is read.
    ///
    /// @param hashes overwritten
    public record Packets(CopyForm form, Path hashes) {
        private List<String> arguments() {
            return PacketHashes.readBack(form, hashes);
        }
    }

    /// Reads what was told of the frames of a copy while it was made, one after the other.
    ///
    /// @return the next one, empty at the end
    public static Optional<Sample> kept(InputStream from) throws IOException {
        byte[] planes = from.readNBytes(BYTES);
        return planes.length == BYTES ? Optional.of(new Sample(planes)) : Optional.empty();
    }

    /// What telling of so many frames takes.
    public static ByteSize size(long frames, boolean fields) {
        return new ByteSize((fields ? 2 : 1) * frames * BYTES);
    }

    /// How many frames, or fields, a file tells of.
    public static long told(Path file) throws IOException {
        return Files.size(file) / BYTES;
    }

    /// The same from jumps to each frame, without decoding what lies between.
    ///
    /// @param reached how frames of the copy are reached
    public Optional<Whole> some(
            ClipSource copy, FrameRate rate, Frames reached, List<Long> frames, ProcessControl control)
            throws InterruptedException {
        var found = new ArrayList<Sample>();
        for (long frame : frames) {
            Jump jump = Jump.ofPicture(copy, frame, rate, reached);
            var line = new ArrayList<String>(List.of("-err_detect", "explode", "-xerror"));
            line.addAll(jump.before());
            line.addAll(MediaEngine.input(copy, Optional.of(rate)));
            line.addAll(List.of("-map", "0:V:0", "-vf", jump.picture() + "scale=" + SMALL, "-frames:v", "1"));
            line.addAll(OUT);
            var bytes = new ByteArrayOutputStream();
            Ending ending = run(line, bytes, control);
            if (ending.cut() == Cut.CANCELLED) {
                return Optional.empty();
            }
            if (!ending.isGood()) {
                return Optional.of(new Whole(ending.complaint(), found));
            }
            found.addAll(split(bytes.toByteArray(), 1).getFirst());
        }
        return Optional.of(new Whole("", found));
    }

    /// What a decode told.
    ///
    /// @param complaint what could not be decoded, empty for nothing
    public record Whole(String complaint, List<Sample> samples) {
        public Whole {
            samples = List.copyOf(samples);
        }
    }

    /// Frames that stand in a row.
    ///
    /// @param first number of the first one, from 0
    /// @param untilKey how many frames there are from the first one, which is a key, until the next key
    /// @param packets how many packets from where a jump to it lands hold all of them; 0 where that is not known
    public record Row(long first, int count, long untilKey, long packets) {
        public Row(long first, int count) {
            this(first, count, 0, 0);
        }
    }

    /// Where and how rows of an original are looked for.
    ///
    /// @param frames how its frames are reached
    /// @param varies whether its frames come irregularly: they are evened out first
    /// @param inOnePass whether all up to the last row is decoded, instead of a jump to each
    /// @param lead how long before a row a jump to it aims
    public record Search(
            ClipSource original, FrameRate rate, Frames frames, boolean varies, boolean inOnePass, Rational lead) {}

    /// What a copy's pictures went through: fine patterns look different after it, and colours get another
    /// luma.
    ///
    /// @param toHdMatrix see [ColourOfCopy]
    /// @param mosaic whether the original's samples have one colour each
    /// @param whole see [#isWhole]
    /// @param look filters that bake a look in, joined by commas, empty for none
    public record Through(Raster raster, boolean toHdMatrix, boolean mosaic, boolean whole, String look) {
        public static Through of(VideoFacts picture, CopyForm form, boolean whole) {
            return of(picture, form, whole, form.look().isBaked());
        }

        /// As a copy would look in which the look was forgotten.
        public static Through withoutLook(VideoFacts picture, CopyForm form, boolean whole) {
            return of(picture, form, whole, false);
        }

        private static Through of(VideoFacts picture, CopyForm form, boolean whole, boolean baked) {
            boolean toHd = !baked
                    && form.target()
                            .map(target -> ColourOfCopy.isBroughtToHd(picture, target))
                            .orElse(false);
            String look = baked
                    ? String.join(
                            ",",
                            LookFilters.of(form.look(), picture, form.target().orElseThrow(), form.raster()))
                    : "";
            return new Through(form.raster(), toHd, picture.pixels().isMosaic(), whole, look);
        }
    }

    /// Rows of frames of an original, decoded by one process for all copies.
    ///
    /// @param throughs what the originals go through as the copies did
    /// @return for each of those as many samples as there are frames, row by row; empty when it was
    ///     cancelled
    public Optional<List<List<List<Sample>>>> rows(
            Search search, List<Row> rows, List<Through> throughs, ProcessControl control) throws InterruptedException {
        Optional<List<List<Sample>>> together = samples(search, rows, throughs, control);
        if (together.isEmpty()) {
            return Optional.empty();
        }
        int wanted = rows.stream().mapToInt(Row::count).sum();
        var found = new ArrayList<List<List<Sample>>>();
        throughs.forEach(_ -> found.add(new ArrayList<>()));
        if (together.get().getFirst().size() == wanted) {
            int at = 0;
            for (Row row : rows) {
                for (int i = 0; i < throughs.size(); i++) {
                    found.get(i).add(List.copyOf(together.get().get(i).subList(at, at + row.count())));
                }
                at += row.count();
            }
            return Optional.of(found);
        }
        // Some row is shorter than it should be: each by itself tells which.
        var jumping = new Search(search.original, search.rate, search.frames, search.varies, false, search.lead);
        for (Row row : rows) {
            Optional<List<List<Sample>>> alone =
                    samples(jumping, List.of(new Row(row.first, row.count)), throughs, control);
            if (alone.isEmpty()) {
                return Optional.empty();
            }
            for (int i = 0; i < throughs.size(); i++) {
                found.get(i).add(alone.get().get(i));
            }
        }
        return Optional.of(found);
    }

    /// @return for each of those its samples
    private Optional<List<List<Sample>>> samples(
            Search search, List<Row> rows, List<Through> throughs, ProcessControl control) throws InterruptedException {
        var line = new ArrayList<String>();
        var graph = new StringBuilder();
        String even = search.varies ? evenUpTo(rows.getLast(), search.rate) : "";
        if (search.inOnePass) {
            line.addAll(MediaEngine.input(search.original, Optional.of(search.rate)));
            String wanted = rows.stream().map(row -> within(row, search.rate)).collect(Collectors.joining("+"));
            String from = Jump.ofPicture(search.original, 0, search.rate, search.frames)
                    .picture();
            graph.append("[0:V:0]%s%sselect=%s,setpts=N/25/TB[all];".formatted(from, even, wanted));
        } else {
            for (int i = 0; i < rows.size(); i++) {
                Row row = rows.get(i);
                Jump jump = Jump.ofPicture(search.original, row.first(), search.rate, search.frames)
                        .startingEarlier(search.lead)
                        .within(row, search.rate);
                line.addAll(jump.before());
                line.addAll(MediaEngine.input(from(search.original, row), Optional.of(search.rate)));
                graph.append("[%d:V:0]%s%strim=end_frame=%d,setsar=1,setpts=N/25/TB[r%d];"
                        .formatted(i, jump.picture(), even, row.count(), i));
            }
            for (int i = 0; i < rows.size(); i++) {
                graph.append("[r%d]".formatted(i));
            }
            graph.append("concat=n=%d:v=1[all];".formatted(rows.size()));
        }
        graph.append(through(throughs));
        line.addAll(List.of("-filter_complex", graph.toString(), "-map", "[out]", "-fps_mode", "passthrough"));
        line.addAll(OUT);
        var bytes = new ByteArrayOutputStream();
        Ending ending = run(line, bytes, control);
        return ending.cut() == Cut.CANCELLED
                ? Optional.empty()
                : Optional.of(split(bytes.toByteArray(), throughs.size()));
    }

    /// The last picture stays on for as long as any row asks for it.
    private static String evenUpTo(Row last, FrameRate rate) {
        return PictureFilters.conformed(rate) + ",tpad=stop=-1:stop_mode=clone,trim=end_frame="
                + (last.first() + last.count()) + ",";
    }

    /// The frames of a row by the time they are shown at, as a jump to them finds them.
    private static String within(Row row, FrameRate rate) {
        Rational slack = rate.secondsOf(1).dividedBy(Rational.of(4));
        String from = Jump.seconds(rate.secondsOf(row.first()).minus(slack));
        String to = Jump.seconds(rate.secondsOf(row.first() + row.count()).minus(slack));
        return "between(t\\," + from + "\\," + to + ")";
    }

    /// All samples of one frame stand below each other in one picture.
    private static String through(List<Through> throughs) {
        int all = throughs.size();
        var graph = new StringBuilder("[all]split=%d".formatted(all));
        for (int i = 0; i < all; i++) {
            graph.append("[w%d]".formatted(i));
        }
        for (int i = 0; i < all; i++) {
            Raster raster = throughs.get(i).raster;
            String matrix = throughs.get(i).toHdMatrix ? "out_color_matrix=bt709:" : "";
            String before = throughs.get(i).mosaic ? PictureFilters.WHOLE_COLOURS + "," : "";
            String small = throughs.get(i).whole ? SMALL : "out_range=tv,scale=" + QUICK;
            String look = throughs.get(i).look;
            String between = look.isEmpty() ? ":" + matrix : "," + look + ",scale=";
            graph.append(";[w%d]%sscale=%d:%d:flags=bicubic%s%s,setsar=1[s%d]"
                    .formatted(i, before, raster.width(), raster.height(), between, small, i));
        }
        graph.append(';');
        for (int i = 0; i < all; i++) {
            graph.append("[s%d]".formatted(i));
        }
        return graph.append(all == 1 ? "null[out]" : "vstack=inputs=" + all + "[out]")
                .toString();
    }

    private static ClipSource from(ClipSource original, Row row) {
        return original instanceof ClipSource.NumberedStills stills
                ? new ClipSource.NumberedStills(
                        stills.folder(),
                        stills.prefix(),
                        stills.digits(),
                        stills.suffix(),
                        stills.first() + (int) row.first(),
                        stills.last(),
                        List.of())
                : original;
    }

    // Whatever the range and the matrix are tagged as. Full range first: what lies below black or above white is lost
    // in some codecs, and must not come back as a mean of its surroundings. Untagged at the end: samples that stand
    // below each other would get one matrix.
    private static final String SMALL = "out_range=pc,format=yuv444p,scale=" + WIDTH + ":" + HEIGHT
            + ":flags=area:out_range=pc,format=yuv420p,setparams=colorspace=unknown:range=pc";
    private static final List<String> OUT = List.of("-f", "rawvideo", "pipe:1");

    // A twentieth of the work for a large picture.
    private static final String QUICK = WIDTH + ":" + HEIGHT + ":flags=area:out_range=pc,format=yuv420p";

    /// The filters from a frame to its sample, from where the arguments of a scaler begin.
    ///
    /// @param whole see [#isWhole]
    private static String small(boolean whole) {
        return whole ? SMALL : QUICK;
    }

    /// Whether frames are brought to full range before they are made small: a codec loses what lies below black
    /// or above white, or colours get another matrix, which the engine's scaler does not do and bring to full
    /// range, too, when two of them follow each other.
    public static boolean isWhole(VideoFacts picture, VideoTarget target) {
        return target.family() == VideoTarget.Family.MOTION_JPEG || ColourOfCopy.isBroughtToHd(picture, target);
    }

    /// How every frame of a copy is made small.
    ///
    /// @param whole see [#isWhole]
    /// @param fields whether each field is by itself, the upper one first, whichever is shown first
    public record Small(boolean whole, boolean fields) {
        public static Small of(VideoFacts picture, CopyForm form) {
            boolean whole =
                    form.target().map(target -> isWhole(picture, target)).orElse(true);
            return new Small(whole, form.interlaced());
        }

        String filters() {
            return (fields ? "setfield=tff,separatefields," : "") + "scale=" + small(whole);
        }
    }

    private Ending run(List<String> arguments, ByteArrayOutputStream into, ProcessControl control)
            throws InterruptedException {
        return read(arguments, in -> in.transferTo(into), control);
    }

    private Ending read(List<String> arguments, OutputReader reader, ProcessControl control)
            throws InterruptedException {
        try {
            return engine.raw(arguments, reader, control);
        } catch (IOException e) {
            throw new ToolFailed(new Problem(
                    "The media engine cannot be used",
                    String.valueOf(e.getMessage()),
                    "The copy was not published.",
                    "Retry."));
        }
    }

    /// @param stacked how many samples stand below each other in one picture
    /// @return for each of those its samples
    private static List<List<Sample>> split(byte[] bytes, int stacked) {
        var apart = new ArrayList<List<Sample>>();
        for (int i = 0; i < stacked; i++) {
            var own = new ArrayList<Sample>();
            for (int at = 0; at + stacked * BYTES <= bytes.length; at += stacked * BYTES) {
                var planes = new byte[BYTES];
                System.arraycopy(bytes, at + i * PLACES, planes, 0, PLACES);
                for (int colour = 0; colour < 2; colour++) {
                    System.arraycopy(
                            bytes,
                            at + stacked * (PLACES + colour * COLOUR_PLACES) + i * COLOUR_PLACES,
                            planes,
                            PLACES + colour * COLOUR_PLACES,
                            COLOUR_PLACES);
                }
                own.add(new Sample(planes));
            }
            apart.add(own);
        }
        return apart;
    }

    /// One small picture.
    public static final class Sample {
        /// In place of one that is not there.
        public static final Sample NONE = new Sample(new byte[0]);

        private final byte[] planes; // luma, then both colour differences

        Sample(byte[] planes) {
            this.planes = planes;
        }

        /// The frame of two fields.
        public static Sample frame(Sample upper, Sample lower) {
            var both = new byte[BYTES];
            for (int i = 0; i < BYTES; i++) {
                both[i] = (byte) (((upper.planes[i] & 0xFF) + (lower.planes[i] & 0xFF) + 1) / 2);
            }
            return new Sample(both);
        }

        /// The same with other grey levels.
        ///
        /// @param curve the new level for each of 256
        public Sample through(byte[] curve) {
            var graded = planes.clone();
            for (int i = 0; i < PLACES; i++) {
                graded[i] = curve[at(i)];
            }
            return new Sample(graded);
        }

        /// Grey level of a place, 0 for black to 255 for white.
        public int at(int index) {
            return planes[index] & 0xFF;
        }

        /// Colour difference of a place, from -128 to 127, 0 for grey.
        ///
        /// @param index of Cb, and behind all its places of Cr
        public int colour(int index) {
            return (planes[PLACES + index] & 0xFF) - 128;
        }
    }
}
