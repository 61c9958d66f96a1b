package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.alert.Severity;
import app.morvet.core.cases.Comeback;
import app.morvet.core.cases.Headline;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Guards as words, and the checks at their door. */
class GuardWordsTest {
    private static final LimitGuard DAY = new LimitGuard(
            new Window.SinceMidnight(ZoneId.of("Europe/Helsinki")),
            Amount.of(Amount.Fold.SUM),
            Limits.above(12, 80),
            Terms.clearing(0.85, Duration.ofMinutes(5)));
    private static final LimitGuard BURST = new LimitGuard(
            new Window.Sliding(Duration.ofMinutes(15)),
            Amount.of(Amount.Fold.SUM),
            new Limits(null, Limit.above(2.5)),
            Terms.clearing(1, Duration.ZERO));
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");

    private static GuardSentence.Naming naming(String measure, String unit, String subjects) {
        return new GuardSentence.Naming(measure, unit, subjects, id -> "guard " + id);
    }

    private static Headline.Told told(String measure, String unit, String subject, Severity level, double value) {
        return new Headline.Told(measure, measure.replace('_', ' '), unit, subject, level, value, null);
    }

    @Test
    void aGuardReadsAsTheSentenceThatItMeans() {
        assertThat(GuardSentence.of(DAY, naming("failed messages", "", "each interface of Freight Manifests")))
                .isEqualTo(
                        "Watch failed messages on each interface of Freight Manifests: the sum since midnight. Warn above 12, critical above 80. Clear 15 % inside the limit for 5 min.");
        var rich = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(30)),
                new Amount(Amount.Fold.EACH, 0.8, 5, new Amount.Ceiling.Measured("licences_owned")),
                new Limits(Limit.above(80), null),
                new Terms(
                        new Clearing(0.95, Duration.ZERO),
                        new NoData(Duration.ofMinutes(15), NoData.Meaning.NOTICE),
                        new Grouping(Grouping.By.APPLICATION, ""),
                        new Hours(
                                EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY),
                                LocalTime.of(6, 0),
                                LocalTime.of(22, 0),
                                ZONE),
                        new Damping(3, Duration.ofHours(1))));
        assertThat(GuardSentence.of(rich, naming("licences used", "", "each licence")))
                .isEqualTo(
                        "Watch licences used on each licence: at least 80 % of readings as a share of licences owned over the last 30 min, with at least 5 readings. Warn above 80 %. Clear 5 % inside the limit. If nothing is heard for 15 min, raise a notice. Raise one alert for each application. It applies on weekdays from 06:00 to 22:00. Raised 3 times within 1 h, it flaps and stays up until it has been calm for as long.");
        assertThat(GuardSentence.of(
                        new TrendGuard(
                                95,
                                Side.ABOVE,
                                Duration.ofDays(7),
                                true,
                                ZONE,
                                Limits.below(72, 24),
                                Terms.clearing(0.85, Duration.ofHours(1))),
                        naming("disk used", "%", "each host")))
                .startsWith(
                        "Watch where disk used on each host is heading, from the last 7 days and its daily rhythm. When it will be above 95 %: warn 3 days ahead, critical 1 day ahead.");
        assertThat(GuardSentence.of(
                        new CombinationGuard(
                                Expression.parse("a and not b"),
                                List.of(4L, 7L),
                                Severity.WARNING,
                                true,
                                Terms.clearing(1, Duration.ZERO)),
                        naming("", "", "each instance")))
                .isEqualTo(
                        "Watch on each instance for: \"guard 4\" and not \"guard 7\". Warn when that holds; they keep silent by themselves. Clear when it no longer does.");
    }

    @Test
    void aHeadlineSaysWhatWhereAndOverWhichLimit() {
        assertThat(Headline.of(DAY, told(Headline.FAILED, "", "Manifest to harbour authority", Severity.WARNING, 37)))
                .isEqualTo("37 failed since midnight on Manifest to harbour authority, over the warning limit of 12");
        assertThat(Headline.of(BURST, told(Headline.FAILED, "", "Customer updates", Severity.CRITICAL, 2)))
                .isEqualTo(
                        "2 failed in the last 15 min on Customer updates, now at or under the critical limit of 2.5");
        var free = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(5)),
                Amount.of(Amount.Fold.MIN),
                Limits.below(20, 10),
                Terms.clearing(0.85, Duration.ZERO));
        assertThat(Headline.of(free, told("free_workers", "", "gangway-2", Severity.CRITICAL, 4)))
                .isEqualTo("Free workers on gangway-2 is 4, under the critical limit of 10");
        assertThat(Headline.of(free, told("free_workers", "", "gangway-2", Severity.NOTICE, 20)))
                .isEqualTo("Readings of free workers are heard again on gangway-2");
        assertThat(Headline.of(free, told("free_workers", "", "gangway-2", Severity.NOTICE, Double.NaN)))
                .isEqualTo("Nothing is heard of free workers on gangway-2");
    }

    @Test
    void anExpressionReadsBackAsItWasTypedAndSaysWhereItCannotBeRead() {
        for (var text : List.of("a", "a and not b", "a and (b or not c)", "not (a or b)", "a or (b and c)"))
            assertThat(Expression.parse(text).text()).isEqualTo(text);
        assertThatThrownBy(() -> Expression.parse("a and"))
                .hasMessageContaining("expected a letter from a to h at character 6");
        assertThatThrownBy(() -> Expression.parse("a b"))
                .hasMessageContaining("expected \"and\", \"or\" or the end at character 3");
        assertThatThrownBy(() -> Expression.parse("(a or b")).hasMessageContaining("a closing bracket");
        assertThatThrownBy(() -> Expression.parse("(".repeat(500))).hasMessageContaining("fewer brackets");
        assertThatThrownBy(() -> new CombinationGuard(
                        Expression.parse("a and c"),
                        List.of(1L, 2L),
                        Severity.WARNING,
                        true,
                        Terms.clearing(1, Duration.ZERO)))
                .hasMessage("the expression names \"c\", but there are only 2 guards");
    }

    @Test
    void whatCannotBeMeantIsRefusedWithTheReason() {
        assertThatThrownBy(() -> Limits.above(100, 10))
                .hasMessage("the critical limit (10) must be above the warning limit (100)");
        assertThatThrownBy(() -> new Limits(null, null))
                .hasMessageContaining("needs a warning limit, a critical limit or both");
        assertThatThrownBy(() -> Limits.below(10, 20)).hasMessageContaining("must be below the warning limit (10)");
        assertThatThrownBy(() -> Limit.above(Double.NaN)).hasMessageContaining("finite");
        assertThatThrownBy(() -> Limit.outside(5, 5)).hasMessageContaining("must be below the upper one");
        assertThatThrownBy(() -> new Clearing(0, Duration.ZERO)).hasMessageContaining("above 0 % and up to 100 %");
        assertThatThrownBy(() -> new Clearing(1, Duration.ofHours(25)))
                .hasMessageContaining("0 to 24 h, was 1 day 1 h");
        assertThatThrownBy(() -> new Window.Sliding(Duration.ofSeconds(30)))
                .hasMessageContaining("1 min to 7 days long, was 30 s");
    }

    @ParameterizedTest
    @CsvSource({
        "45, 45 s",
        "300, 5 min",
        "330, 5 min 30 s",
        "7200, 2 h",
        "9000, 2 h 30 min",
        "86400, 1 day",
        "266400, 3 days 2 h"
    })
    void spansReadAsPeopleSayThem(long seconds, String words) {
        assertThat(Spans.words(Duration.ofSeconds(seconds))).isEqualTo(words);
    }

    @Test
    void settledTroubleComesBackWhenItGrowsByItsLimitAgain() {
        assertThat(Comeback.grewAgain(DAY, 37, 49)).isFalse();
        assertThat(Comeback.grewAgain(DAY, 37, 50)).isTrue();
        assertThat(Comeback.grewAgain(BURST, 0, 2)).isFalse();
        var settled = Instant.parse("2026-11-24T04:00:00Z");
        assertThat(Comeback.reopens(settled, settled.plusSeconds(23 * 3600))).isTrue();
        assertThat(Comeback.reopens(settled, settled.plusSeconds(24 * 3600))).isFalse();
    }
}
