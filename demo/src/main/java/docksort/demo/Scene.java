package docksort.demo;

import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.GradientPaint;
import java.awt.Graphics2D;
import java.awt.Polygon;
import java.awt.RadialGradientPaint;
import java.awt.RenderingHints;
import java.awt.geom.Arc2D;
import java.awt.geom.Ellipse2D;
import java.awt.geom.Point2D;
import java.awt.geom.Rectangle2D;
import java.awt.image.BufferedImage;
import java.util.Random;

/// Painted backgrounds. The same scene and size always give the same picture. Text is not painted here but
/// drawn by the engine, which brings its own font rendering.
enum Scene {
    SKY {
        @Override
        void paint(Graphics2D g, int w, int h, Random random) {
            g.setPaint(new GradientPaint(0, 0, new Color(8, 12, 30), 0, h, new Color(46, 52, 84)));
            g.fillRect(0, 0, w, h);
            for (int i = 0; i < 2600; i++) {
                double band = h * 0.35 + random.nextGaussian() * h * 0.12;
                double x = random.nextDouble() * w;
                int light = 60 + random.nextInt(60);
                g.setColor(new Color(light, light, light + 30, 70));
                double size = h * 0.004 * random.nextDouble() + 1;
                g.fill(new Ellipse2D.Double(x, band + (x - w / 2.0) * 0.22, size * 3, size * 3));
            }
            for (int i = 0; i < 1400; i++) {
                int light = 120 + random.nextInt(135);
                g.setColor(new Color(light, light, Math.min(255, light + random.nextInt(30))));
                double size = h / 900.0 * (0.6 + Math.pow(random.nextDouble(), 6) * 5);
                g.fill(new Ellipse2D.Double(random.nextDouble() * w, random.nextDouble() * h * 0.85, size, size));
            }
            hills(g, w, h, random);
            dome(g, w * 0.62, h * 0.86, h * 0.26);
        }
    },
    MIRROR {
        @Override
        void paint(Graphics2D g, int w, int h, Random random) {
            g.setPaint(new GradientPaint(0, 0, new Color(58, 50, 44), w, h, new Color(24, 26, 30)));
            g.fillRect(0, 0, w, h);
            for (int i = 0; i < 40; i++) {
                g.setColor(new Color(90, 70, 50, 40));
                g.fill(new Rectangle2D.Double(0, h * 0.7 + i * h * 0.0075, w, h * 0.003));
            }
            double r = h * 0.38;
            var centre = new Point2D.Double(w * 0.5, h * 0.5);
            g.setColor(new Color(30, 32, 36));
            g.fill(new Ellipse2D.Double(centre.x - r * 1.08, centre.y - r * 1.08, r * 2.16, r * 2.16));
            g.setPaint(new RadialGradientPaint(
                    new Point2D.Double(centre.x - r * 0.35, centre.y - r * 0.4),
                    (float) (r * 1.6),
                    new float[] {0f, 0.35f, 0.7f, 1f},
                    new Color[] {
                        new Color(235, 240, 245),
                        new Color(150, 170, 190),
                        new Color(70, 86, 104),
                        new Color(190, 190, 180)
                    }));
            g.fill(new Ellipse2D.Double(centre.x - r, centre.y - r, r * 2, r * 2));
            g.setStroke(new BasicStroke(Math.max(1f, h / 1080f)));
            for (int i = 0; i < 900; i++) {
                double angle = random.nextDouble() * Math.PI * 2;
                double at = Math.sqrt(random.nextDouble()) * r * 0.98;
                double x = centre.x + Math.cos(angle) * at;
                double y = centre.y + Math.sin(angle) * at;
                g.setColor(new Color(250, 245, 230, 60 + random.nextInt(120)));
                double size = 1 + random.nextDouble() * h / 400;
                g.fill(new Ellipse2D.Double(x, y, size, size));
            }
            g.setColor(new Color(200, 205, 210));
            for (int i = 0; i < 12; i++) {
                double a = i * Math.PI / 6;
                g.fill(new Ellipse2D.Double(
                        centre.x + Math.cos(a) * r * 1.04 - h * 0.008,
                        centre.y + Math.sin(a) * r * 1.04 - h * 0.008,
                        h * 0.016,
                        h * 0.016));
            }
        }
    },
    DESK {
        @Override
        void paint(Graphics2D g, int w, int h, Random random) {
            g.setColor(new Color(20, 32, 34));
            g.fillRect(0, 0, w, h);
            panel(g, w * 0.03, h * 0.08, w * 0.44, h * 0.52);
            panel(g, w * 0.50, h * 0.08, w * 0.47, h * 0.30);
            panel(g, w * 0.50, h * 0.41, w * 0.47, h * 0.19);
            panel(g, w * 0.03, h * 0.64, w * 0.94, h * 0.30);
            g.setColor(new Color(70, 130, 128));
            g.setStroke(new BasicStroke(Math.max(1f, h / 720f)));
            for (int ring = 1; ring < 7; ring++) {
                double r = h * 0.04 * ring;
                g.draw(new Ellipse2D.Double(w * 0.25 - r, h * 0.34 - r, r * 2, r * 2));
            }
            for (int i = 0; i < 240; i++) {
                g.setColor(new Color(190, 220, 210));
                double a = random.nextDouble() * 7;
                double r = Math.sqrt(random.nextDouble()) * h * 0.24;
                g.fill(new Ellipse2D.Double(
                        w * 0.25 + Math.cos(a) * r, h * 0.34 + Math.sin(a) * r, h / 400.0, h / 400.0));
            }
            double before = h * 0.25;
            for (int i = 0; i < 300; i++) {
                double next = h * 0.23 + random.nextGaussian() * h * 0.03;
                g.setColor(new Color(214, 168, 84));
                double step = w * 0.45 / 300;
                g.drawLine((int) (w * 0.51 + i * step), (int) before, (int) (w * 0.51 + (i + 1) * step), (int) next);
                before = next;
            }
            for (int row = 0; row < 14; row++) {
                g.setColor(new Color(60, 92, 92));
                g.fill(new Rectangle2D.Double(
                        w * 0.05, h * (0.67 + row * 0.018), w * (0.2 + random.nextDouble() * 0.6), h * 0.004));
            }
        }
    },
    WORKSHOP {
        @Override
        void paint(Graphics2D g, int w, int h, Random random) {
            g.setPaint(new GradientPaint(0, 0, new Color(120, 108, 92), 0, h, new Color(66, 58, 50)));
            g.fillRect(0, 0, w, h);
            for (int i = 0; i < 26; i++) {
                int tone = 70 + random.nextInt(110);
                g.setColor(new Color(tone, Math.max(0, tone - 12), Math.max(0, tone - 26)));
                double x = w * random.nextDouble();
                g.fill(new Rectangle2D.Double(x, h * 0.18, w * 0.012, h * (0.1 + random.nextDouble() * 0.2)));
            }
            g.setColor(new Color(96, 74, 54));
            g.fill(new Rectangle2D.Double(0, h * 0.62, w, h * 0.06));
            g.setColor(new Color(40, 36, 34));
            g.fill(new Rectangle2D.Double(0, h * 0.68, w, h * 0.32));
            tube(g, w * 0.34, h * 0.56, w * 0.34, h * 0.14);
            for (int i = 0; i < 4000; i++) {
                g.setColor(new Color(255, 250, 235, random.nextInt(28)));
                g.fill(new Rectangle2D.Double(random.nextDouble() * w, random.nextDouble() * h, 1.5, 1.5));
            }
        }
    },
    CLEAR {
        @Override
        void paint(Graphics2D g, int w, int h, Random random) {
            g.setColor(new Color(246, 243, 236, 255));
            g.setStroke(new BasicStroke(h / 300f));
            double r = h * 0.13;
            g.draw(new Ellipse2D.Double(w * 0.12, h * 0.62, r * 2, r * 2));
            g.setColor(new Color(246, 243, 236, 120));
            g.fill(new Ellipse2D.Double(w * 0.12 + r * 0.3, h * 0.62 + r * 0.3, r * 1.4, r * 1.4));
            g.setPaint(new GradientPaint(
                    (float) (w * 0.3), 0, new Color(15, 92, 99, 255), w, 0, new Color(15, 92, 99, 0)));
            g.fill(new Rectangle2D.Double(w * 0.3, h * 0.855, w * 0.6, h * 0.012));
        }
    };

    abstract void paint(Graphics2D g, int w, int h, Random random);

    BufferedImage picture(int w, int h) {
        var image = new BufferedImage(w, h, this == CLEAR ? BufferedImage.TYPE_INT_ARGB : BufferedImage.TYPE_INT_RGB);
        Graphics2D g = image.createGraphics();
        g.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
        paint(g, w, h, new Random(name().hashCode()));
        g.dispose();
        return image;
    }

    private static void hills(Graphics2D g, int w, int h, Random random) {
        var hill = new Polygon();
        hill.addPoint(0, h);
        for (int i = 0; i <= 60; i++) {
            hill.addPoint(i * w / 60, (int) (h * (0.84 + 0.04 * Math.sin(i * 0.31) + 0.008 * random.nextGaussian())));
        }
        hill.addPoint(w, h);
        g.setColor(new Color(10, 13, 20));
        g.fill(hill);
    }

    private static void dome(Graphics2D g, double x, double y, double r) {
        g.setColor(new Color(150, 156, 164));
        g.fill(new Arc2D.Double(x - r, y - r, r * 2, r * 2, 0, 180, Arc2D.PIE));
        g.setColor(new Color(104, 110, 120));
        g.fill(new Rectangle2D.Double(x - r * 1.02, y, r * 2.04, r * 0.34));
        g.setColor(new Color(16, 20, 30));
        var slit = new Polygon();
        slit.addPoint((int) (x - r * 0.12), (int) (y - r * 0.99));
        slit.addPoint((int) (x + r * 0.16), (int) (y - r * 0.985));
        slit.addPoint((int) (x + r * 0.3), (int) (y - r * 0.1));
        slit.addPoint((int) (x - r * 0.02), (int) (y - r * 0.1));
        g.fill(slit);
        g.setColor(new Color(84, 90, 100));
        for (int i = 1; i < 7; i++) {
            g.draw(new Arc2D.Double(x - r * i / 7, y - r, r * 2 * i / 7, r * 2, 0, 180, Arc2D.OPEN));
        }
    }

    private static void panel(Graphics2D g, double x, double y, double w, double h) {
        g.setColor(new Color(26, 46, 48));
        g.fill(new Rectangle2D.Double(x, y, w, h));
        g.setColor(new Color(52, 84, 84));
        for (int i = 1; i < 20; i++) {
            g.draw(new Rectangle2D.Double(x, y + h * i / 20, w, 0));
        }
        g.draw(new Rectangle2D.Double(x, y, w, h));
    }

    private static void tube(Graphics2D g, double x, double y, double w, double h) {
        g.setPaint(new GradientPaint(
                0, (float) (y - h / 2), new Color(214, 214, 206), 0, (float) (y + h / 2), new Color(92, 92, 90)));
        g.fill(new Rectangle2D.Double(x, y - h / 2, w, h));
        g.setColor(new Color(36, 36, 38));
        g.fill(new Rectangle2D.Double(x + w * 0.2, y - h / 2, w * 0.02, h));
        g.fill(new Rectangle2D.Double(x + w * 0.7, y - h / 2, w * 0.02, h));
        g.fill(new Ellipse2D.Double(x - h * 0.2, y - h / 2, h * 0.4, h));
    }
}
