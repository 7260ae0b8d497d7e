package docksort;

import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.files.Room;
import docksort.media.AudioStream;
import docksort.media.BurnIns;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Codec;
import docksort.media.CodedFrame;
import docksort.media.Colour;
import docksort.media.CopyForm;
import docksort.media.Findings;
import docksort.media.Fingerprint;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Frames;
import docksort.media.Hdr;
import docksort.media.Look;
import docksort.media.PixelFormat;
import docksort.media.PixelFormat.Chroma;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.SoundForm;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import docksort.sort.Circumstances;
import docksort.sort.PastCopies;
import docksort.sort.Planning;
import docksort.sort.SortBook;
import docksort.strain.StrainJudge;
import docksort.strain.TimelineFormat;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// Clips made of facts alone, for tests of what is decided from facts.
public final class Clips {
    private String name = "A001";
    private String arrival = "card";
    private Raster raster = new Raster(1920, 1080);
    private Codec codec = new Codec("h264", "High", 40);
    private int bits = 8;
    private Chroma chroma = Chroma.C422;
    private boolean alpha;
    private int interval = 1;
    private int rotation;
    private int frames = 84; // a whole number of groups of 1, 6 and 7 frames
    private int frameBytes = 50_000;
    private Rational aspect = Rational.of(1);
    private ScanType scan = ScanType.PROGRESSIVE;
    private FrameRate rate = FrameRate.FPS_25;
    private VideoFacts.RateKind rateKind = VideoFacts.RateKind.CONSTANT;
    private Colour colour = Colour.UNSTATED;

    public static Clips named(String name) {
        var clips = new Clips();
        clips.name = name;
        return clips;
    }

    public Clips in(String newArrival) {
        arrival = newArrival;
        return this;
    }

    public Clips raster(String sides) {
        raster = Raster.parse(sides);
        return this;
    }

    public Clips codec(String engineName) {
        codec = new Codec(engineName, "", 0);
        return this;
    }

    public Clips bits(int newBits) {
        bits = newBits;
        return this;
    }

    public Clips chroma(Chroma newChroma) {
        chroma = newChroma;
        return this;
    }

    public Clips alpha() {
        alpha = true;
        return this;
    }

    /// Frames from one keyframe to the next.
    public Clips interval(int newInterval) {
        interval = newInterval;
        return this;
    }

    public Clips turned(int degrees) {
        rotation = degrees;
        return this;
    }

    public Clips frames(int count) {
        frames = count;
        return this;
    }

    public Clips frameBytes(int bytes) {
        frameBytes = bytes;
        return this;
    }

    public Clips aspect(String of) {
        aspect = Rational.parse(of);
        return this;
    }

    public Clips scan(ScanType newScan) {
        scan = newScan;
        return this;
    }

    public Clips rate(String newRate) {
        rate = FrameRate.parse(newRate);
        return this;
    }

    public Clips variable() {
        rateKind = VideoFacts.RateKind.VARIABLE;
        return this;
    }

    public Clips pq() {
        colour = new Colour("bt2020", "smpte2084", "bt2020nc", "tv");
        return this;
    }

    public ClipFacts facts() {
        var coded = new ArrayList<CodedFrame>();
        for (int i = 0; i < frames; i++) {
            coded.add(new CodedFrame(i, i % interval == 0, frameBytes));
        }
        var video = new VideoFacts(
                codec,
                raster,
                raster,
                aspect,
                rotation,
                scan,
                new PixelFormat("x", bits, chroma, alpha),
                colour,
                Hdr.NONE,
                rate,
                rateKind,
                new Frames(frames, Frames.Origin.COUNTED),
                FrameStructure.of(
                        coded, FrameStructure.Extent.WHOLE, Rational.of(1).dividedBy(rate.exact())));
        Rational seconds = rate.secondsOf(frames);
        return new ClipFacts(
                "MOV",
                Optional.of(video),
                List.of(new AudioStream("pcm_s24le", 2, "", 48_000, 24, seconds)),
                seconds,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                new ByteSize((long) frames * frameBytes),
                Findings.NONE,
                Map.of());
    }

    public Clip clip() {
        return of(facts(), new ClipSource.SingleFile(Path.of("/" + arrival + "/" + name + ".mov")));
    }

    public Clip of(ClipFacts facts, ClipSource source) {
        String digits = Integer.toHexString((arrival + "/" + name).hashCode());
        return new Clip(
                new ClipId(arrival + "/" + name),
                new ArrivalId(arrival),
                source,
                facts,
                new Fingerprint(1, "0".repeat(32 - digits.length()) + digits));
    }

    public static final Room AMPLE = room("volume", 9_000_000_000_000L);

    public static Room room(String volume, long free) {
        return new Room(volume, new ByteSize(10_000_000_000_000L), new ByteSize(free), Optional.empty());
    }

    /// What a plan rests on, with nothing measured, made or chosen.
    public static Planning planning(SortBook book) {
        return new Planning(
                book,
                Map.of(),
                _ -> false,
                new StrainJudge(TimelineFormat.HD_25),
                Map.of(),
                Circumstances.of(TimelineFormat.HD_25),
                PastCopies.NONE,
                (_, _) -> AMPLE,
                Map.of(),
                Map.of(),
                (_, _) -> List.of(),
                Set.of(),
                _ -> Optional.empty());
    }

    /// A copy of all of a clip, in MOV, with everything kept.
    public static CopyForm form(ClipFacts facts, VideoTarget target, Raster raster) {
        return form(facts, target, raster, Wrapper.MOV);
    }

    public static CopyForm form(ClipFacts facts, VideoTarget target, Raster raster, Wrapper wrapper) {
        VideoFacts picture = facts.video().orElseThrow();
        boolean upright = picture.rotationDegrees() % 180 == 0;
        return new CopyForm(
                Optional.of(target),
                wrapper,
                raster,
                upright ? picture.pixelAspect() : Rational.of(1).dividedBy(picture.pixelAspect()),
                picture.rate(),
                picture.frames().count(),
                picture.rateKind() == VideoFacts.RateKind.VARIABLE,
                picture.scan().isInterlaced(),
                false,
                Look.NONE,
                picture.pixels().alpha() && target.hasAlpha(),
                SoundForm.KEPT,
                BurnIns.NONE,
                Optional.empty(),
                false);
    }

    /// The same form with something drawn into the picture.
    public static CopyForm drawing(CopyForm form, BurnIns drawn) {
        return new CopyForm(
                form.target(),
                form.wrapper(),
                form.raster(),
                form.pixelAspect(),
                form.rate(),
                form.frames(),
                form.framesMayRound(),
                form.interlaced(),
                form.deinterlace(),
                form.look(),
                form.keepsAlpha(),
                form.sound(),
                drawn,
                form.range(),
                form.hardware());
    }
}
