package app.morvet.core.handoff;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RetryAfterTest {
    private static final Instant NOW = Instant.parse("2027-03-18T02:00:00Z");

    @ParameterizedTest
    @CsvSource({
        "120, 120",
        "' 7 ', 7",
        "0, 0",
        "999999999, 3600",
        "'Thu, 18 Mar 2027 02:01:30 GMT', 90",
        "'Thu, 18 Mar 2027 01:59:00 GMT', 0",
        "'Fri, 19 Mar 2027 02:00:00 GMT', 3600",
        "'', 0",
        "-5, 0",
        "soon, 0",
        "1e3, 0"
    })
    void whatAServerAsksForIsWaitedFor(String said, long seconds) {
        assertThat(RetryAfter.read(said, NOW)).isEqualTo(Duration.ofSeconds(seconds));
    }
}
