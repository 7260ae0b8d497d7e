package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.engine.ChildProcesses.OutputReader;
import docksort.engine.DecodeTimer.Stretch;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRate;
import docksort.media.PixelFormat.Chroma;
import docksort.media.Raster;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.problem.CoreException.ToolFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// How much of a picture a copy loses: both decoded side by side at the original's raster, so that what
/// scaling takes away counts too.
///
/// SSIM after Wang, Bovik, Sheikh and Simoncelli, "Image quality assessment: from error visibility to
/// structural similarity", IEEE Transactions on Image Processing 13 (2004), as the engine's `ssim` filter
/// has it; PSNR from the mean squared error over all planes, as its `psnr` filter has it.
public final class PictureLoss {
    private static final Pattern SSIM = Pattern.compile(" All:([0-9.]+|inf)");
    private static final Pattern PSNR = Pattern.compile(" average:([0-9.]+|inf)");

    private final MediaEngine engine;

    public PictureLoss(MediaEngine engine) {
        this.engine = engine;
    }

    /// @param ssim 1 for equal pictures
    /// @param psnr decibels, infinite for equal pictures
    public record Figures(double ssim, double psnr) {}

    /// What both pictures go through until their samples can be compared.
    public record Ways(String original, String copy) {
        /// As they are stored, with what an RGB picture needs.
        public static Ways of(boolean originalIsRgb, boolean copyIsRgb) {
            return new Ways(comparable(originalIsRgb), comparable(copyIsRgb));
        }

        /// The original through the copy's look, so that what is told is the codec's.
        ///
        /// @param made the copy's picture
        public static Ways of(VideoFacts original, VideoFacts made, CopyForm form) {
            if (!form.look().isBaked() || form.target().isEmpty()) {
                return of(isRgb(original), isRgb(made));
            }
            VideoTarget target = form.target().get();
            String look = String.join(",", LookFilters.of(form.look(), original, target, original.raster()));
            return new Ways(look + "," + comparable(target.chroma() == Chroma.RGB), comparable(isRgb(made)));
        }

        private static boolean isRgb(VideoFacts picture) {
            return picture.pixels().chroma() == Chroma.RGB;
        }
    }

    /// @param copy holds the stretch of the original from its first frame on
    /// @param raster the original's, upright
    /// @return empty when it was cancelled
    public Optional<Figures> of(
            ClipSource original,
            FrameRate rate,
            Stretch stretch,
            ClipSource copy,
            Raster raster,
            Ways ways,
            Cancellation cancellation)
            throws InterruptedException {
        String size = raster.width() + ":" + raster.height();
        String graph = "[0:V:0]" + ways.copy + ",scale=" + size + ":flags=bicubic,split[a][b];[1:V:0]" + ways.original
                + ",scale=" + size + ",split[c][d];[a][c]ssim[s];[b][d]psnr[p]";
        var line = new ArrayList<String>(MediaEngine.input(copy, Optional.of(rate)));
        if (!(original instanceof ClipSource.NumberedStills)) {
            line.addAll(List.of("-ss", Jump.seconds(stretch.from())));
        }
        line.addAll(MediaEngine.input(original, Optional.of(rate)));
        line.addAll(List.of("-filter_complex", graph));
        for (String out : List.of("[s]", "[p]")) {
            line.addAll(List.of("-map", out, "-frames:v", Integer.toString(stretch.frames()), "-f", "null", "-"));
        }
        var said = new ArrayList<String>();
        Ending ending = run(line, said, cancellation);
        if (ending.cut() == Cut.CANCELLED) {
            return Optional.empty();
        }
        Optional<Double> ssim = last(SSIM, ending.lastLines());
        Optional<Double> psnr = last(PSNR, ending.lastLines());
        if (!ending.isGood() || ssim.isEmpty() || psnr.isEmpty()) {
            throw new ToolFailed(new Problem(
                    "Cannot compare pictures of " + original.head(),
                    "exit code " + ending.exitCode() + ": " + String.join(" | ", ending.lastLines()),
                    "Nothing was changed.",
                    "Play the clip once; it may be damaged at this place."));
        }
        return Optional.of(new Figures(ssim.get(), psnr.get()));
    }

    /// Samples as they are stored. A codec that cannot leave its matrix open states one where the original
    /// states none; that is no loss, so the tags are made the same, and only the range is kept.
    static String comparable(boolean rgb) {
        String tags = "setparams=colorspace=bt709:color_primaries=bt709:color_trc=bt709";
        return "settb=AVTB,setpts=N," + (rgb ? "scale=out_color_matrix=bt709:out_range=tv" : tags) + ",format=yuv444p";
    }

    private Ending run(List<String> line, List<String> said, Cancellation cancellation) throws InterruptedException {
        try {
            return engine.tell(line, OutputReader.lines(said::add), cancellation);
        } catch (IOException e) {
            throw new ToolFailed(new Problem(
                    "The media engine cannot be used",
                    String.valueOf(e.getMessage()),
                    "Nothing was changed.",
                    "Retry."));
        }
    }

    private static Optional<Double> last(Pattern pattern, List<String> lines) {
        for (String line : lines.reversed()) {
            Matcher found = pattern.matcher(line);
            if (found.find()) {
                String value = found.group(1);
                return Optional.of(value.equals("inf") ? Double.POSITIVE_INFINITY : Double.parseDouble(value));
            }
        }
        return Optional.empty();
    }
}
