package app.morvet.core.duty;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.NOTICE;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Tier;
import app.morvet.core.guard.Hours;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** When a team is called of what. */
class CallHoursTest {
    private static final Tier ONE = new Tier(1);
    private static final Tier THREE = new Tier(3);
    private static final CallHours OFFICE = new CallHours(Map.of(
            THREE,
            new Hours(
                    EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY),
                    LocalTime.of(8, 0),
                    LocalTime.of(16, 0),
                    ZoneId.of("Europe/Helsinki"))));

    /** 2027-03-26 is a Friday; the clock goes forward in the night to Sunday the 28th. */
    @ParameterizedTest
    @CsvSource({
        "2027-03-26T05:59:59Z, 2027-03-26T06:00:00Z",
        "2027-03-26T06:00:00Z, 2027-03-26T06:00:00Z",
        "2027-03-26T13:59:59Z, 2027-03-26T13:59:59Z",
        "2027-03-26T14:00:00Z, 2027-03-29T05:00:00Z",
        "2027-03-28T10:00:00Z, 2027-03-29T05:00:00Z"
    })
    void whatIsNotCriticalWaitsForTheHoursOfItsTier(Instant at, Instant told) {
        for (var severity : new Severity[] {WARNING, NOTICE}) {
            assertThat(OFFICE.due(THREE, severity, at)).isEqualTo(told);
            assertThat(OFFICE.due(ONE, severity, at)).isEqualTo(at);
            assertThat(OFFICE.closed(THREE, severity, at)).isFalse();
        }
    }

    @Test
    void ofWhatIsCriticalNobodyIsCalledOutsideAndNobodyWaits() {
        var evening = Instant.parse("2027-03-26T20:00:00Z");
        var noon = Instant.parse("2027-03-26T10:00:00Z");
        assertThat(OFFICE.closed(THREE, CRITICAL, evening)).isTrue();
        assertThat(OFFICE.closed(THREE, CRITICAL, noon)).isFalse();
        assertThat(OFFICE.closed(ONE, CRITICAL, evening)).isFalse();
        assertThat(OFFICE.due(THREE, CRITICAL, evening)).isEqualTo(evening);
        assertThat(CallHours.ALWAYS.closed(THREE, CRITICAL, evening)).isFalse();
    }

    @Test
    void itIsSaidInWords() {
        assertThat(OFFICE.lines())
                .containsExactly("Tier 3 on weekdays from 08:00 to 16:00", "Other tiers at all times");
        assertThat(OFFICE.words(THREE)).isEqualTo("on weekdays from 08:00 to 16:00");
        assertThat(CallHours.ALWAYS.lines()).containsExactly("At all times.");
    }
}
