package app.morvet.core.readings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.junit.jupiter.params.provider.Arguments.arguments;

import java.time.Instant;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** OpenMetrics 1.0 to the letter, a line for each thing that it demands, and its plain-text ancestor as programs write it. */
class OpenMetricsTest {
    static Stream<Arguments> whatTheStandardForbids() {
        return Stream.of(
                arguments("the end: nothing at all", ""),
                arguments("the end: missing", "a 1\n"),
                arguments("the end: cut in a line", "a 1\na_b 12"),
                arguments("the end: something behind it", "a 1\n# EOF\nb 2\n"),
                arguments("the end: something behind it in its line", "a 1\n# EOF b\n"),
                arguments("lines: blank", "a 1\n\n# EOF\n"),
                arguments("lines: ended by CR LF", "a 1\r\n# EOF\r\n"),
                arguments("lines: a byte order mark", "\uFEFFa 1\n# EOF\n"),
                arguments("labels: no quotes", "a{b=1} 1\n# EOF\n"),
                arguments("labels: quotes not closed", "a{b=\"1} 1\n# EOF\n"),
                arguments("labels: single quotes", "a{b='1'} 1\n# EOF\n"),
                arguments("labels: no equals sign", "a{b\"1\"} 1\n# EOF\n"),
                arguments("labels: no value", "a{b} 1\n# EOF\n"),
                arguments("labels: no name", "a{=\"1\"} 1\n# EOF\n"),
                arguments("labels: only a comma", "a{,} 1\n# EOF\n"),
                arguments("labels: no comma between", "a{b=\"1\"c=\"2\"} 1\n# EOF\n"),
                arguments("labels: two commas", "a{b=\"1\",,c=\"2\"} 1\n# EOF\n"),
                arguments("labels: a comma at the end", "a{b=\"1\",} 1\n# EOF\n"),
                arguments("labels: a name that begins with a digit", "a{1b=\"1\"} 1\n# EOF\n"),
                arguments("labels: a name with a colon", "a{b:c=\"1\"} 1\n# EOF\n"),
                arguments("labels: one twice", "a{b=\"1\",b=\"2\"} 1\n# EOF\n"),
                arguments("labels: a blank before the brace", "a {b=\"1\"} 1\n# EOF\n"),
                arguments("labels: a blank in the braces", "a{b=\"1\", c=\"2\"} 1\n# EOF\n"),
                arguments("labels: no blank behind", "a{b=\"1\"}1\n# EOF\n"),
                arguments("names: begins with a digit", "0a 1\n# EOF\n"),
                arguments("names: a dot", "a.b 1\n# EOF\n"),
                arguments("names: a dash", "a-b 1\n# EOF\n"),
                arguments("value: missing", "a\n# EOF\n"),
                arguments("value: a word", "a x\n# EOF\n"),
                arguments("value: two blanks", "a  1\n# EOF\n"),
                arguments("value: a tab before", "a\t1\n# EOF\n"),
                arguments("value: a blank behind", "a 1 \n# EOF\n"),
                arguments("value: an underscore", "a 1_000\n# EOF\n"),
                arguments("value: hexadecimal", "a 0x1p-3\n# EOF\n"),
                arguments("value: a suffix of a language", "a 1f\n# EOF\n"),
                arguments("time: a word", "a 1 z\n# EOF\n"),
                arguments("time: not a number", "a 1 NaN\n# EOF\n"),
                arguments("time: infinite", "a 1 +Inf\n# EOF\n"),
                arguments("time: two dots", "a 1 1.2.3\n# EOF\n"),
                arguments("time: descends", "# TYPE a gauge\na 1 2\na 1 1\n# EOF\n"),
                arguments("time: the same again", "# TYPE a gauge\na 1 2\na 2 2\n# EOF\n"),
                arguments("time: once with, once without", "# TYPE a gauge\na 1 2\na 1\n# EOF\n"),
                arguments("comments: an ordinary one", "# a comment\na 1\n# EOF\n"),
                arguments("comments: none behind", "#\na 1\n# EOF\n"),
                arguments("TYPE: without a type", "# TYPE a\n# EOF\n"),
                arguments("TYPE: an unknown one", "# TYPE a untyped\n# EOF\n"),
                arguments("TYPE: tabs", "# TYPE\ta\tcounter\na_total 1\n# EOF\n"),
                arguments("TYPE: a blank behind", "# TYPE a gauge \n# EOF\n"),
                arguments("TYPE: twice", "# TYPE a gauge\n# TYPE a gauge\n# EOF\n"),
                arguments("TYPE: behind its samples", "a 1\n# TYPE a gauge\n# EOF\n"),
                arguments("HELP: without a name", "# HELP\n# EOF\n"),
                arguments("HELP: twice", "# HELP a x\n# HELP a y\n# EOF\n"),
                arguments("HELP: behind its samples", "# TYPE a gauge\na 1\n# HELP a x\n# EOF\n"),
                arguments("UNIT: not in the name", "# TYPE a gauge\n# UNIT a seconds\na 1\n# EOF\n"),
                arguments("UNIT: of an info", "# TYPE a_s info\n# UNIT a_s s\n# EOF\n"),
                arguments("UNIT: of a state set", "# UNIT a_s s\n# TYPE a_s stateset\n# EOF\n"),
                arguments("UNIT: twice", "# UNIT a_s s\n# UNIT a_s s\n# EOF\n"),
                arguments(
                        "families: in two pieces", "# TYPE a gauge\na 1\n# TYPE b gauge\nb 1\n# TYPE a gauge\n# EOF\n"),
                arguments(
                        "families: samples in two pieces",
                        "# TYPE a gauge\na{c=\"1\"} 1\n# TYPE b gauge\nb 1\na{c=\"2\"} 1\n# EOF\n"),
                arguments(
                        "families: a gauge called as a counter's creation",
                        "# TYPE a_created gauge\n# TYPE a counter\n# EOF\n"),
                arguments(
                        "families: a gauge called as a counter's total",
                        "# TYPE a counter\n# TYPE a_total gauge\n# EOF\n"),
                arguments(
                        "families: a counter called as a summary's count",
                        "# TYPE a summary\n# TYPE a_count counter\n# EOF\n"),
                arguments("families: an info beside one of its name", "# TYPE a info\n# TYPE a counter\n# EOF\n"),
                arguments(
                        "metrics: the lines of one apart",
                        "# TYPE a summary\na_count{b=\"1\"} 1\na_count{b=\"2\"} 1\na_sum{b=\"1\"} 1\n# EOF\n"),
                arguments("metrics: one twice", "# TYPE a gauge\na{b=\"1\"} 1\na{b=\"1\"} 1\n# EOF\n"),
                arguments("counter: a sample without _total", "# TYPE a counter\na 1\n# EOF\n"),
                arguments("counter: below 0", "# TYPE a counter\na_total -1\n# EOF\n"),
                arguments("counter: not a number", "# TYPE a counter\na_total NaN\n# EOF\n"),
                arguments("counter: called _total itself", "# TYPE a_total counter\na_total 1\n# EOF\n"),
                arguments("info: not 1", "# TYPE a info\na_info 2\n# EOF\n"),
                arguments("info: without its suffix", "# TYPE a info\na 1\n# EOF\n"),
                arguments("state set: no label of its name", "# TYPE a stateset\na{b=\"x\"} 1\n# EOF\n"),
                arguments("state set: neither 0 nor 1", "# TYPE a stateset\na{a=\"x\"} 2\n# EOF\n"),
                arguments("state set: none is true", "# TYPE a stateset\na{a=\"x\"} 0\na{a=\"y\"} 0\n# EOF\n"),
                arguments("state set: two are true", "# TYPE a stateset\na{a=\"x\"} 1\na{a=\"y\"} 1\n# EOF\n"),
                arguments("summary: a quantile beyond 1", "# TYPE a summary\na{quantile=\"1.5\"} 1\n# EOF\n"),
                arguments("summary: a quantile that is none", "# TYPE a summary\na{quantile=\"x\"} 1\n# EOF\n"),
                arguments("summary: no quantile", "# TYPE a summary\na 1\n# EOF\n"),
                arguments("summary: a value below 0", "# TYPE a summary\na{quantile=\"0.5\"} -1\n# EOF\n"),
                arguments("summary: a sum below 0", "# TYPE a summary\na_sum -1\n# EOF\n"),
                arguments("summary: a count below 0", "# TYPE a summary\na_count -1\n# EOF\n"),
                arguments("summary: a broken count", "# TYPE a summary\na_count 1.5\n# EOF\n"),
                arguments("histogram: no buckets", "# TYPE a histogram\na_count 1\na_sum 1\n# EOF\n"),
                arguments("histogram: a bucket without le", "# TYPE a histogram\na_bucket 1\n# EOF\n"),
                arguments(
                        "histogram: le is a word",
                        "# TYPE a histogram\na_bucket{le=\"x\"} 1\na_bucket{le=\"+Inf\"} 1\n# EOF\n"),
                arguments(
                        "histogram: le is NaN",
                        "# TYPE a histogram\na_bucket{le=\"NaN\"} 1\na_bucket{le=\"+Inf\"} 1\n# EOF\n"),
                arguments(
                        "histogram: le is -Inf",
                        "# TYPE a histogram\na_bucket{le=\"-Inf\"} 1\na_bucket{le=\"+Inf\"} 1\n# EOF\n"),
                arguments("histogram: +INF", "# TYPE a histogram\na_bucket{le=\"+INF\"} 1\n# EOF\n"),
                arguments("histogram: no +Inf", "# TYPE a histogram\na_bucket{le=\"1\"} 1\n# EOF\n"),
                arguments(
                        "histogram: counts less farther out",
                        "# TYPE a histogram\na_bucket{le=\"1\"} 2\na_bucket{le=\"+Inf\"} 1\n# EOF\n"),
                arguments(
                        "histogram: buckets out of order",
                        "# TYPE a histogram\na_bucket{le=\"2\"} 1\na_bucket{le=\"1\"} 1\na_bucket{le=\"+Inf\"} 1\n# EOF\n"),
                arguments(
                        "histogram: a bucket twice",
                        "# TYPE a histogram\na_bucket{le=\"1\"} 1\na_bucket{le=\"1.0\"} 1\na_bucket{le=\"+Inf\"} 1\n# EOF\n"),
                arguments("histogram: a broken count", "# TYPE a histogram\na_bucket{le=\"+Inf\"} 1.5\n# EOF\n"),
                arguments("histogram: a count below 0", "# TYPE a histogram\na_bucket{le=\"+Inf\"} -1\n# EOF\n"),
                arguments(
                        "histogram: a count that is not its last bucket",
                        "# TYPE a histogram\na_bucket{le=\"+Inf\"} 1\na_count 2\na_sum 1\n# EOF\n"),
                arguments(
                        "histogram: a sum without a count",
                        "# TYPE a histogram\na_bucket{le=\"+Inf\"} 1\na_sum 1\n# EOF\n"),
                arguments(
                        "histogram: a sum with a bound below 0",
                        "# TYPE a histogram\na_bucket{le=\"-1\"} 1\na_bucket{le=\"+Inf\"} 1\na_count 1\na_sum 1\n# EOF\n"),
                arguments(
                        "histogram: a sum that is not a number",
                        "# TYPE a histogram\na_bucket{le=\"+Inf\"} 1\na_count 1\na_sum NaN\n# EOF\n"),
                arguments(
                        "gauge histogram: a sum without a count",
                        "# TYPE a gaugehistogram\na_bucket{le=\"+Inf\"} 1\na_gsum 1\n# EOF\n"),
                arguments("exemplar: on a gauge", "# TYPE a gauge\na 1 # {b=\"c\"} 1\n# EOF\n"),
                arguments("exemplar: on a count", "# TYPE a summary\na_count 1 # {b=\"c\"} 1\n# EOF\n"),
                arguments("exemplar: no value", "# TYPE a counter\na_total 1 # {b=\"c\"}\n# EOF\n"),
                arguments("exemplar: no labels", "# TYPE a counter\na_total 1 # 1\n# EOF\n"),
                arguments("exemplar: no blank before", "# TYPE a counter\na_total 1# {} 1\n# EOF\n"),
                arguments("exemplar: two blanks", "# TYPE a counter\na_total 1 #  {} 1\n# EOF\n"),
                arguments("exemplar: something behind", "# TYPE a counter\na_total 1 # {} 1 1 1\n# EOF\n"),
                arguments("exemplar: its time is not a number", "# TYPE a counter\na_total 1 # {} 1 NaN\n# EOF\n"),
                arguments(
                        "exemplar: labels of 129 characters",
                        "# TYPE a counter\na_total 1 # {b=\"" + "x".repeat(128) + "\"} 1\n# EOF\n"));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("whatTheStandardForbids")
    void whatTheStandardForbidsIsTold(String what, String page) {
        assertThat(OpenMetrics.strict(page).faults()).isNotEmpty();
    }

    static Stream<Arguments> whatTheStandardAllows() {
        return Stream.of(
                arguments("nothing but its end", "# EOF\n", ""),
                arguments("no line end behind its end", "a 1\n# EOF", "a=1.0"),
                arguments(
                        "whatever is known of it",
                        "# TYPE a_s gauge\n# UNIT a_s s\n# HELP a_s All \\\"of\\\" \\\\it.\na_s{b=\"c\"} 1 1764000000.250\n# EOF\n",
                        "a_s=1.0"),
                arguments("no blanks in empty labels", "a{} 1\n# EOF\n", "a=1.0"),
                arguments(
                        "numbers of all sorts",
                        "# TYPE a gauge\na{b=\"1\"} -1.5e+3\na{b=\"2\"} .5\na{b=\"3\"} 5.\na{b=\"4\"} +7\n# EOF\n",
                        "a=-1500.0 a=0.5 a=5.0 a=7.0"),
                arguments("several points", "# TYPE a gauge\na 1 1\na 2 2.5\na 3 3\n# EOF\n", "a=1.0 a=2.0 a=3.0"),
                arguments(
                        "a counter with its creation and an exemplar",
                        "# TYPE a counter\na_total 17 # {trace=\"x y\"} 0.5 1.5\na_created 1\n# EOF\n",
                        "a=17.0"),
                arguments("no TYPE", "a_total 3\nb 2\n# EOF\n", "a=3.0 b=2.0"),
                arguments(
                        "an info and a state set",
                        "# TYPE a info\na_info{v=\"1\"} 1\n# TYPE b stateset\nb{b=\"up\"} 1\nb{b=\"down\"} 0\n# EOF\n",
                        ""),
                arguments(
                        "a summary",
                        "# TYPE a summary\na{quantile=\"0.5\"} 2\na{quantile=\"0.999\"} 9\na_count 3\na_sum 4.5\n# EOF\n",
                        "a_p50=2.0 a_p99_9=9.0 a_count=3.0 a_sum=4.5"),
                arguments(
                        "a histogram",
                        "# TYPE a histogram\na_bucket{le=\"1\"} 1\na_bucket{le=\"+Inf\"} 2\na_count 2\na_sum 4.5\na_created 1\n# EOF\n",
                        "a_count=2.0 a_sum=4.5"),
                arguments(
                        "a gauge histogram",
                        "# TYPE a gaugehistogram\na_bucket{le=\"-1\"} 1\na_bucket{le=\"+Inf\"} 2\n# EOF\n",
                        ""),
                arguments(
                        "families that are apart though alike",
                        "# TYPE q gauge\nq 1\n# TYPE q_count gauge\nq_count 2\n# TYPE q_info gauge\nq_info 3\n# TYPE q_total gauge\nq_total 4\n# EOF\n",
                        "q=1.0 q_count=2.0 q_info=3.0 q_total=4.0"),
                arguments("a gauge of a creation", "# TYPE a_created gauge\na_created 5\n# EOF\n", "a_created=5.0"));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("whatTheStandardAllows")
    void whatTheStandardAllowsIsTaken(String what, String page, String samples) {
        var read = OpenMetrics.strict(page);
        assertThat(read.faults()).isEmpty();
        assertThat(words(read)).isEqualTo(samples);
        // The ancestor's reader takes all that the standard allows, to the same samples.
        assertThat(words(OpenMetrics.lenient(page))).isEqualTo(samples);
    }

    private static String words(OpenMetrics.Page page) {
        return page.samples().stream()
                .map(sample -> sample.name() + "=" + sample.value())
                .collect(Collectors.joining(" "));
    }

    @Test
    void aFaultNamesItsLineAndTheRestIsTaken() {
        var page = OpenMetrics.strict("# TYPE a gauge\na{b=\"1\"} 1\na{b=\"2\"} x\na{b=\"3\"} 3\n# TYPE h histogram\n"
                + "h_bucket{le=\"1\"} 3\nh_bucket{le=\"+Inf\"} 2\n# TYPE b gauge\nb 2\n# EOF\n");
        assertThat(words(page)).isEqualTo("a=1.0 a=3.0 b=2.0");
        assertThat(page.histograms()).isEmpty();
        assertThat(page.faults())
                .containsExactly(
                        new OpenMetrics.Fault(3, "\"x\" is not a number"),
                        new OpenMetrics.Fault(
                                6, "the histogram h counts less up to Infinity than up to the bucket before it"));
        assertThat(OpenMetrics.strict("a 1\n").faults())
                .containsExactly(
                        new OpenMetrics.Fault(2, "the page does not end with # EOF; the rest of it may be missing"));
    }

    @Test
    void thePlainAncestorIsReadAsProgramsWriteIt() {
        var page = OpenMetrics.lenient(
                """
                # a page of Sundrava
                #\tTYPE
                # TYPE\tprocessor_busy\tgauge
                # UNIT processor_busy percent
                processor_busy{component="quay-01", core="0",} 42.5 1764000000250

                # TYPE errors_total counter
                errors_total{component="gangway-1",code="a\\"b\\\\c"}  17
                errors_total{component="gangway-1"} -3
                # TYPE temperature untyped
                temperature NaN
                temperature
                queue.depth 3\t1764000000
                requests_total 5
                # TYPE build info
                build_info{version="3"} 1
                # EOF
                after 1
                """);
        assertThat(page.samples())
                .extracting(
                        OpenMetrics.Sample::name,
                        OpenMetrics.Sample::sort,
                        OpenMetrics.Sample::value,
                        OpenMetrics.Sample::at)
                .containsExactly(
                        tuple("processor_busy", Sort.GAUGE, 42.5, Instant.parse("2025-11-24T16:00:00.250Z")),
                        tuple("errors", Sort.COUNTER, 17.0, null),
                        tuple("queue.depth", Sort.GAUGE, 3.0, Instant.parse("2025-11-24T16:00:00Z")),
                        tuple("requests", Sort.COUNTER, 5.0, null));
        assertThat(page.samples().getFirst().unit()).isEqualTo("percent");
        assertThat(page.samples().get(1).labels()).containsEntry("code", "a\"b\\c");
        assertThat(page.faults()).extracting(OpenMetrics.Fault::line).containsExactly(9, 11, 12);
        assertThat(page.faults().get(1).words()).isEqualTo("it is NaN, which is no reading");
    }

    @Test
    void familiesOfLikeNamesAreNotMixed() {
        assertThat(
                        words(
                                OpenMetrics.lenient(
                                        """
                        # TYPE orders gauge
                        # TYPE orders_total counter
                        # TYPE q gauge
                        # TYPE q_count gauge
                        # TYPE s summary
                        orders 3
                        orders_total 500
                        q 1
                        q_count 2
                        q_info 3
                        q_created 4
                        s_created 5
                        s_count 6
                        """)))
                .isEqualTo("orders=3.0 orders_total=500.0 q=1.0 q_count=2.0 q_info=3.0 q_created=4.0 s_count=6.0");
    }

    @Test
    void aHistogramOfEachInstantIsOneByItself() {
        var page = OpenMetrics.lenient(
                """
                # TYPE h histogram
                h_bucket{le="+Inf"} 9 2
                h_bucket{le="1"} 4 2
                h_bucket{le="1"} 1 1
                h_bucket{le="+Inf"} 2 1
                """);
        assertThat(page.faults()).isEmpty();
        assertThat(page.histograms())
                .extracting(one -> one.at(), one -> one.buckets().counts()[1])
                .containsExactly(tuple(Instant.ofEpochSecond(2), 9.0), tuple(Instant.ofEpochSecond(1), 2.0));
    }

    @Test
    void aHistogramGivesPercentilesOfWhatCameBetweenTwoPages() {
        var text =
                """
                # TYPE response_seconds histogram
                # UNIT response_seconds seconds
                response_seconds_bucket{component="g",le="0.1"} %d
                response_seconds_bucket{component="g",le="0.5"} %d
                response_seconds_bucket{component="g",le="+Inf"} %d
                response_seconds_count{component="g"} %d
                """;
        var first =
                OpenMetrics.lenient(text.formatted(10, 10, 10, 10)).histograms().getFirst();
        var second = OpenMetrics.lenient(text.formatted(60, 110, 110, 110))
                .histograms()
                .getFirst();
        assertThat(first.growing()).isTrue();
        assertThat(first.labels()).isEqualTo(Map.of("component", "g"));
        var between = second.buckets().since(first.buckets());
        assertThat(between.quantile(0.5)).hasValue(0.1);
        assertThat(between.quantile(0.75).getAsDouble()).isCloseTo(0.3, org.assertj.core.data.Offset.offset(1e-12));
        // After a restart all that is there has come since.
        assertThat(first.buckets().since(second.buckets())).isEqualTo(first.buckets());
        assertThat(Buckets.of(new TreeMap<>(Map.of(1.0, 0.0))).quantile(0.5)).isEmpty();
    }

    @Test
    void aStateSetIsOneWordOfSeveralForEachOfItsMetrics() {
        var page = OpenMetrics.strict(
                """
                # TYPE service stateset
                service{component="gate",service="running"} 0
                service{component="gate",service="stopped"} 1
                service{component="map",service="running"} 1
                service{component="map",service="stopped"} 0
                # EOF
                """);
        assertThat(page.faults()).isEmpty();
        assertThat(page.states())
                .extracting(one -> one.labels() + " " + one.word() + " of " + one.words())
                .containsExactly(
                        "{component=gate} stopped of [running, stopped]",
                        "{component=map} running of [running, stopped]");
        // One line that is wrong takes the others of its set with it, and of no other.
        var half = OpenMetrics.lenient("# TYPE s stateset\ns{s=\"a\"} 1\ns{s=\"b\"} 0.5\ns{of=\"other\",s=\"a\"} 1\n");
        assertThat(half.states()).extracting(one -> one.labels().get("of")).containsExactly("other");
        assertThat(half.faults()).hasSize(1);
    }
}
