package app.morvet.ground.page;

import java.util.List;
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

    public String html(String markdown) {
        return renderer.render(parser.parse(markdown));
    }
}
