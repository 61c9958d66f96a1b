package app.morvet.core.cases;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.NOTICE;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Tier;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ResponseTimeTest {
    private static final Instant T = Instant.parse("2027-03-18T02:00:00Z");
    private static final Tier FIRST = new Tier(1);

    private static Instant at(int minutes) {
        return T.plusSeconds(60L * minutes);
    }

    @ParameterizedTest
    @CsvSource({"CRITICAL, 15, 30, 60, 120", "WARNING, 60, 120, 240, 480", "NOTICE, 480, 480, 1440, 1440"})
    void itIsAQuarterOfAnHourToADay(Severity severity, int first, int second, int third, int fourth) {
        assertThat(List.of(1, 2, 3, 4))
                .extracting(tier -> ResponseTime.of(severity, new Tier(tier)).toMinutes())
                .containsExactly((long) first, (long) second, (long) third, (long) fourth);
    }

    @Test
    void whatIsNewHasItsWholeTime() {
        assertThat(ResponseTime.by(null, at(0), WARNING, FIRST)).isEqualTo(at(60));
    }

    @Test
    void whatTurnsWorseIsNotLateAtOnce() {
        var asNotice = ResponseTime.by(null, at(0), NOTICE, FIRST);
        assertThat(ResponseTime.by(asNotice, at(120), CRITICAL, FIRST)).isEqualTo(at(135));
    }

    @Test
    void whatWasLateOrSoonWouldBeIsNotPutOffByTurningWorse() {
        var asWarning = ResponseTime.by(null, at(0), WARNING, FIRST);
        assertThat(ResponseTime.by(asWarning, at(55), CRITICAL, FIRST)).isEqualTo(at(60));
        assertThat(ResponseTime.by(asWarning, at(300), CRITICAL, FIRST)).isEqualTo(at(60));
    }

    /** However it turns, nobody waits longer than for the sharpest of its promises, and nothing is promised before it turned. */
    @Property
    void itIsTheSoonestOfAllThatWasPromised(
            @ForAll @Size(min = 1, max = 8) List<Severity> turns, @ForAll @IntRange(min = 1, max = 4) int tier) {
        Instant by = null;
        var soonest = Instant.MAX;
        for (int i = 0; i < turns.size(); i++) {
            by = ResponseTime.by(by, at(10 * i), turns.get(i), new Tier(tier));
            var own = at(10 * i).plus(ResponseTime.of(turns.get(i), new Tier(tier)));
            if (own.isBefore(soonest)) soonest = own;
        }
        assertThat(by).isEqualTo(soonest).isAfterOrEqualTo(T.plus(Duration.ofMinutes(15)));
    }
}
