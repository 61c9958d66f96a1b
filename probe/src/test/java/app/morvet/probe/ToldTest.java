package app.morvet.probe;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.checks.Result;
import app.morvet.core.checks.Verdict;
import app.morvet.core.readings.Sort;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What is told of a check is read as it was meant, and what is none is refused. */
class ToldTest {
    private static final Result WHOLE = new Result(
            Result.FAILED,
            Duration.ofMillis(812),
            List.of(Verdict.of("200", true, ""), Verdict.of("text \"open\"", false, "it does not stand there")),
            "<html>",
            List.of(
                    Result.Figure.gauge("check_value", "bytes", 4.5),
                    Result.Figure.count("log_lines", Map.of("code", "404"), 3),
                    Result.Figure.state("service", List.of("running", "stopped"), "stopped")),
            Map.of("start_mode", "enabled"),
            "");

    @Test
    void itIsReadAsItWasTold() {
        assertThat(Told.read(Told.of(WHOLE))).isEqualTo(WHOLE);
        var bare = Result.none(Duration.ZERO, "nobody listens");
        assertThat(Told.read(Told.of(bare))).isEqualTo(bare);
        assertThat(Told.read(Told.of(WHOLE.remembering("kept"))))
                .as("what is remembered stays where it is")
                .isEqualTo(WHOLE);
    }

    private static Map<String, Object> changed(String name, Object value) {
        var told = new HashMap<String, Object>(Told.of(WHOLE));
        told.put(name, value);
        return told;
    }

    @Test
    void whatIsNoneIsRefusedAndWhatIsMissingIsNothing() {
        assertThatThrownBy(() -> Told.read(Map.of())).hasMessageContaining("a result is one of passed");
        assertThatThrownBy(() -> Told.read(changed("state", 7))).hasMessageContaining("a result is one of passed");
        for (var figure : List.of(
                Map.of("measure", "check", "sort", "GAUGE", "value", 1),
                Map.of("measure", "Depth!", "sort", "GAUGE", "value", 1),
                Map.of("measure", "depth", "sort", "GAUGE", "value", "much"),
                Map.of("measure", "depth", "sort", "GAUGE", "value", Double.NaN),
                Map.of("measure", "depth", "sort", "STATE", "value", 2, "words", List.of("a", "b")),
                Map.of("measure", "depth", "sort", "SOME", "value", 1)))
            assertThatThrownBy(() -> Told.read(changed("figures", List.of(figure))))
                    .as(figure.toString())
                    .isInstanceOf(IllegalArgumentException.class);
        assertThat(Told.read(changed("figures", "none")).figures()).isEmpty();
        assertThat(Told.read(changed("facts", List.of(1))).facts()).isEmpty();
        assertThat(Told.read(changed("tookMillis", -5)).took()).isZero();
        assertThat(Told.read(changed("said", "x".repeat(2_000_000))).said()).hasSize(1_048_576);
        var many = java.util.Collections.nCopies(500, Map.of("measure", "depth", "sort", "GAUGE", "value", 1));
        assertThat(Told.read(changed("figures", many)).figures())
                .hasSize(200)
                .allMatch(one -> one.sort() == Sort.GAUGE);
    }
}
