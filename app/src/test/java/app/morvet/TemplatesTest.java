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

    /** Only an action that the engine writes brings the token of the page with it; where a link's code is the secret there is none. */
    @Test
    void eachFormThatIsPostedBearsTheTokenOfItsPage() throws IOException {
        var bare = new ArrayList<String>();
        var all = templates();
        all.remove("take.html");
        all.forEach((name, text) -> java.util.regex.Pattern.compile("<form[^>]*>")
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
            var once = java.util.regex.Pattern.compile("m:once=\"~\\{([\\w-]+) :: (\\w+)\\(")
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
