package app.morvet.views.shift;

import static app.morvet.ground.page.PdfPen.INK;

import app.morvet.ground.page.PdfPen;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import org.apache.pdfbox.pdmodel.PDDocument;

/** A handover as PDF: its heads as heads, its lines as lines, without the signs of Markdown. */
final class HandoverPdf {
    private HandoverPdf() {}

    static byte[] of(String markdown) {
        try (var document = new PDDocument();
                var out = new ByteArrayOutputStream()) {
            document.getDocumentInformation().setTitle("Handover");
            try (var pen = new PdfPen(document)) {
                for (var line : markdown.lines().toList()) {
                    var words = plain(line.replaceFirst("^#+\\s*|^[-*]\\s+", ""));
                    if (words.isBlank()) continue;
                    if (line.startsWith("# ")) pen.text(words, 15, INK);
                    else if (line.startsWith("#")) pen.head(words);
                    else pen.text((line.matches("^[-*]\\s.*") ? "• " : "") + words, 10, INK);
                }
            }
            document.save(out);
            return out.toByteArray();
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static String plain(String words) {
        return words.replaceAll("(?<!\\\\)[*_`]+", "").replaceAll("\\\\([\\\\`*_\\[\\]<>#|])", "$1");
    }
}
