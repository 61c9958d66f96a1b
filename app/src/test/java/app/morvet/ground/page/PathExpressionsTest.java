package app.morvet.ground.page;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.thymeleaf.context.Context;
import org.thymeleaf.exceptions.TemplateProcessingException;
import org.thymeleaf.spring6.SpringTemplateEngine;
import org.thymeleaf.templateresolver.StringTemplateResolver;

/** What is read here is what the library reads; it is the oracle, for what there is and for what there is not. */
class PathExpressionsTest {
    enum Kind {
        FIRST;

        public String words() {
            return "the first";
        }
    }

    record Inner(String name, @Nullable String note, int left, long all, double share, List<String> some, Kind kind) {
        public boolean over() {
            return left == 0;
        }

        public String fails() {
            throw new IllegalStateException("it cannot be said");
        }
    }

    record Row(@Nullable Inner inner, @Nullable Inner none, boolean open, String empty, Map<String, String> map) {
        /** As a getter it comes before the component. */
        public String getEmpty() {
            return "not so empty";
        }
    }

    private static final Row ROW = new Row(
            new Inner("gate", null, 0, 12L, 0.5, List.of(), Kind.FIRST),
            null,
            true,
            "",
            new HashMap<>(Map.of("key", "value")));

    private static final SpringTemplateEngine PLAIN = engine();
    private static final SpringTemplateEngine OURS = engine();

    static {
        new PathExpressions(OURS);
    }

    private static SpringTemplateEngine engine() {
        var engine = new SpringTemplateEngine();
        engine.setTemplateResolver(new StringTemplateResolver());
        return engine;
    }

    private static String rendered(SpringTemplateEngine engine, String expression) {
        var context =
                new Context(Locale.ENGLISH, new HashMap<>(Map.of("row", ROW, "text", "a", "count", 3, "yes", true)));
        return engine.process("<p th:text=\"${" + expression + "}\"></p>", context);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "row.inner.name",
                "row.inner.note",
                "row.inner.over()",
                "not row.inner.over()",
                "!row.open",
                "not yes",
                "text",
                "missing",
                "count",
                "count > 2",
                "count >= 4",
                "count == 3",
                "count != 3",
                "row.inner.left == 0",
                "row.inner.all < 13",
                "row.inner.all <= 11",
                "row.inner.share == 0",
                "row.inner.share > 0",
                "row.none == null",
                "row.inner != null",
                "missing == null",
                "missing != 'a'",
                "text == 'a'",
                "text != 'a'",
                "text == 'b or c'",
                "row.inner.kind == 'FIRST'",
                "row.inner.kind.words()",
                "row.inner.kind.name()",
                "row.inner.some",
                "row.inner.some.isEmpty()",
                "row.empty",
                "row.map.key",
                "#strings.isEmpty(row.inner.note)",
                "!#strings.isEmpty(text)",
                "#lists.isEmpty(row.inner.some)",
                "not #lists.isEmpty(row.inner.some)",
                "#strings.isEmpty(row.inner.some)",
                "#lists.isEmpty(missing)",
                "yes and row.open",
                "row.open and row.inner.left == 1",
                "row.none != null and row.none.over()",
                "row.none == null or row.none.over()",
                "!row.open or count == 3",
                "row.open and !yes or count == 3",
                "row.inner.left == count",
                "count != row.inner.all",
                "count == count",
                "text == row.inner.name",
                "row.inner.name != text",
                "row.inner.note == missing",
                "missing != row.inner.name",
                "row.inner.kind == row.inner.kind",
                "row.inner.share == count",
                "row.open == yes",
                "row.open == true",
                "true",
                "null",
                "count + 1",
                "text + ' and ' + text"
            })
    void itReadsWhatTheLibraryReads(String expression) {
        assertThat(rendered(OURS, expression)).isEqualTo(rendered(PLAIN, expression));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "at.first",
                "at.last or at.even",
                "not at.last",
                "at.odd",
                "at.first and at.last",
                "at.index",
                "at.count > 1",
                "at.size"
            })
    void whereALoopStandsIsReadAsTheLibraryDoes(String expression) {
        var template = "<i th:each=\"one, at : ${ {'a', 'b', 'c'} }\" th:text=\"${" + expression + "}\"></i>";
        var context = new Context(Locale.ENGLISH);
        assertThat(OURS.process(template, context)).isEqualTo(PLAIN.process(template, context));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "row.none.name",
                "row.inner.nothing",
                "row.inner.nothing()",
                "row.inner.fails()",
                "not text",
                "not count == 4",
                "row.none.over() and yes",
                "text > 3",
                "count == row.none.left",
                "count < text",
                "row.inner.over().more"
            })
    void whatCannotBeReadIsSaidByTheLibrary(String expression) {
        var words = new String[2];
        var engines = List.of(PLAIN, OURS);
        for (var at = new AtomicInteger(); at.get() < 2; at.incrementAndGet())
            assertThatThrownBy(() -> rendered(engines.get(at.get()), expression))
                    .isInstanceOf(TemplateProcessingException.class)
                    .satisfies(it -> words[at.get()] = it.getMessage());
        assertThat(Arrays.asList(words)).doesNotContainNull();
        assertThat(words[1]).isEqualTo(words[0]);
    }
}
