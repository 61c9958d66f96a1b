package app.morvet.ground.page;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import org.commonmark.node.AbstractVisitor;
import org.commonmark.node.Code;
import org.commonmark.node.HardLineBreak;
import org.commonmark.node.ListBlock;
import org.commonmark.node.Node;
import org.commonmark.node.Paragraph;
import org.commonmark.node.SoftLineBreak;
import org.commonmark.node.Text;
import org.commonmark.parser.Parser;
import org.commonmark.renderer.html.HtmlRenderer;
import org.springframework.stereotype.Component;

/** Fix notes from Markdown (CommonMark) to HTML. Raw HTML in a note is shown as text, and links lead only to the web. */
@Component
public class FixNotes {
    private final Parser parser = Parser.builder().build();
    private final HtmlRenderer renderer = HtmlRenderer.builder()
            .escapeHtml(true)
            .sanitizeUrls(true)
            .extensions(List.of())
            .build();

    /**
     * A part of a note.
     *
     * @param step  by what a step is known, as long as its words stay; empty for what is no step
     * @param words of a step, without its marks
     */
    public record NotePart(String html, String step, String words) {
        public boolean isStep() {
            return !step.isEmpty();
        }
    }

    public String html(String markdown) {
        return renderer.render(parser.parse(markdown));
    }

    /** A note in parts: each item of its lists is a step that can be done, what stands between is text. */
    public List<NotePart> parts(String markdown) {
        var parts = new ArrayList<NotePart>();
        for (var block = parser.parse(markdown).getFirstChild(); block != null; block = block.getNext()) {
            if (!(block instanceof ListBlock)) {
                parts.add(new NotePart(renderer.render(block), "", ""));
                continue;
            }
            for (var item = block.getFirstChild(); item != null; item = item.getNext()) {
                var html = new StringBuilder();
                for (var child = item.getFirstChild(); child != null; child = child.getNext()) {
                    var one = renderer.render(child);
                    // The first line of a step stands beside its box.
                    html.append(
                            child == item.getFirstChild() && child instanceof Paragraph
                                    ? one.strip().replaceFirst("^<p>", "").replaceFirst("</p>$", "")
                                    : one);
                }
                var words = words(item);
                parts.add(new NotePart(html.toString(), key(words), words));
            }
        }
        return parts;
    }

    private static String words(Node item) {
        var words = new StringBuilder();
        item.accept(new AbstractVisitor() {
            @Override
            public void visit(Text text) {
                words.append(text.getLiteral());
            }

            @Override
            public void visit(Code code) {
                words.append(code.getLiteral());
            }

            @Override
            public void visit(SoftLineBreak pause) {
                words.append(' ');
            }

            @Override
            public void visit(HardLineBreak pause) {
                words.append(' ');
            }
        });
        return words.toString().strip();
    }

    private static String key(String words) {
        try {
            var digest = MessageDigest.getInstance("SHA-256").digest(words.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(Arrays.copyOf(digest, 8));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException(impossible);
        }
    }
}
