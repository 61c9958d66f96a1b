package app.morvet.core.callouts;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Map;
import java.util.regex.Pattern;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

/** Messages for a system log. */
class SyslogLineTest {
    private static final Instant AT = Instant.parse("2027-03-18T02:39:04.123456Z");
    /** RFC 5424, 6: the shape of the whole. */
    private static final Pattern SHAPE =
            Pattern.compile("<\\d{1,3}>1 \\S+ [\\x21-\\x7e]{1,255} morvet - [\\x21-\\x7e]{1,32}"
                    + " \\[morvet@32473( [^ =\\]\"]{1,32}=\"(\\\\[\"\\\\\\]]|[^\"\\\\\\]])*\")*] \ufeff[^\\p{Cntrl}]*");

    private static String line(Map<String, String> facts, String words) {
        return new String(
                SyslogLine.of(SyslogLine.Level.CRITICAL, AT, "node-1", "opened", facts, words), StandardCharsets.UTF_8);
    }

    @Test
    void itIsAMessageOfTheStandard() {
        assertThat(line(Map.of("case", "74", "component", "boarding-gate"), "Critical: it is stopped"))
                .isEqualTo("<130>1 2027-03-18T02:39:04.123Z node-1 morvet - opened"
                        + " [morvet@32473 case=\"74\" component=\"boarding-gate\"] \ufeffCritical: it is stopped");
    }

    @Test
    void whatStandsInItCannotChangeItsShape() {
        assertThat(line(Map.of("text", "a \"b\" c] \\ d"), "one\ntwo\u0000three"))
                .endsWith("[morvet@32473 text=\"a \\\"b\\\" c\\] \\\\ d\"] \ufeffone two three");
    }

    @Test
    void aLongOneIsCutBetweenLetters() {
        var bytes = SyslogLine.of(SyslogLine.Level.NOTICE, AT, "node-1", "opened", Map.of(), "ä€".repeat(2_000));
        assertThat(bytes).hasSizeLessThanOrEqualTo(2_048).hasSizeGreaterThan(2_040);
        assertThat(new String(bytes, StandardCharsets.UTF_8)).doesNotContain("\ufffd");
    }

    @Property(tries = 300)
    void whateverIsToldItHasItsShape(
            @ForAll String host, @ForAll String kind, @ForAll String value, @ForAll String words) {
        var bytes = SyslogLine.of(SyslogLine.Level.WARNING, AT, host, kind, Map.of("text", "x" + value), words);
        var text = new String(bytes, StandardCharsets.UTF_8);
        if (bytes.length < 2_040)
            assertThat(SHAPE.matcher(text).matches()).as(text).isTrue();
        assertThat(bytes.length).isLessThanOrEqualTo(2_048);
    }
}
