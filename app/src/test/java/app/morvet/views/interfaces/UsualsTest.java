package app.morvet.views.interfaces;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What an interface usually carries is reckoned from all that was told of its past, whenever that comes in. */
class UsualsTest extends MorvetTest {
    private static final Instant NOW = Instant.now().truncatedTo(ChronoUnit.HOURS);

    @Autowired
    private Usuals usuals;

    /** So many messages in each hour of some days, up to so many days ago. */
    private void tellHours(Subject subject, int fromDaysAgo, int toDaysAgo, int eachHour) throws Exception {
        var events = new ArrayList<Map<String, Object>>();
        for (var hour = NOW.minus(Duration.ofDays(fromDaysAgo));
                hour.isBefore(NOW.minus(Duration.ofDays(toDaysAgo)));
                hour = hour.plus(1, ChronoUnit.HOURS))
            events.add(event(
                    "messages.delivered",
                    subject.key(),
                    hour.plusSeconds(1800),
                    Map.of("from", hour.toString(), "delivered", eachHour)));
        assertThat(send(events).statusCode()).isEqualTo(202);
    }

    private double aDay(Subject subject) {
        return usuals.of(subject.id()).expected(NOW.minus(Duration.ofDays(1)), NOW);
    }

    @Test
    void aPastThatIsToldLaterIsReckonedWithoutWaitingForHours() throws Exception {
        var subject = subject();
        tellHours(subject, 21, 19, 10);
        usuals.run("all");
        double early = aDay(subject);
        tellHours(subject, 19, 0, 10);
        usuals.run("all");
        assertThat(early).isLessThan(240);
        assertThat(aDay(subject)).isEqualTo(240);
    }

    @Test
    void whatGrowsWithTimeAloneIsReckonedEveryFewHoursOnly() throws Exception {
        var subject = subject();
        tellHours(subject, 21, 0, 10);
        usuals.run("all");
        assertThat(aDay(subject)).isEqualTo(240);
        // More messages in the same hours are no more of the past: they count the next time.
        tellHours(subject, 21, 0, 90);
        usuals.run("all");
        assertThat(aDay(subject)).isEqualTo(240);
        usuals.reckon();
        assertThat(aDay(subject)).isEqualTo(2400);
    }

    @Test
    void ofWhatWasNeverToldNothingIsUsual() {
        var subject = subject();
        usuals.reckon();
        assertThat(usuals.of(subject.id()).expected(NOW.minus(Duration.ofDays(1)), NOW))
                .isZero();
    }
}
