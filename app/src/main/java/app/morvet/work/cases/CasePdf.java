package app.morvet.work.cases;

import static app.morvet.ground.page.PdfPen.INK;
import static app.morvet.ground.page.PdfPen.MARGIN;
import static app.morvet.ground.page.PdfPen.RULE;
import static app.morvet.ground.page.PdfPen.SOFT;
import static app.morvet.ground.page.PdfPen.WIDTH;

import app.morvet.core.guard.Numbers;
import app.morvet.ground.page.Curve;
import app.morvet.ground.page.PdfPen;
import app.morvet.ground.tracks.TimePictures;
import java.awt.Color;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The paper of a case as PDF: its text, its curves, and its picture of time, drawn as they stand in the dossier. */
@Component
class CasePdf {
    private static final float NAMES = 130;
    private static final float LANE = 13;
    private static final float CURVE = 90;
    private static final int TOGETHER = 20;
    private static final DateTimeFormatter AT = DateTimeFormatter.ofPattern("d MMM HH:mm", Locale.ENGLISH);
    private static final Map<String, Color> MARKS = Map.of(
            "critical", new Color(0xA3, 0x12, 0x3A),
            "warning", new Color(0xA8, 0x62, 0x00),
            "notice", new Color(0x2F, 0x66, 0x90),
            "hatched", new Color(0xDC, 0xD6, 0xEA),
            "over", new Color(0xA9, 0xB2, 0xB5),
            "act", new Color(0x0B, 0x55, 0x63),
            "change", new Color(0x0B, 0x55, 0x63));

    byte[] of(CasePaper.Paper paper) {
        try (var document = new PDDocument();
                var out = new ByteArrayOutputStream()) {
            var info = document.getDocumentInformation();
            info.setTitle(paper.headline());
            info.setCreator("Morvet");
            try (var pen = new PdfPen(document)) {
                pen.text(paper.headline(), 15, INK);
                pen.text(paper.standing(), 9, SOFT);
                pen.text("As of " + paper.made(), 9, SOFT);
                for (var part : paper.parts()) {
                    if (part.lines().isEmpty()) continue;
                    pen.head(part.head());
                    if (part.head().equals("Over time")) picture(pen, paper.time());
                    for (var line : part.lines()) pen.text(line, 9.5f, INK);
                    if (part.head().equals("Alerts")) for (var curve : paper.curves()) curve(pen, curve);
                }
            }
            document.save(out);
            return out.toByteArray();
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static Color color(String css) {
        return MARKS.getOrDefault(css, SOFT);
    }

    private static void picture(PdfPen pen, TimePictures.Shown time) throws IOException {
        float left = MARGIN + NAMES;
        float width = WIDTH - NAMES;
        pen.room(LANE * (Math.min(time.lanes().size(), TOGETHER) + 2));
        pen.down(LANE);
        for (var tick : time.ticks())
            pen.write(tick.words(), 7, SOFT, (float) (left + width * tick.x() / 100) - 8, pen.y());
        for (var lane : time.lanes()) {
            pen.room(LANE);
            pen.down(LANE);
            float y = pen.y();
            for (var tick : time.ticks()) {
                float x = (float) (left + width * tick.x() / 100);
                pen.line(RULE, x, y, x, y + LANE);
            }
            for (var it : time.hatched())
                pen.fill(color("hatched"), left + width * it.x() / 100, y, width * it.width() / 100, LANE);
            float indent = 8 * lane.indent();
            pen.write(pen.fitting(lane.name(), 8, NAMES - 8 - indent), 8, INK, MARGIN + indent, y + 3);
            pen.line(RULE, left, y, left + width, y);
            for (var it : lane.pieces()) {
                double x = left + width * it.x() / 100 - (it.width() == 0 ? 1 : 0);
                // A track is 22 high in the picture.
                double height = Math.max(1, it.height() / 22 * (LANE - 1));
                double bottom = Math.max(y, y + LANE - 1 - it.y() / 22 * (LANE - 1) - height);
                pen.fill(color(it.css()), x, bottom, Math.max(2, width * it.width() / 100), height);
            }
        }
        pen.down(8);
    }

    private static void curve(PdfPen pen, Curve curve) throws IOException {
        var values = curve.values().stream().filter(Objects::nonNull).toList();
        if (values.isEmpty()) return;
        pen.room(CURVE + 40);
        pen.down(8);
        pen.text(caption(curve, values), 8, SOFT);
        pen.down(4);
        var all = Stream.of(values, curve.warning(), curve.critical())
                .flatMap(List::stream)
                .toList();
        double low = Math.min(0, all.stream().mapToDouble(it -> it).min().orElse(0));
        double high = all.stream().mapToDouble(it -> it).max().orElse(1);
        double span = high > low ? high - low : 1;
        double from = curve.times().getFirst();
        double length = Math.max(1, curve.times().getLast() - from);
        float bottom = pen.y() - CURVE;
        pen.line(RULE, MARGIN, bottom, MARGIN + WIDTH, bottom);
        for (var limit : curve.warning()) level(pen, color("warning"), bottom + (limit - low) / span * CURVE);
        for (var limit : curve.critical()) level(pen, color("critical"), bottom + (limit - low) / span * CURVE);
        var points = new ArrayList<float @Nullable []>();
        for (int i = 0; i < curve.times().size(); i++) {
            var value = curve.values().get(i);
            points.add(
                    value == null
                            ? null
                            : new float[] {
                                (float) (MARGIN + (curve.times().get(i) - from) / length * WIDTH),
                                (float) (bottom + (value - low) / span * CURVE)
                            });
        }
        pen.path(INK, 0.9f, points);
        pen.down(CURVE + 6);
    }

    /** {@code failed in 1 min, 98 at most; 18 Mar 02:06 to 18 Mar 04:45}. */
    private static String caption(Curve curve, List<Double> values) {
        var most = values.stream().max(Comparator.naturalOrder()).orElseThrow();
        return "%s, %s at most; %s to %s"
                .formatted(
                        curve.name(),
                        Numbers.with(Numbers.rounded(most), curve.unit()),
                        at(curve, curve.times().getFirst()),
                        at(curve, curve.times().getLast()));
    }

    private static String at(Curve curve, double seconds) {
        return AT.format(Instant.ofEpochMilli(Math.round(seconds * 1000)).atZone(ZoneId.of(curve.zone())));
    }

    private static void level(PdfPen pen, Color colour, double at) throws IOException {
        pen.line(colour, MARGIN, (float) at, MARGIN + WIDTH, (float) at);
    }
}
