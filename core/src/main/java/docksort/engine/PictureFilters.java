package docksort.engine;

import docksort.files.UnpackedFile;
import docksort.media.BurnIn;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.PixelFormat.Chroma;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Optional;
import java.util.Set;
import org.bytedeco.javacpp.Loader;

/// The chain of filters between a clip's picture and a copy's.
final class PictureFilters {
    /// Transfers that a ProRes frame has a number for (SMPTE RDD 36, from memory), and none at all.
    private static final Set<String> PRORES_TRANSFERS = Set.of("", "bt709", "smpte2084", "arib-std-b67");

    /// Of samples that have one colour each: the scaler leaves ranges out of account when it does both at
    /// once.
    static final String WHOLE_COLOURS = "format=rgb48le";

    private static final String FONT = "IBMPlexMono-Regular.ttf";

    private PictureFilters() {}

    /// @param overlays number of the first input of what is laid over the picture, see [OverlayFilters#sources]
    static String of(CopyOrder order, VideoFacts picture, VideoTarget target, int overlays) {
        CopyForm form = order.form();
        var filters = new ArrayList<String>();
        String reached = CopyCommand.jump(order).picture();
        if (!reached.isEmpty()) {
            filters.add(reached.substring(0, reached.length() - 1));
        }
        form.range()
                .filter(range -> order.source() instanceof ClipSource.NumberedStills)
                .ifPresent(range -> filters.add(
                        "trim=start_frame=" + range.first() + ":end_frame=" + range.end() + ",setpts=PTS-STARTPTS"));
        if (picture.rateKind() == VideoFacts.RateKind.VARIABLE || order.heldToEnd()) {
            // What is lost leaves gaps; filled, frames can be counted. To the nearest moment: the engine's own evening
            // out lets a picture be more than a frame late.
            filters.add(conformed(form.rate()));
        }
        if (picture.pixels().isMosaic()) {
            filters.add(WHOLE_COLOURS);
        }
        if (form.deinterlace()) {
            filters.add("bwdif=mode=send_frame");
        }
        if (form.toSdr()) {
            // 203 cd/m² is the reference white of Rep. ITU-R BT.2408.
            filters.add("zscale=t=linear:npl=203,format=gbrpf32le,zscale=p=bt709,tonemap=hable:desat=0,"
                    + "zscale=t=bt709:m=bt709:r=tv,format=yuv444p10le");
        }
        boolean plain = !form.look().isBaked(); // a look brings its own matrix
        boolean toVideo = plain && CopyCommand.isRgb(picture) && target.chroma() != Chroma.RGB;
        boolean scaled = !form.raster().equals(picture.uprightRaster());
        boolean toHd = plain && ColourOfCopy.toHdMatrix(picture.colour(), target);
        if (scaled || toVideo || toHd) {
            filters.add(scale(form, toVideo, toHd));
        }
        if (form.look().isBaked()) {
            filters.addAll(LookFilters.of(form.look(), picture, target, form.raster()));
        }
        filters.addAll(OverlayFilters.of(form.burnIns(), target, form.raster(), form.pixelAspect(), overlays));
        for (BurnIn burnIn : form.burnIns().words()) {
            filters.add(drawn(burnIn, order));
        }
        // Always: what the engine makes of wrapper and stream may be another than what is shown.
        filters.add("setsar=" + form.pixelAspect().numerator() + "/"
                + form.pixelAspect().denominator());
        if (target.family() == VideoTarget.Family.PRORES
                && form.look().keepsColours()
                && picture.colour().matrix().equals("bt470bg")) {
            // ProRes has one number for the matrix of 625 and 525 lines, which are the same (Rec. ITU-R
            // BT.601); the engine would write none that means anything.
            filters.add("setparams=colorspace=smpte170m");
        }
        if (target.family() == VideoTarget.Family.PRORES
                && form.look().table().isEmpty()
                && (!PRORES_TRANSFERS.contains(picture.colour().transfer())
                        || picture.pixels().isMosaic())) {
            // The decoder calls the samples of a sensor linear, which nothing else states. A number that ProRes has
            // reserved stops programs that ask it for its meaning.
            filters.add("setparams=color_trc=unknown");
        }
        boolean varies = picture.rateKind() == VideoFacts.RateKind.VARIABLE
                && form.range().isEmpty();
        if (order.heldToEnd() || varies) {
            // Of variable rate: a picture that stays on when the recording ends stays on here.
            filters.add("tpad=stop=-1:stop_mode=clone");
        }
        if (form.range().isEmpty() && (picture.rateKind() == VideoFacts.RateKind.VARIABLE || order.heldToEnd())) {
            // Conforming may round the end up by a frame. A limit of the output would cut the sound there, too.
            filters.add("trim=end_frame=" + form.frames());
        }
        return String.join(",", filters);
    }

    /// Pictures that come irregularly, at a rate; the last one at least once, however short it stays.
    static String conformed(FrameRate rate) {
        return "fps=" + rate + ":eof_action=pass";
    }

    private static String scale(CopyForm form, boolean toVideo, boolean toHd) {
        String scale = "scale=" + form.raster().width() + ":" + form.raster().height() + ":flags=bicubic";
        if (form.interlaced()) {
            scale += ":interl=1";
        }
        if (toVideo) {
            return scale + ":out_color_matrix=bt709:out_range=tv";
        }
        return toHd ? scale + ":out_color_matrix=bt709" : scale;
    }

    private static String drawn(BurnIn burnIn, CopyOrder order) {
        CopyForm form = order.form();
        String words = switch (burnIn.what()) {
            case NAME -> "expansion=none:text=" + value(order.name());
            case TEXT -> "expansion=none:text=" + value(burnIn.text());
            case FRAME ->
                "text=" + value("%{frame_num}") + ":start_number="
                        + form.range().map(FrameRange::first).orElse(0L);
            case TIMECODE -> {
                Optional<Timecode> start = CopyCommand.start(order, form);
                yield "timecode=" + value(start.map(Timecode::toString).orElse("00:00:00:00")) + ":rate="
                        + form.rate().exact().numerator() + "/"
                        + form.rate().exact().denominator();
            }
        };
        return "drawtext=fontfile=" + value(font().toString()) + ":fontsize=h/24:fontcolor=white:box=1:"
                + "boxcolor=black@0.6:boxborderw=8:" + words + ":" + place(burnIn.at());
    }

    private static String place(BurnIn.At at) {
        String x = switch (at) {
            case TOP_LEFT, BOTTOM_LEFT -> "w/40";
            case TOP, CENTRE, BOTTOM -> "(w-tw)/2";
            case TOP_RIGHT, BOTTOM_RIGHT -> "w-tw-w/40";
        };
        String y = switch (at) {
            case TOP_LEFT, TOP, TOP_RIGHT -> "h/30";
            case CENTRE -> "(h-th)/2";
            case BOTTOM_LEFT, BOTTOM, BOTTOM_RIGHT -> "h-th-h/30";
        };
        return "x=" + x + ":y=" + y;
    }

    /// A value inside a filter inside a chain: both take characters of it for their own (FFmpeg
    /// documentation, "Notes on filtergraph escaping").
    static String value(String text) {
        String inFilter = text.replaceAll("([\\\\':])", "\\\\$1");
        return inFilter.replaceAll("([\\\\'\\[\\],;])", "\\\\$1");
    }

    /// The font, where the engine can read it.
    private static Path font() {
        try {
            Path file = Loader.getCacheDir().toPath().resolve("dock-sort-" + FONT);
            return UnpackedFile.of(PictureFilters.class, FONT, file);
        } catch (IOException e) {
            throw new UncheckedIOException("there is no folder to unpack into", e);
        }
    }
}
