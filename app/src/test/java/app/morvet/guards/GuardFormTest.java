package app.morvet.guards;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.MorvetTest;
import app.morvet.core.guard.Clearing;
import app.morvet.core.guard.CountWindow;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Watched;
import java.time.Duration;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class GuardFormTest extends MorvetTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");

    @Test
    void aGuardComesBackFromItsFormAsItWas() {
        var rule = new LimitGuard(
                new CountWindow.Sliding(Duration.ofMinutes(20)),
                new Limits(2.5, null),
                new Clearing(0.85, Duration.ofSeconds(90)));
        var standing = new StandingGuard(1, "Name", true, new Watched.OneInterface("x"), rule, "note", 3);
        var read = GuardForm.of(standing).read(ZONE);
        assertThat(read.errors()).isEmpty();
        assertThat(read.guard()).isEqualTo(rule);
        assertThat(read.watched()).isEqualTo(standing.watched());
    }

    @ParameterizedTest
    @CsvSource({
        "sliding, 0,   10, 100, 90, 5,  minutes,  A sliding window is 1 min to 7 days long",
        "sliding, '',  10, 100, 90, 5,  minutes,  Give a number of minutes.",
        "midnight, '', x,  100, 90, 5,  warning,  '\"x\" is not a number.'",
        "midnight, '', 10, 5,   90, 5,  critical, The critical limit (5) must be above the warning limit (10).",
        "midnight, '', '', '',  90, 5,  critical, 'A limit guard needs a warning limit, a critical limit or both.'",
        "midnight, '', 10, 100, 0,  5,  margin,   The clear margin is above 0 % and up to 100 % of the limit",
        "midnight, '', 10, 100, 90, -1, margin,   The clear time is 0 to 24 h"
    })
    void whatCannotBeMeantIsSaidAtItsField(
            String window,
            String minutes,
            String warning,
            String critical,
            String margin,
            String calm,
            String field,
            String words) {
        var read = new GuardForm("Name", "every", window, minutes, warning, critical, margin, calm, "", 0).read(ZONE);
        assertThat(read.guard()).isNull();
        assertThat(read.errors().get(field)).startsWith(words);
    }

    @Test
    void ofTwoWhoChangeAGuardTheSecondIsTold() {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        var seen = guards.all().stream()
                .filter(one -> one.watched().equals(new Watched.OneInterface(subject.key())))
                .findFirst()
                .orElseThrow();
        var renamed = new StandingGuard(
                seen.id(), "Renamed " + subject.key(), true, seen.watched(), seen.rule(), "", seen.version());
        guards.change(renamed, person("lead"));
        assertThatThrownBy(() -> guards.change(renamed, person("admin"))).isInstanceOf(Guards.Overtaken.class);
        assertThat(guards.byId(seen.id()).version()).isEqualTo(seen.version() + 1);
    }
}
