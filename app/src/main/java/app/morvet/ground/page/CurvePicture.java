package app.morvet.ground.page;

import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.geom.Line2D;
import java.awt.geom.Path2D;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import javax.imageio.ImageIO;

/** A curve as a small PNG picture, for what shows no scripts, such as a mail: the curve, its limits, no words. */
public final class CurvePicture {
    public static final int WIDTH = 560;
    public static final int HEIGHT = 140;
    private static final int EDGE = 6;
    private static final Color RULE = new Color(0xD8, 0xD3, 0xC6);
    private static final Color INK = new Color(0x14, 0x24, 0x2B);
    private static final Color WARNING = new Color(0xB2, 0x6A, 0x00);
    private static final Color CRITICAL = new Color(0xB0, 0x12, 0x3B);
    /** So that it is sharp on screens of twice the points. */
    private static final int SCALE = 2;

    private CurvePicture() {}

    /** Whether there is anything to draw. */
    public static boolean isDrawn(Curve curve) {
        return curve.times().size() > 1
                && curve.track().isEmpty()
                && curve.values().stream().anyMatch(Objects::nonNull);
    }

    public static byte[] png(Curve curve) {
        var image = new BufferedImage(WIDTH * SCALE, HEIGHT * SCALE, BufferedImage.TYPE_INT_RGB);
        var pen = image.createGraphics();
        try {
            pen.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
            pen.scale(SCALE, SCALE);
            pen.setColor(Color.WHITE);
            pen.fillRect(0, 0, WIDTH, HEIGHT);
            draw(pen, curve);
        } finally {
            pen.dispose();
        }
        var out = new ByteArrayOutputStream();
        try {
            ImageIO.write(image, "png", out);
        } catch (IOException none) {
            throw new UncheckedIOException(none);
        }
        return out.toByteArray();
    }

    private static void draw(Graphics2D pen, Curve curve) {
        var all = Stream.of(curve.values(), curve.warning(), curve.critical())
                .flatMap(List::stream)
                .filter(Objects::nonNull)
                .mapToDouble(it -> it)
                .summaryStatistics();
        double low = Math.min(0, all.getMin());
        double high = Math.max(low, all.getMax());
        double span = high > low ? high - low : 1;
        level(pen, RULE, 1, low, low, span);
        for (var limit : curve.warning()) level(pen, WARNING, 1, limit, low, span);
        for (var limit : curve.critical()) level(pen, CRITICAL, 1, limit, low, span);
        double from = curve.times().getFirst();
        double length = Math.max(1, curve.times().getLast() - from);
        var path = new Path2D.Double();
        boolean down = false;
        for (int i = 0; i < curve.times().size(); i++) {
            var value = curve.values().get(i);
            if (value == null) {
                down = false;
                continue;
            }
            double x = EDGE + (curve.times().get(i) - from) / length * (WIDTH - 2 * EDGE);
            double y = y(value, low, span);
            if (down) path.lineTo(x, y);
            else path.moveTo(x, y);
            down = true;
        }
        pen.setColor(INK);
        pen.setStroke(new BasicStroke(1.6f, BasicStroke.CAP_ROUND, BasicStroke.JOIN_ROUND));
        pen.draw(path);
    }

    private static double y(double value, double low, double span) {
        return HEIGHT - EDGE - (value - low) / span * (HEIGHT - 2 * EDGE);
    }

    private static void level(Graphics2D pen, Color colour, float width, double value, double low, double span) {
        pen.setColor(colour);
        pen.setStroke(new BasicStroke(width));
        double y = y(value, low, span);
        pen.draw(new Line2D.Double(EDGE, y, WIDTH - EDGE, y));
    }
}
