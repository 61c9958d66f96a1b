package app.morvet.core.cases;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Expression;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Limit;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Projection;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TheilSen;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Window;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What guards of every kind call their trouble. Limits of failed messages stand in GuardWordsTest. */
class HeadlineTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final Terms TERMS = Terms.clearing(0.9, Duration.ZERO);
    /** A Tuesday, noon at Helsinki. */
    private static final Instant NOON = Instant.parse("2026-11-24T10:00:00Z");

    private static final TrendGuard TREND =
            new TrendGuard(95, Side.ABOVE, Duration.ofDays(7), false, ZONE, Limits.below(72, 24), TERMS);

    private static Headline.Told told(String words, String unit, double value, @Nullable Projection seen) {
        return new Headline.Told("measure", words, unit, "quay-03", Severity.WARNING, value, seen);
    }

    /** Heading up from 80 by so much an hour. */
    private static Projection heading(double low, double slope, double high) {
        return new Projection(NOON, 80, new TheilSen(slope, low, high, 80), 0, new double[24], 80, ZONE);
    }

    private static String trend(double hours, @Nullable Projection seen) {
        return Headline.of(TREND, told("disk used", "%", hours, seen));
    }

    @Test
    void silenceABandAndACombinationSayWhatTheyWatch() {
        Guard silence = new SilenceGuard(Limits.above(2, 9), TERMS);
        assertThat(Headline.of(silence, told("disk used", "%", 4, null)))
                .isEqualTo(
                        "Readings of disk used not heard on quay-03: 4 or more promised ones in a row have not come");
        for (var side : List.of(Side.ABOVE, Side.BELOW, Side.OUTSIDE)) {
            var band = new BandGuard(Duration.ofMinutes(30), 0.5, side, 4, ZONE, Limits.above(3, 6), TERMS);
            assertThat(Headline.of(band, told("queue depth", "", 4.2, null)))
                    .isEqualTo("Queue depth on quay-03 is unusual for this hour, 4.2 spreads %s"
                            .formatted(side == Side.OUTSIDE ? "off" : side.word() + " its middle"));
        }
        var both = new CombinationGuard(Expression.parse("a and b"), List.of(4L, 7L), Severity.WARNING, true, TERMS);
        assertThat(Headline.of(both, told("", "", 1, null))).isEqualTo("What is watched for together holds on quay-03");
    }

    /** An alert stands until that has lasted for a while, and says meanwhile what is so, not what was. */
    @Test
    void whatIsNoMoreSoIsSaidToBeBack() {
        Guard silence = new SilenceGuard(Limits.above(2, 9), TERMS);
        assertThat(Headline.of(silence, told("disk used", "%", 1, null)))
                .isEqualTo("Readings of disk used are heard again on quay-03");
        var soon = "Disk used on quay-03 heads above 95 %: in about 72 h";
        assertThat(trend(72, null)).isEqualTo(soon.replace(" %:", " %, but not so soon any more:"));
        assertThat(trend(71.9, null)).isEqualTo(soon.replace("72", "71.9"));
    }

    @ParameterizedTest
    @CsvSource({
        "ABOVE, 7, 'unusual for this hour, 7 spreads above its middle'",
        "ABOVE, 3.1, 'unusual for this hour, 3.1 spreads above its middle'",
        "ABOVE, 3, 'usual for this hour again, 3 spreads above its middle'",
        "ABOVE, -0.7, 'usual for this hour again, 0.7 spreads below its middle'",
        "BELOW, 3.1, 'unusual for this hour, 3.1 spreads below its middle'",
        "BELOW, -0.7, 'usual for this hour again, 0.7 spreads above its middle'",
        "OUTSIDE, 0.7, 'usual for this hour again, 0.7 spreads off'",
    })
    void aBandSaysWhetherItIsUsualAgainAndOnWhichSide(Side side, double spreads, String words) {
        var band = new BandGuard(Duration.ofMinutes(30), 0.5, side, 4, ZONE, Limits.above(3, 6), TERMS);
        assertThat(Headline.of(band, told("queue depth", "", spreads, null)))
                .isEqualTo("Queue depth on quay-03 is " + words);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            2    | today about 19:30, between 18:00 and 21:00
            0.5  | Wednesday about 18:00, between 12:00 and Thursday 00:00
            0.02 | 25 Dec about 18:00, between 19 Dec 12:00 and 1 Jan 00:00
            """)
    void aTrendSaysWhenAndBetweenWhichTimes(double slope, String when) {
        // The day as people say it: today, a weekday within the week, else the date.
        assertThat(trend(10, heading(slope / 1.2, slope, slope * 1.25)))
                .isEqualTo("Disk used on quay-03 heads above 95 %: " + when);
    }

    @Test
    void aTrendThatIsThereOrUnsureSaysSo() {
        assertThat(trend(0, null)).endsWith(": it is there");
        assertThat(trend(31.4, null)).endsWith(": in about 31.4 h");
        assertThat(trend(7.5, heading(-0.5, 2, 3))).contains("today about 19:30, not before ");
        assertThat(trend(5000, heading(-3, -2, -1))).endsWith(": not within 400 days");
        var there = new Projection(NOON, 97, new TheilSen(1, 0.5, 2, 97), 0, new double[24], 97, ZONE);
        assertThat(trend(5, there)).endsWith(": it is there");
    }

    @Test
    void aLimitSaysOnWhichSideItWasBreachedOrThatItIsBack() {
        var outside = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(5)),
                Amount.of(Amount.Fold.LAST),
                new Limits(Limit.outside(40, 90), null),
                TERMS);
        assertThat(Headline.of(outside, told("hall temperature", "°C", 95, null)))
                .isEqualTo("Hall temperature on quay-03 is 95 °C, outside the warning limits of 40 to 90 °C");
        assertThat(Headline.of(outside, told("hall temperature", "°C", 60, null)))
                .isEqualTo("Hall temperature on quay-03 is 60 °C, back from its warning limit");
        assertThat(Headline.over("Quay 03", "Hall temperature was 95 °C"))
                .isEqualTo("Over on Quay 03; at worst: Hall temperature was 95 °C");
    }
}
