package docksort.engine;

import docksort.files.Documents;
import docksort.media.FrameLines;
import docksort.media.FrameLines.Area;
import docksort.media.Raster;
import docksort.media.Rational;
import java.awt.AlphaComposite;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.imageio.ImageIO;
import org.bytedeco.javacpp.Loader;

/// Pictures of frame lines, to be laid over others, where the engine can read them.
final class FramePicture {
    private static final int LINES_OF_THICKNESS = 540; // for one pair of lines of thickness
    private static final Color WHITE = new Color(255, 255, 255, 230);
    private static final Color BLACK = new Color(0, 0, 0, 230);
    private static final Color DIM = new Color(0, 0, 0, 153);

    private FramePicture() {}

    /// @return a PNG file of the raster, clear where the picture is to stay as it is
    static Path of(FrameLines frame, Raster raster, Rational pixelAspect) {
        Area kept = frame.kept(raster, pixelAspect);
        try {
            Path file = Loader.getCacheDir()
                    .toPath()
                    .resolve("dock-sort-frame-1-%s-%dx%d-%d-%d.png"
                            .formatted(frame.outside(), raster.width(), raster.height(), kept.x(), kept.y()));
            if (!Files.isRegularFile(file)) {
                var bytes = new ByteArrayOutputStream();
                ImageIO.write(drawn(frame.outside(), raster, kept), "png", bytes);
                Documents.replace(file, bytes.toByteArray());
            }
            return file;
        } catch (IOException e) {
            throw new UncheckedIOException("there is no folder to unpack into", e);
        }
    }

    private static BufferedImage drawn(FrameLines.Outside outside, Raster raster, Area kept) {
        var picture = new BufferedImage(raster.width(), raster.height(), BufferedImage.TYPE_INT_ARGB);
        Graphics2D pen = picture.createGraphics();
        pen.setComposite(AlphaComposite.Src);
        switch (outside) {
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
        pen.dispose();
        return picture;
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
