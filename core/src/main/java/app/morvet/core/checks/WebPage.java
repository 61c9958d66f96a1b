package app.morvet.core.checks;

import java.time.Duration;
import java.util.List;

/**
 * The text that is seen on a page, which must not change.
 *
 * @param part a CSS selector of what is looked at; empty for all of it
 */
public record WebPage(WebCall.Step step, String part, Duration patience) implements Target {
    public static final Kind KIND = new Kind(
            "page",
            "page",
            false,
            "look at the text of {url}, of it {part}, and expect it to be as before",
            List.of(
                    Kind.Field.of("url", "Address", "wide", "", "https://…"),
                    Kind.Field.of("part", "Part, as a CSS selector", "short", "", "all of it"),
                    Kind.Field.of("patience", "Longest time", "short", "10 s", "")),
            fields -> new WebPage(
                    fields.read("url", WebPage::step, step("http://none")),
                    fields.text("part"),
                    fields.span("patience")));

    public WebPage {
        Limits.bearable(patience);
        if (part.length() > 200) throw new IllegalArgumentException("a selector has at most 200 characters");
    }

    private static WebCall.Step step(String url) {
        return new WebCall.Step("GET", url, "", true, List.of(Expectation.Code.of("200-299")), java.util.Map.of());
    }

    @Override
    public List<String> hosts() {
        return List.of(step.host());
    }

    @Override
    public String words() {
        return "look at the text of %s%s and expect it to be as before"
                .formatted(step.url(), part.isEmpty() ? "" : ", of it " + part);
    }
}
