package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.MorvetTest;
import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Expression;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Limit;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.ground.page.Curve;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.UUID;
import java.util.function.DoubleUnaryOperator;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** The curves of guards of every kind over readings that were really told. */
class CurvesTest extends MorvetTest {
    private static final ZoneId UTC = ZoneId.of("UTC");
    private static final Terms TERMS = Terms.clearing(1, Duration.ZERO);

    @Autowired
    Curves curves;

    @Autowired
    Matching matching;

    private final Instant now = Instant.now().truncatedTo(ChronoUnit.MINUTES);

    /** A measure told of a fresh host, a reading every so many minutes up to now, its value by the hours before now; NaN is silence. */
    private app.morvet.rules.guards.Subject told(int days, int everyMinutes, DoubleUnaryOperator value)
            throws Exception {
        var host = "host-" + UUID.randomUUID().toString().substring(0, 8);
        var page = new StringBuilder();
        for (int minutes = days * 1440; minutes >= 0; minutes -= everyMinutes)
            if (!Double.isNaN(value.applyAsDouble(minutes / 60.0)))
                page.append(String.format(
                        Locale.ROOT,
                        "heat{component=\"%s\"} %.4f %d%n",
                        host,
                        value.applyAsDouble(minutes / 60.0),
                        now.getEpochSecond() - minutes * 60L));
        assertThat(tell(page.toString()).statusCode()).isEqualTo(202);
        return matching.of(Watch.of("heat").named(host)).getFirst();
    }

    private Curve curve(Guard rule, app.morvet.rules.guards.Subject subject, Duration span) {
        return curves.of(rule, subject, now.minus(span), now, 200);
    }

    @Test
    void aTrendGoesOnAsAProjectionToWhereItCrosses() throws Exception {
        // From 50 up by a half an hour: it is at 80 now and at 95 in thirty hours.
        var subject = told(3, 10, hoursAgo -> 80 - hoursAgo / 2);
        var rule = new TrendGuard(95, Side.ABOVE, Duration.ofDays(3), false, UTC, Limits.below(72, 24), TERMS);
        var curve = curve(rule, subject, Duration.ofDays(3));
        assertThat(curve.critical()).containsExactly(95.0);
        var projected = curve.projected().stream().filter(Objects::nonNull).toList();
        assertThat(projected.getFirst()).isBetween(79.5, 80.5);
        assertThat(projected.getLast()).isGreaterThan(90);
        assertThat(projected).isSorted();
        assertThat(curve.values().getFirst()).isBetween(43.9, 45.0);
        assertThat(curve.times()).isSorted();
        assertThat(curve.note()).contains(" about ");
    }

    @Test
    void noLineIsDrawnOverASilence() throws Exception {
        var subject = told(2, 10, hoursAgo -> hoursAgo > 3 && hoursAgo < 6 ? Double.NaN : 40 + hoursAgo % 2);
        var trend = new TrendGuard(95, Side.ABOVE, Duration.ofDays(2), false, UTC, Limits.below(72, 24), TERMS);
        var band = new BandGuard(Duration.ofMinutes(30), 0.5, Side.OUTSIDE, 2, UTC, Limits.above(3, 6), TERMS);
        for (var rule : List.of(trend, band)) {
            var curve = curve(rule, subject, Duration.ofDays(1));
            double silent = now.minus(Duration.ofMinutes(270)).getEpochSecond();
            int gap = curve.times().indexOf(silent);
            assertThat(gap).as("a point in the middle of it").isPositive();
            assertThat(curve.values().get(gap)).isNull();
            assertThat(curve.values().subList(0, gap)).doesNotContainNull();
            assertThat(curve.values().get(gap + 1)).isNotNull();
            assertThat(curve.times()).isSorted();
        }
    }

    @Test
    void aTrendOfWhichTooLittleWasHeardSaysSo() throws Exception {
        var subject = told(0, 10, hoursAgo -> 1);
        var rule = new TrendGuard(95, Side.ABOVE, Duration.ofDays(3), false, UTC, Limits.below(72, 24), TERMS);
        var curve = curve(rule, subject, Duration.ofDays(3));
        assertThat(curve.projected()).allMatch(Objects::isNull);
        assertThat(curve.note()).isEqualTo("too little was heard for a projection");
    }

    @Test
    void aBandFollowsWhatIsUsualAtTheHour() throws Exception {
        // High in even hours and low in odd ones, for three weeks; the latest hour has jumped.
        var subject = told(21, 10, hoursAgo -> {
            long hour = now.minusSeconds((long) (hoursAgo * 3600)).getEpochSecond() / 3600;
            return (hour % 2 == 0 ? 100 : 20) + Math.floorMod((long) (hoursAgo * 7), 5) + (hoursAgo < 0.5 ? 500 : 0);
        });
        var rule = new BandGuard(Duration.ofMinutes(30), 0.5, Side.OUTSIDE, 2, UTC, Limits.above(3, 6), TERMS);
        var curve = curve(rule, subject, Duration.ofHours(12));
        for (int i = 0; i < curve.times().size() - 2; i++) {
            double middle = (Objects.requireNonNull(curve.low().get(i))
                            + Objects.requireNonNull(curve.high().get(i)))
                    / 2;
            boolean even = (long) (curve.times().get(i) / 3600) % 2 == 0;
            assertThat(middle).isBetween(even ? 98.0 : 18.0, even ? 108.0 : 28.0);
        }
        assertThat(curve.values().getLast()).isGreaterThan(curve.high().getLast());
        assertThat(curve.note()).isEmpty();
        var young = told(2, 60, hoursAgo -> 1);
        assertThat(curve(rule, young, Duration.ofHours(12)).note()).contains("too little was heard yet");
    }

    @Test
    void aShortPeakIsSeenInALongCurveAndLimitsStandBesideIt() throws Exception {
        // One reading of four thousand.
        var subject = told(3, 1, hoursAgo -> hoursAgo > 29.99 && hoursAgo < 30.001 ? 99 : 10);
        var rule = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(1)),
                Amount.of(Amount.Fold.LAST),
                new Limits(Limit.outside(5, 90), null),
                TERMS);
        var curve = curve(rule, subject, Duration.ofDays(3));
        assertThat(curve.values()).contains(99.0);
        assertThat(curve.values()).hasSizeLessThan(210);
        assertThat(curve.warning()).containsExactly(5.0, 90.0);
        var silence = curve(new SilenceGuard(Limits.above(2, 9), TERMS), subject, Duration.ofHours(3));
        assertThat(silence.values()).contains(0.0);
        assertThat(silence.name()).isEqualTo("promised readings that have not come");
        var both = new CombinationGuard(Expression.parse("a"), List.of(1L), Severity.WARNING, true, TERMS);
        assertThatThrownBy(() -> curve(both, subject, Duration.ofHours(1)))
                .hasMessage("a combination has no curve of its own");
    }

    @Test
    void theBenchDrawsATrendThatIsBeingEdited() throws Exception {
        var subject = told(3, 10, hoursAgo -> 80 - hoursAgo / 2);
        var picture = tree(loggedIn("lead")
                .post(
                        "/guards/picture",
                        "name=x&kind=trend&measure=heat&target=95&side=above&lookback=3+days&ahead=72&aheadCritical=24&days=1&pattern="
                                + subject.component().key()));
        assertThat(picture.path("drawn")
                        .get(0)
                        .path("curve")
                        .path("critical")
                        .get(0)
                        .asDouble())
                .isEqualTo(95);
        assertThat(picture.path("drawn").get(0).path("curve").path("projected").size())
                .isPositive();
    }
}
