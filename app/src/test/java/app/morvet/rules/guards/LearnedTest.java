package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Seer;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.UsualRange;
import app.morvet.core.readings.Past;
import app.morvet.core.readings.ReadingRing;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What live guards have learned is what anybody would learn, and is learned anew before long. */
class LearnedTest {
    private static final Instant HOUR = Instant.parse("2026-11-26T10:00:00Z");
    private static final Terms TERMS = Terms.clearing(0.85, Duration.ofMinutes(5));

    private long nanos;
    private int asked;
    private final Learned learned = new Learned(() -> nanos);
    private final ReadingRing ring = new ReadingRing();
    private final Past past = (from, to) -> {
        asked++;
        return ring.all().between(from, to);
    };

    @BeforeEach
    void fourWeeks() {
        for (int hour = -28 * 24; hour < 0; hour++)
            for (int minute = 0; minute < 60; minute += 10)
                tell(HOUR.plus(Duration.ofHours(hour)).plus(Duration.ofMinutes(minute)), 40 + hour * 7 % 13);
    }

    private void tell(Instant at, double value) {
        ring.add(at, value);
    }

    private static BandGuard band(int weeks) {
        return new BandGuard(
                Duration.ofMinutes(10), 0.5, Side.OUTSIDE, weeks, ZoneOffset.UTC, Limits.above(3, 5), TERMS);
    }

    @Test
    void anHourIsLearnedOnceForEachSeriesAndEachWayOfLearning() {
        var usual = learned.of(1).usual(past, HOUR, band(3));
        assertThat(usual).isNotNull().isEqualTo(Seer.FRESH.usual(past, HOUR, band(3)));
        int once = asked;
        assertThat(learned.of(1).usual(past, HOUR, band(3))).isEqualTo(usual);
        assertThat(asked).as("looks into the store").isEqualTo(once);

        learned.of(1).usual(past, HOUR, band(2));
        assertThat(asked).as("of fewer weeks").isGreaterThan(once);
        assertThat(learned.of(2).usual((from, to) -> ring.all().between(to, to), HOUR, band(3)))
                .as("of another series, which has no past")
                .isNull();
    }

    @Test
    void whatCameLateCountsMinutesLater() {
        var before = learned.of(1).usual(past, HOUR, band(3));
        for (int week = 1; week <= 3; week++)
            for (int second = 1; second < 600; second++)
                tell(HOUR.minus(Duration.ofDays(7L * week)).plusSeconds(second), 90);
        nanos += Learned.KEPT_FOR.minusSeconds(1).toNanos();
        assertThat(learned.of(1).usual(past, HOUR, band(3))).isEqualTo(before);
        nanos += Duration.ofSeconds(2).toNanos();
        assertThat(learned.of(1).usual(past, HOUR, band(3)))
                .isNotNull()
                .extracting(UsualRange::middle)
                .isEqualTo(90.0);
    }

    @Test
    void whereItIsHeadingIsSeenOnceFromEachInstant() {
        var trend =
                new TrendGuard(100, Side.ABOVE, Duration.ofDays(7), false, ZoneOffset.UTC, Limits.below(48, 12), TERMS);
        var seen = learned.of(1).of(past, HOUR, trend);
        assertThat(seen).isEqualTo(Seer.FRESH.of(past, HOUR, trend));
        int once = asked;
        learned.of(1).of(past, HOUR, trend);
        assertThat(asked).isEqualTo(once);
        learned.of(1).of(past, HOUR.minus(trend.grid()), trend);
        assertThat(asked).isGreaterThan(once);
        int twice = asked;
        learned.forget();
        learned.of(1).of(past, HOUR, trend);
        assertThat(asked).isGreaterThan(twice);
    }
}
