package app.morvet.core.readings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.util.Map;
import org.junit.jupiter.api.Test;

/** Labels of the lines of a page: what stands between quotes, and what is written again and again. */
class MetricLabelsTest {
    @Test
    void aBackslashInALabelStaysUnlessItEscapes() {
        var page = OpenMetrics.strict("a{b=\"\\d+\\\\ \\\" \\n\"} 1\n# EOF\n");
        assertThat(page.samples().getFirst().labels()).isEqualTo(Map.of("b", "\\d+\\ \" \n"));
    }

    /** What ends them is looked for before they are read. */
    @Test
    void aBraceBetweenQuotesEndsNoLabels() {
        var page = OpenMetrics.strict("a{b=\"}\"} 1\na{b=\"\\\"} 2\"} 2\na{b=\"\\\\\"} 3\na{b=\"} 4\n# EOF\n");
        assertThat(page.samples())
                .extracting(one -> one.labels().get("b"), OpenMetrics.Sample::value)
                .containsExactly(tuple("}", 1.0), tuple("\"} 2", 2.0), tuple("\\", 3.0));
        assertThat(page.faults()).extracting(OpenMetrics.Fault::line).containsExactly(4);
    }

    /** They are read once, so nobody may take out of them what only its own family understands. */
    @Test
    void labelsThatAreWrittenTheSameAreTheSameOnEveryLine() {
        var page = OpenMetrics.lenient(
                """
                # TYPE h histogram
                # TYPE s summary
                # TYPE mode stateset
                h_bucket{le="+Inf"} 7
                other{le="+Inf"} 1
                s{quantile="0.5"} 2
                other{quantile="0.5"} 3
                mode{mode="on"} 1
                other{mode="on"} 4
                mode{mode="off"} 0
                other{le="+Inf"} 5 60
                """);
        assertThat(page.faults()).isEmpty();
        assertThat(page.samples())
                .extracting(OpenMetrics.Sample::name, OpenMetrics.Sample::labels, OpenMetrics.Sample::value)
                .containsExactly(
                        tuple("other", Map.of("le", "+Inf"), 1.0),
                        tuple("s_p50", Map.of(), 2.0),
                        tuple("other", Map.of("quantile", "0.5"), 3.0),
                        tuple("other", Map.of("mode", "on"), 4.0),
                        tuple("other", Map.of("le", "+Inf"), 5.0));
        assertThat(page.samples().getFirst().labels())
                .isSameAs(page.samples().getLast().labels());
        assertThat(page.histograms().getFirst().labels()).isEmpty();
        assertThat(page.states().getFirst().labels()).isEmpty();
    }
}
