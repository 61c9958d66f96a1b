package app.morvet.ground.page;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.thymeleaf.context.Context;
import org.thymeleaf.exceptions.TemplateProcessingException;
import org.thymeleaf.spring6.SpringTemplateEngine;
import org.thymeleaf.templateresolver.FileTemplateResolver;

class DrawnOnceTest {
    private static final AtomicInteger SAID = new AtomicInteger();

    record Row(long id, String name) {
        public String said() {
            SAID.incrementAndGet();
            return name;
        }
    }

    @TempDir
    Path templates;

    private final SpringTemplateEngine engine = new SpringTemplateEngine();

    @BeforeEach
    void engine() throws IOException {
        SAID.set(0);
        var files = new FileTemplateResolver();
        files.setPrefix(templates + "/");
        files.setSuffix(".html");
        engine.setTemplateResolver(files);
        engine.addDialect(new DrawnOnce());
        new PathExpressions(engine);
        new OwnLinks(engine);
        write(
                "rows",
                "<li th:fragment=\"row(row, mark)\" th:class=\"${mark}\"><a th:href=\"@{/cases/{id}(id=${row.id},show='open')}\""
                        + " th:text=\"${row.said()}\"></a><i th:text=\"${reader}\"></i></li>");
        write(
                "page",
                "<th:block th:each=\"row : ${rows}\"><p m:once=\"~{rows :: row(row=${row},mark=${mark})}\">example</p></th:block>");
        write(
                "anew",
                "<th:block th:each=\"row : ${rows}\"><p th:replace=\"~{rows :: row(${row}, ${mark})}\">example</p></th:block>");
        write("unnamed", "<p th:each=\"row : ${rows}\" m:once=\"~{rows :: row(${row}, ${mark})}\"></p>");
    }

    private void write(String name, String words) throws IOException {
        Files.writeString(templates.resolve(name + ".html"), words);
    }

    private String page(String name, Map<String, Object> of) {
        return engine.process(name, new Context(Locale.ENGLISH, of));
    }

    @Test
    void whatIsEqualIsDrawnOnceAndWhatHasChangedAnew() {
        var first = page("page", Map.of("rows", List.of(new Row(1, "gate"), new Row(2, "quay")), "mark", "steady"));
        assertThat(SAID).hasValue(2);
        var again = page("page", Map.of("rows", List.of(new Row(1, "gate"), new Row(2, "quay")), "mark", "steady"));
        assertThat(SAID).hasValue(2);
        assertThat(again).isEqualTo(first);
        var changed = page("page", Map.of("rows", List.of(new Row(1, "gate"), new Row(2, "crane")), "mark", "steady"));
        assertThat(SAID).hasValue(3);
        assertThat(changed).isEqualTo(first.replace("quay", "crane"));
    }

    @Test
    void allThatItIsDrawnFromCounts() {
        assertThat(page("page", Map.of("rows", List.of(new Row(1, "gate")), "mark", "steady")))
                .contains("class=\"steady\"");
        assertThat(page("page", Map.of("rows", List.of(new Row(1, "gate")), "mark", "critical")))
                .contains("class=\"critical\"");
    }

    @Test
    void itIsAsIfItWereDrawnAnew() {
        Map<String, Object> of = Map.of("rows", List.of(new Row(7, "<b>gate & quay</b>")), "mark", "steady");
        assertThat(page("page", of))
                .isEqualTo(page("anew", of))
                .contains("href=\"/cases/7?show=open\"")
                .contains("&lt;b&gt;gate &amp; quay&lt;/b&gt;")
                .doesNotContain("example");
    }

    /** Else one reader would be shown what was drawn for another. */
    @Test
    void nothingElseOfThePageIsSeen() {
        var drawn = page("page", Map.of("rows", List.of(new Row(1, "gate")), "mark", "", "reader", "Aino"));
        assertThat(drawn).contains("<i></i>").doesNotContain("Aino");
    }

    @Test
    void whatItIsDrawnFromHasNames() {
        assertThatThrownBy(() -> page("unnamed", Map.of("rows", List.of(new Row(1, "gate")), "mark", "")))
                .isInstanceOf(TemplateProcessingException.class)
                .hasMessageContaining("names what it is drawn from");
    }
}
