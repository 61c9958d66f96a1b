package app.morvet;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** How templates are written: lines that can be read, and one frame around all pages. */
class TemplatesTest {
    private static final Path TEMPLATES = Path.of("src/main/resources/templates");
    private static final int LONGEST = 160;

    /** What is shown to who is not logged in has no places and no now line. */
    private static final List<String> WITHOUT_FRAME = List.of(
            "handed.html", "handed-one.html", "login.html", "login-code.html", "wall.html", "error.html", "take.html");

    private static Map<String, String> templates() throws IOException {
        var all = new TreeMap<String, String>();
        try (var files = Files.walk(TEMPLATES)) {
            files.filter(file -> file.toString().endsWith(".html"))
                    .forEach(file -> all.put(file.getFileName().toString(), read(file)));
        }
        assertThat(all).hasSizeGreaterThan(50);
        return all;
    }

    private static String read(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException unreadable) {
            throw new UncheckedIOException(unreadable);
        }
    }

    @Test
    void noLineIsTooLongToBeRead() throws IOException {
        var tooLong = new ArrayList<String>();
        templates().forEach((name, text) -> text.lines()
                .filter(line -> line.length() > LONGEST)
                .forEach(line -> tooLong.add(name + ": " + line.strip())));
        assertThat(tooLong).isEmpty();
    }

    @Test
    void aPageIsItsMainPartInTheFrameOfAll() throws IOException {
        templates().forEach((name, text) -> {
            boolean page = text.contains("<main") && !name.equals("layout.html") && !WITHOUT_FRAME.contains(name);
            if (page)
                assertThat(text)
                        .as(name)
                        .contains("th:replace=\"~{layout :: page(")
                        .doesNotContain("<head", "<body", "layout :: top");
        });
    }

    /** What is fetched when it is opened would be gone with the next refresh, or stand open in another row, were it not known again. */
    @Test
    void whatIsFetchedWhenItIsOpenedOutlivesARefresh() throws IOException {
        var beginning = "<details(?:[^>\"]|\"[^\"]*\")*>";
        var folded = Pattern.compile("(" + beginning + ").*?</details>", Pattern.DOTALL);
        var found = new ArrayList<String>();
        var lost = new ArrayList<String>();
        templates().forEach((name, text) -> folded.matcher(text).results().forEach(one -> {
            var details = one.group();
            if (!one.group(1).contains("hx-get")) return;
            found.add(details);
            // The table of a curve is kept with its curve.
            boolean kept = details.contains("data-keep") || details.contains("'table-'");
            if (!kept || !one.group(1).matches("(?s).*\\s(th:)?id=.*")) lost.add(name + ": " + details);
        }));
        assertThat(found).hasSizeGreaterThan(7);
        assertThat(lost).isEmpty();
    }

    /** Only an action that the engine writes brings the token of the page with it; where a link's code is the secret there is none. */
    @Test
    void eachFormThatIsPostedBearsTheTokenOfItsPage() throws IOException {
        var bare = new ArrayList<String>();
        var all = templates();
        all.remove("take.html");
        all.forEach((name, text) -> Pattern.compile("<form[^>]*>")
                .matcher(text)
                .results()
                .map(java.util.regex.MatchResult::group)
                .filter(form -> form.contains("method=\"post\"") && !form.contains("th:action"))
                .forEach(form -> bare.add(name + ": " + form)));
        assertThat(bare).isEmpty();
    }

    /** The token of a page is its reader's, and must not be kept with what is drawn once for all. */
    @Test
    void noFormIsDrawnOnceForAll() throws IOException {
        var all = templates();
        var wrong = new ArrayList<String>();
        int asked = 0;
        for (var text : all.values()) {
            var once = Pattern.compile("m:once=\"~\\{([\\w-]+) :: (\\w+)\\(")
                    .matcher(text)
                    .results()
                    .toList();
            for (var one : once) {
                asked++;
                var fragment = fragment(all.get(one.group(1) + ".html"), one.group(2));
                if (fragment.contains("<form")) wrong.add(one.group(1) + " :: " + one.group(2));
            }
        }
        assertThat(asked).isPositive();
        assertThat(wrong).isEmpty();
    }

    /** From its first line to the next empty one, which is how fragments are set apart. */
    private static String fragment(String template, String name) {
        int from = template.indexOf("th:fragment=\"" + name + "(");
        assertThat(from).as(name).isPositive();
        int to = template.indexOf("\n\n", from);
        return template.substring(from, to < 0 ? template.length() : to);
    }
}
