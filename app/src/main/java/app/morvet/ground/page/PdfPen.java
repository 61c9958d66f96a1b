package app.morvet.ground.page;

import java.awt.Color;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.pdmodel.PDPageContentStream;
import org.apache.pdfbox.pdmodel.common.PDRectangle;
import org.apache.pdfbox.pdmodel.font.PDFont;
import org.apache.pdfbox.pdmodel.font.PDType0Font;
import org.jspecify.annotations.Nullable;

/** Writes a PDF on sheets of A4, from the top of each to its foot and on to the next. Lengths are points. */
public final class PdfPen implements AutoCloseable {
    public static final float MARGIN = 48;
    public static final float WIDTH = PDRectangle.A4.getWidth() - 2 * MARGIN;
    public static final Color INK = new Color(0x14, 0x24, 0x2B);
    public static final Color SOFT = new Color(0x55, 0x65, 0x6A);
    public static final Color RULE = new Color(0xD8, 0xD3, 0xC6);
    private static final String FONT = "/org/apache/pdfbox/resources/ttf/LiberationSans-Regular.ttf";

    private final PDDocument document;
    private final PDFont font;
    private final Map<Integer, Boolean> known = new HashMap<>();
    private PDPageContentStream page;
    private float y;
    private int number;

    public PdfPen(PDDocument document) throws IOException {
        this.document = document;
        try (var in = Objects.requireNonNull(PDFont.class.getResourceAsStream(FONT), FONT)) {
            this.font = PDType0Font.load(document, in);
        }
        this.page = fresh();
    }

    private PDPageContentStream fresh() throws IOException {
        var sheet = new PDPage(PDRectangle.A4);
        document.addPage(sheet);
        y = PDRectangle.A4.getHeight() - MARGIN;
        var stream = new PDPageContentStream(document, sheet);
        number++;
        write(stream, "" + number, 8, SOFT, MARGIN + WIDTH - 10, MARGIN / 2);
        return stream;
    }

    /** Goes on to the next sheet where there is no room for so much. */
    public void room(float height) throws IOException {
        if (y - height >= MARGIN) return;
        page.close();
        page = fresh();
    }

    /** How high on the sheet it stands now, from its foot. */
    public float y() {
        return y;
    }

    public void down(float by) {
        y -= by;
    }

    public void head(String words) throws IOException {
        room(44);
        down(10);
        text(words, 12, INK);
        down(2);
    }

    /** Words over as many lines as they need. */
    public void text(String words, float size, Color colour) throws IOException {
        for (var line : lines(shown(words), size)) {
            room(size * 1.4f);
            down(size * 1.4f);
            write(page, line, size, colour, MARGIN, y);
        }
    }

    /** Words at a place of this sheet. */
    public void write(String words, float size, Color colour, float x, float at) throws IOException {
        write(page, shown(words), size, colour, x, at);
    }

    private void write(PDPageContentStream to, String words, float size, Color colour, float x, float at)
            throws IOException {
        to.beginText();
        to.setFont(font, size);
        to.setNonStrokingColor(colour);
        to.newLineAtOffset(x, at);
        to.showText(words);
        to.endText();
    }

    private float wide(String words, float size) throws IOException {
        return font.getStringWidth(words) / 1000 * size;
    }

    private List<String> lines(String words, float size) throws IOException {
        var lines = new ArrayList<String>();
        var line = new StringBuilder();
        for (var word : words.split(" ")) {
            for (var piece : pieces(word, size)) {
                if (!line.isEmpty() && wide(line + " " + piece, size) > WIDTH) {
                    lines.add(line.toString());
                    line.setLength(0);
                }
                line.append(line.isEmpty() ? "" : " ").append(piece);
            }
        }
        if (!line.isEmpty()) lines.add(line.toString());
        return lines;
    }

    /** A word that is longer than a line is cut into some. */
    private List<String> pieces(String word, float size) throws IOException {
        if (wide(word, size) <= WIDTH) return List.of(word);
        var pieces = new ArrayList<String>();
        int step = Math.max(1, (int) (word.length() * WIDTH / wide(word, size)) - 2);
        for (int i = 0; i < word.length(); i += step) pieces.add(word.substring(i, Math.min(word.length(), i + step)));
        return pieces;
    }

    /** As much of some words as fits into a width. */
    public String fitting(String words, float size, float width) throws IOException {
        var whole = shown(words);
        if (wide(whole, size) <= width) return whole;
        int end = whole.length();
        while (end > 1 && wide(whole.substring(0, end) + "…", size) > width) end--;
        return whole.substring(0, end) + "…";
    }

    /** On one line; what the font has no sign for is a question mark. */
    private String shown(String words) {
        var shown = new StringBuilder();
        words.replaceAll("\\s+", " ")
                .codePoints()
                .forEach(one -> shown.appendCodePoint(known.computeIfAbsent(one, this::has) ? one : '?'));
        return shown.toString();
    }

    private boolean has(int one) {
        try {
            return font.encode(Character.toString(one)).length > 0;
        } catch (IllegalArgumentException | IOException none) {
            return false;
        }
    }

    public void fill(Color colour, double x, double bottom, double width, double height) throws IOException {
        page.setNonStrokingColor(colour);
        page.addRect((float) x, (float) bottom, (float) width, (float) height);
        page.fill();
    }

    public void line(Color colour, float x1, float y1, float x2, float y2) throws IOException {
        path(colour, 0.5f, List.of(new float[] {x1, y1}, new float[] {x2, y2}));
    }

    /** A line through some points; null is a gap. */
    public void path(Color colour, float thickness, List<float @Nullable []> points) throws IOException {
        page.setStrokingColor(colour);
        page.setLineWidth(thickness);
        boolean drawing = false;
        for (var point : points) {
            if (point == null) {
                if (drawing) page.stroke();
                drawing = false;
            } else if (drawing) {
                page.lineTo(point[0], point[1]);
            } else {
                page.moveTo(point[0], point[1]);
                drawing = true;
            }
        }
        if (drawing) page.stroke();
    }

    @Override
    public void close() throws IOException {
        page.close();
    }
}
