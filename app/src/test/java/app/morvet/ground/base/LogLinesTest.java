package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;

import ch.qos.logback.classic.Level;
import ch.qos.logback.classic.LoggerContext;
import ch.qos.logback.classic.PatternLayout;
import ch.qos.logback.classic.spi.LoggingEvent;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.boot.env.YamlPropertySourceLoader;
import org.springframework.core.io.ClassPathResource;

/** Nothing from outside can write an entry into the log that Morvet did not, or fill it at once. */
class LogLinesTest {
    private final PatternLayout layout = new PatternLayout();
    private final LoggerContext context = new LoggerContext();

    @BeforeEach
    void asTheApplicationHasIt() throws Exception {
        var settings = new YamlPropertySourceLoader()
                .load("application", new ClassPathResource("application.yaml"))
                .getFirst();
        layout.setContext(context);
        layout.setPattern(String.valueOf(settings.getProperty("logging.pattern.console")));
        layout.start();
        assertThat(settings.getProperty("logging.pattern.file")).isEqualTo("${logging.pattern.console}");
    }

    private List<String> lines(String said, @Nullable Throwable failed) {
        var event = new LoggingEvent("", context.getLogger("app.morvet"), Level.ERROR, said, failed, null);
        return layout.doLayout(event).lines().toList();
    }

    @Test
    void whatIsSaidIsOneLine() {
        var forged = "2027-03-18T03:00:00.000Z ERROR [main] app.morvet : all is lost";
        for (var end : List.of("\n", "\r", "\r\n", "\u0085", "\u2028", "\u000b"))
            assertThat(lines("no feed called x" + end + forged, null))
                    .singleElement()
                    .satisfies(line -> assertThat(line).contains("no feed called x ⏎ 2027-03-18T03:00:00.000Z ERROR"));
        assertThat(lines("\u001b[31mred", null)).singleElement().asString().doesNotContain("\u001b");
    }

    @Test
    void anExceptionHasItsFramesAndItsMessageNoLineOfItsOwn() {
        var cause = new IllegalStateException("because\nof\n2027-03-18T03:00:00.000Z ERROR all is lost");
        var lines = lines("cannot", new IllegalArgumentException("no \"a\r\nb\"", cause));
        assertThat(lines.get(1)).isEqualTo("java.lang.IllegalArgumentException: no \"a ⏎ b\"");
        assertThat(lines)
                .filteredOn(line -> !line.startsWith("\tat ") && !line.startsWith("\t..."))
                .hasSize(3)
                .last()
                .asString()
                .startsWith("Caused by: java.lang.IllegalStateException: because ⏎ of ⏎ 2027");
    }

    @Test
    void bothEndSomewhere() {
        var endless = "x".repeat(1_000_000);
        assertThat(lines(endless, new IllegalStateException(endless)).stream()
                        .mapToInt(String::length)
                        .sum())
                .isLessThan(25_000);
    }
}
