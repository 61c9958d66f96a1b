package app.morvet.views.interfaces;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.messages.Delays;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.OpenDays;
import app.morvet.views.interfaces.InterfaceStore.Day;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

/** What was carried since midnight is right at any time of the day, though most of it is summed once for all who look. */
class TodayTest extends MorvetTest {
    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");
    private static final LocalDate DAY = LocalDate.now(HELSINKI).minusDays(2);

    @Autowired
    private Live live;

    @Autowired
    private MorvetSettings settings;

    @Autowired
    private OpenDays openDays;

    private final AtomicInteger sums = new AtomicInteger();
    private Subject subject;

    /** Counts how often the hours that are over are summed. */
    private final class Counting extends InterfaceStore {
        Counting(JdbcClient jdbc, OpenDays openDays) {
            super(jdbc, openDays);
        }

        @Override
        Map<Long, Day> between(Instant from, Instant to) {
            sums.incrementAndGet();
            return super.between(from, to);
        }
    }

    @BeforeEach
    void anInterface() {
        subject = subject();
    }

    private static Instant at(LocalTime time) {
        return DAY.atTime(time).atZone(HELSINKI).toInstant();
    }

    private Today lookedAt(Instant now) {
        return new Today(new Counting(jdbc, openDays), new Times(Clock.fixed(now, HELSINKI), settings), live);
    }

    private Day day(Today today) {
        return today.carried().days().getOrDefault(subject.id(), Day.NOTHING);
    }

    private void carried(Instant at, int messages, Double... delays) throws Exception {
        assertThat(send(List.of(event(
                                "messages.delivered",
                                subject.key(),
                                at,
                                Map.of(
                                        "from",
                                        at.minusSeconds(60).toString(),
                                        "delivered",
                                        messages,
                                        "delays",
                                        List.of(delays)))))
                        .statusCode())
                .isEqualTo(202);
    }

    @Test
    void hoursThatAreOverForLongAreSummedOnce() throws Exception {
        carried(at(LocalTime.of(9, 30)), 3);
        carried(at(LocalTime.of(19, 30)), 4);
        var today = lookedAt(at(LocalTime.of(20, 10)));
        sums.set(0);
        for (int look = 0; look < 20; look++) assertThat(day(today).delivered()).isEqualTo(7);
        assertThat(sums).as("others may send something late meanwhile").hasValueLessThan(10);
        assertThat(day(today).last()).isEqualTo(at(LocalTime.of(19, 30)));
    }

    @Test
    void whatComesInLateCountsAtOnce() throws Exception {
        carried(at(LocalTime.of(9, 30)), 3);
        var today = lookedAt(at(LocalTime.of(20, 10)));
        assertThat(day(today).delivered()).isEqualTo(3);
        carried(at(LocalTime.of(9, 40)), 5);
        assertThat(day(today).delivered()).isEqualTo(8);
        carried(at(LocalTime.of(3, 0)), 1);
        assertThat(day(today).delivered()).isEqualTo(9);
        assertThat(day(today).last()).isEqualTo(at(LocalTime.of(9, 40)));
    }

    /** In the first hours of a day there is nothing to sum, and the delays are of the day before, too. */
    @Test
    void theDayBeginsAtMidnightButDelaysAreOfTheLastHour() throws Exception {
        var midnight = at(LocalTime.MIDNIGHT);
        carried(midnight.minus(Duration.ofMinutes(20)), 3, 4.0, 4.0, 4.0);
        carried(midnight.plus(Duration.ofMinutes(10)), 2, 1.0, 1.0);
        var today = lookedAt(midnight.plus(Duration.ofMinutes(20)));
        assertThat(day(today).delivered()).isEqualTo(2);
        assertThat(today.carried().delays().get(subject.id())).isEqualTo(Delays.of(1, 1, 4, 4, 4));
        assertThat(today.midnight()).isEqualTo(midnight);
    }

    @Test
    void delaysAreOfTheRunningHourAndTheOneBefore() throws Exception {
        carried(at(LocalTime.of(18, 30)), 1, 60.0);
        carried(at(LocalTime.of(19, 30)), 1, 2.0);
        carried(at(LocalTime.of(20, 5)), 1, 1.0);
        var carried = lookedAt(at(LocalTime.of(20, 10))).carried();
        assertThat(carried.delays().get(subject.id())).isEqualTo(Delays.of(1, 2));
        assertThat(carried.days().get(subject.id()).delivered()).isEqualTo(3);
    }

    @Test
    void failedOnesAreCarriedToo() throws Exception {
        sorting(subject, "refused", false);
        var failed = failed(subject, Map.of("error", "refused"));
        failed.put("time", at(LocalTime.of(9, 30)).toString());
        var today = lookedAt(at(LocalTime.of(20, 10)));
        assertThat(day(today)).isEqualTo(Day.NOTHING);
        assertThat(send(List.of(failed)).statusCode()).isEqualTo(202);
        assertThat(day(today)).isEqualTo(new Day(0, 1, null));
    }
}
