package app.morvet.core.shift;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Into which shifts a day is divided. */
class ShiftPlanTest {
    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");
    private static final ShiftPlan PLAN = ShiftPlan.parse("22:00 night\n06:00 early\n\n14:00  late", HELSINKI);

    @ParameterizedTest
    @CsvSource({
        "2027-03-18T02:38:00Z, night, 2027-03-17T20:00:00Z, 2027-03-18T04:00:00Z",
        "2027-03-18T04:00:00Z, early, 2027-03-18T04:00:00Z, 2027-03-18T12:00:00Z",
        "2027-03-18T19:59:59Z, late,  2027-03-18T12:00:00Z, 2027-03-18T20:00:00Z",
        // The clock goes forward at 03:00, and in autumn back at 04:00.
        "2027-03-28T01:30:00Z, night, 2027-03-27T20:00:00Z, 2027-03-28T03:00:00Z",
        "2027-10-31T01:30:00Z, night, 2027-10-30T19:00:00Z, 2027-10-31T04:00:00Z",
    })
    void eachGoesOnUntilTheNextBegins(Instant now, String name, Instant from, Instant to) {
        assertThat(PLAN.at(now)).contains(new ShiftPlan.Shift(name, from, to));
    }

    /** Whatever the clock does, an instant lies in one shift, and that is no longer than a day and an hour. */
    @Test
    void everyInstantOfAYearLiesInOne() {
        var plans = List.of(
                PLAN, ShiftPlan.parse("03:30 odd", HELSINKI), ShiftPlan.parse("00:00 day\n03:00 x\n04:00 y", HELSINKI));
        for (var plan : plans)
            for (var at = Instant.parse("2027-01-01T00:00:00Z");
                    at.isBefore(Instant.parse("2028-01-01T00:00:00Z"));
                    at = at.plusSeconds(1747)) {
                var shift = plan.at(at).orElseThrow();
                assertThat(shift.from()).isBeforeOrEqualTo(at);
                assertThat(shift.to()).isAfter(at);
                assertThat(Duration.between(shift.from(), shift.to())).isLessThanOrEqualTo(Duration.ofHours(25));
            }
    }

    @Test
    void aDayThatIsNotDividedHasNone() {
        assertThat(ShiftPlan.parse(" \n", HELSINKI).at(Instant.now())).isEmpty();
        assertThat(PLAN.text()).isEqualTo("06:00 early\n14:00 late\n22:00 night");
    }

    @ParameterizedTest
    @CsvSource({
        "'early 06:00', '\"early 06:00\" is no shift'",
        "'6:00 early', is no shift",
        "'25:00 early', is no shift",
        "'06:00', is no shift",
        "'06:00 early|06:00 late', Two shifts begin at 06:00",
    })
    void whatIsNoPlanIsRefused(String typed, String why) {
        assertThatThrownBy(() -> ShiftPlan.parse(typed.replace('|', '\n'), HELSINKI))
                .hasMessageContaining(why);
    }
}
