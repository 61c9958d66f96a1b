package app.morvet.work.callouts;

import app.morvet.core.callouts.Wording;
import app.morvet.ground.page.CurvePicture;
import app.morvet.ground.page.FixNotes;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.UnaryOperator;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;

/**
 * The words of a mail as HTML, from the same source as its text. What varies is put in after the words have become HTML, so that no
 * headline and no error text is ever read as Markdown or as HTML.
 */
@Component
class MailHtml {
    /** Under this name a mail bears the picture of a curve. */
    static final String CURVE = "cid:curve";

    /** In a mail that has it, what a job wrote is attached. */
    static final String ATTACHED = "data-attached=\"output\"";

    /** So much of what a job wrote stands in a mail; what is longer is attached. */
    private static final int LONGEST_OUTPUT = 64 * 1024;

    private static final Pattern IMAGE = Pattern.compile("<p><img src=\"" + CURVE + "\"[^>]*></p>");
    private static final Pattern TOKEN = Pattern.compile("\uE000(\\d+)\uE001");
    private static final Pattern ATTRIBUTE = Pattern.compile("\"[^\"<>]*\uE000\\d+\uE001[^\"<>]*\"");
    private static final Pattern ADDRESS = Pattern.compile("https?://[^\\s<>\"]*[^\\s<>\".,;:!?)]");

    private final FixNotes markdown;

    MailHtml(FixNotes markdown) {
        this.markdown = markdown;
    }

    /**
     * What a variable stands for.
     *
     * @param block whether its HTML is a part of its own, and no words in a sentence
     */
    record Value(String text, String html, boolean block) {
        static final Value NONE = of("");

        static Value of(String text) {
            return new Value(text, escaped(text), false);
        }

        static Value strong(String text) {
            return new Value(text, text.isEmpty() ? "" : "<strong>" + escaped(text) + "</strong>", false);
        }

        static Value link(String address) {
            return new Value(address, "<a href=\"%1$s\">%1$s</a>".formatted(escaped(address)), false);
        }

        static Value block(String text, String html) {
            return new Value(text, html, true);
        }

        boolean isEmpty() {
            return text.isBlank() && html.isBlank();
        }
    }

    private static String escaped(String text) {
        return HtmlUtils.htmlEscape(text, "UTF-8").replace("\n", "<br>");
    }

    static Value facts(List<String[]> facts) {
        var text =
                facts.stream().map(one -> "%-12s %s".formatted(one[0], one[1])).collect(Collectors.joining("\n"));
        var html = facts.stream()
                .map(one -> "<tr><th>%s</th><td>%s</td></tr>".formatted(escaped(one[0]), escaped(one[1])))
                .collect(Collectors.joining("", "<table>", "</table>"));
        return Value.block(text, facts.isEmpty() ? "" : html);
    }

    /** A note that people have written as Markdown. */
    Value note(String text) {
        return Value.block(text, text.isBlank() ? "" : markdown.html(text));
    }

    static Value list(List<String> items) {
        var text = items.stream().map("- "::concat).collect(Collectors.joining("\n"));
        var html = items.stream()
                .map(one -> "<li>" + escaped(one) + "</li>")
                .collect(Collectors.joining("", "<ul>", "</ul>"));
        return items.isEmpty() ? Value.NONE : Value.block(text, html);
    }

    /** What a job wrote. */
    static Value output(String text) {
        int bytes = text.getBytes(StandardCharsets.UTF_8).length;
        if (bytes <= LONGEST_OUTPUT)
            return Value.block(text.strip(), "<pre>" + HtmlUtils.htmlEscape(text.strip(), "UTF-8") + "</pre>");
        var words = "What it wrote, %,d KiB, is attached.".formatted(bytes / 1024);
        return Value.block(words, "<p %s>%s</p>".formatted(ATTACHED, words));
    }

    static Value curve(String alt) {
        return Value.block(
                "",
                "<p><img src=\"%s\" alt=\"%s\" width=\"%d\" height=\"%d\"></p>"
                        .formatted(CURVE, escaped(alt), CurvePicture.WIDTH, CurvePicture.HEIGHT));
    }

    /** The same where there is no picture to go with it. */
    static String withoutCurve(String html) {
        return IMAGE.matcher(html).replaceAll("");
    }

    /** A wording with its variables filled in; safe to be shown in a page. */
    String of(Wording wording, Map<String, Value> values) {
        var filled = new ArrayList<Value>();
        var html = markdown.html(wording.filled(name -> {
            var value = values.getOrDefault(name, Value.NONE);
            if (value.isEmpty()) return "";
            filled.add(value);
            return "\uE000" + (filled.size() - 1) + "\uE001";
        }));
        html = ATTRIBUTE
                .matcher(html)
                .replaceAll(it -> Matcher.quoteReplacement(replaced(
                        it.group(),
                        number -> HtmlUtils.htmlEscape(value(filled, number).text()))));
        return replaced(html, number -> {
                    var value = value(filled, number);
                    return value.block() ? "</p>" + value.html() + "<p>" : value.html();
                })
                .replaceAll("<p>\\s*</p>", "");
    }

    private static Value value(List<Value> filled, String number) {
        int place = number.length() > 6 ? -1 : Integer.parseInt(number);
        return place >= 0 && place < filled.size() ? filled.get(place) : Value.NONE;
    }

    private static String replaced(String html, UnaryOperator<String> by) {
        return TOKEN.matcher(html)
                .replaceAll(
                        (MatchResult it) -> Matcher.quoteReplacement(Objects.requireNonNull(by.apply(it.group(1)))));
    }

    /** Of words that have no HTML of their own: their paragraphs, with what is an address as a link. */
    static String plain(String text) {
        return text.strip()
                .lines()
                .map(line -> ADDRESS.matcher(HtmlUtils.htmlEscape(line, "UTF-8"))
                        .replaceAll(it -> Matcher.quoteReplacement("<a href=\"%1$s\">%1$s</a>".formatted(it.group()))))
                .collect(Collectors.joining("<br>\n", "<p>", "</p>"));
    }
}
