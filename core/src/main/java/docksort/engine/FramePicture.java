package docksort.engine;

import docksort.files.Documents;
import docksort.look.LookTable;
import docksort.look.PngImage;
import docksort.media.BurnIns;
import docksort.media.FrameLines;
import docksort.media.FrameLines.Area;
import docksort.media.KeptFile;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.Watermark;
import java.awt.AlphaComposite;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.imageio.ImageIO;

/// Pictures of frame lines and images, to be laid over others, where the engine can read them.
final class FramePicture {
    private static final int LINES_OF_THICKNESS = 540; // for one pair of lines of thickness
    private static final Color WHITE = new Color(255, 255, 255, 230);
    private static final Color BLACK = new Color(0, 0, 0, 230);
    private static final Color DIM = new Color(0, 0, 0, 153);
    private static final int VERSION = 1; // of how they are drawn

    private FramePicture() {}

    static boolean isNeeded(BurnIns drawn) {
        return drawn.frame().isPresent() || drawn.watermark().isPresent();
    }

    /// @return a PNG file of the raster, clear where the picture is to stay as it is
    static Path of(BurnIns drawn, Raster raster, Rational pixelAspect) {
        String what = VERSION + " " + drawn.frame() + " " + drawn.watermark() + " " + raster + " " + pixelAspect;
        Path file = KeptFiles.inCache("over-" + LookTable.digest(what.getBytes(StandardCharsets.UTF_8)) + ".png");
        if (!Files.isRegularFile(file)) {
            try {
                var bytes = new ByteArrayOutputStream();
                ImageIO.write(drawn(drawn, raster, pixelAspect), "png", bytes);
                Documents.replace(file, bytes.toByteArray());
            } catch (IOException e) {
                throw new UncheckedIOException("what is laid over pictures cannot be drawn", e);
            }
        }
        return file;
    }

    private static BufferedImage drawn(BurnIns drawn, Raster raster, Rational pixelAspect) throws IOException {
        var picture = new BufferedImage(raster.width(), raster.height(), BufferedImage.TYPE_INT_ARGB);
        Graphics2D pen = picture.createGraphics();
        pen.setComposite(AlphaComposite.Src);
        drawn.frame().ifPresent(frame -> draw(pen, frame, raster, pixelAspect));
        if (drawn.watermark().isPresent()) {
            Watermark watermark = drawn.watermark().get();
            Area at = watermark.area(raster, pixelAspect);
            BufferedImage image = PngImage.decoded(Documents.read(
                    KeptFiles.of(KeptFile.Kind.IMAGE, watermark.image().file())));
            pen.setComposite(AlphaComposite.getInstance(AlphaComposite.SRC_OVER, watermark.seen() / 100.0f));
            pen.setRenderingHint(RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BICUBIC);
            pen.drawImage(smoothed(image, at), at.x(), at.y(), at.width(), at.height(), null);
        }
        pen.dispose();
        return picture;
    }

    /// Halved as often as it takes for a scaler that looks at few samples.
    private static BufferedImage smoothed(BufferedImage image, Area to) {
        BufferedImage now = image;
        while (now.getWidth() >= 2 * to.width() && now.getHeight() >= 2 * to.height()) {
            var half = new BufferedImage(
                    Math.max(1, now.getWidth() / 2), Math.max(1, now.getHeight() / 2), BufferedImage.TYPE_INT_ARGB);
            Graphics2D pen = half.createGraphics();
            pen.setRenderingHint(RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BILINEAR);
            pen.drawImage(now, 0, 0, half.getWidth(), half.getHeight(), null);
            pen.dispose();
            now = half;
        }
        return now;
    }

    private static void draw(Graphics2D pen, FrameLines frame, Raster raster, Rational pixelAspect) {
        Area kept = frame.kept(raster, pixelAspect);
        switch (frame.outside()) {
            case LINE -> {
                // White beside what is kept, black beside that: one of the two is seen on every picture.
                int thick = 2 * Math.max(1, raster.lines() / LINES_OF_THICKNESS / 2);
                fill(pen, BLACK, kept, 2 * thick);
                fill(pen, WHITE, kept, thick);
            }
            case DIMMED -> all(pen, DIM, raster);
            case BLACK -> all(pen, Color.BLACK, raster);
        }
        fill(pen, new Color(0, true), kept, 0);
    }

    private static void all(Graphics2D pen, Color colour, Raster raster) {
        pen.setColor(colour);
        pen.fillRect(0, 0, raster.width(), raster.height());
    }

    private static void fill(Graphics2D pen, Color colour, Area kept, int around) {
        pen.setColor(colour);
        pen.fillRect(kept.x() - around, kept.y() - around, kept.width() + 2 * around, kept.height() + 2 * around);
    }
}
