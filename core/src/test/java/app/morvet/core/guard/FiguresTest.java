package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.alert.Severity;
import app.morvet.core.cases.Comeback;
import app.morvet.core.cases.ResponseTime;
import app.morvet.core.estate.Tier;
import app.morvet.core.sorting.FoldWindow;
import java.time.Duration;
import java.time.Instant;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Figures and durations as people read them, and the few fixed times that the job goes by. */
class FiguresTest {
    @ParameterizedTest
    @CsvSource({
        "0, 0 s",
        "59, 59 s",
        "60, 1 min",
        "61, 1 min 1 s",
        "3599, 59 min 59 s",
        "3600, 1 h",
        "9000, 2 h 30 min",
        "9059, 2 h 30 min",
        "86399, 23 h 59 min",
        "86400, 1 day",
        "90000, 1 day 1 h",
        "172800, 2 days",
        "266400, 3 days 2 h"
    })
    void durationsHaveAtMostTwoParts(long seconds, String words) {
        assertThat(Spans.words(Duration.ofSeconds(seconds))).isEqualTo(words);
    }

    /** What is left out is less than the smaller of the two units. */
    @Property
    void whatIsSaidOfADurationIsNeverMoreThanItIs(@ForAll @LongRange(max = 10_000_000) long seconds) {
        long said = 0;
        var part = Spans.words(Duration.ofSeconds(seconds)).split(" ");
        for (int i = 0; i < part.length; i += 2)
            said += Long.parseLong(part[i])
                    * switch (part[i + 1]) {
                        case "s" -> 1;
                        case "min" -> 60;
                        case "h" -> 3600;
                        default -> 86_400;
                    };
        assertThat(seconds - said).isBetween(0L, seconds < 3600 ? 0 : seconds < 86_400 ? 59L : 3599L);
    }

    @ParameterizedTest
    @CsvSource({
        "1, 1",
        "0, 0",
        "-0.5, -0.5",
        "1234.5678, 1235",
        "123.456, 123.5",
        "12.3456, 12.35",
        "1.5, 1.5",
        "0.123456, 0.1235",
        "0.0012345, 0.001235",
        "1e12, 1000000000000",
        "NaN, no data",
        "Infinity, never",
        "-Infinity, before all time"
    })
    void measuredFiguresAreRoundedToWhatAnEyeTakesIn(double value, String words) {
        assertThat(Numbers.rounded(value)).isEqualTo(words);
    }

    @ParameterizedTest
    @CsvSource({"10, 10", "2.5, 2.5", "0.1, 0.1", "-3, -3", "1e15, 1.0E15"})
    void typedFiguresStayAsTheyAre(double value, String words) {
        assertThat(Numbers.exact(value)).isEqualTo(words);
    }

    @Test
    void aUnitStandsBehindItsFigure() {
        assertThat(Numbers.with("85", "%")).isEqualTo("85 %");
        assertThat(Numbers.with("85", "")).isEqualTo("85");
    }

    @Test
    void aRepeatFoldsWithinTheWindowOfTheOneBeforeIt() {
        var window = new FoldWindow(Duration.ofHours(4));
        var last = Instant.parse("2027-03-18T00:00:00Z");
        assertThat(window.joins(last, last.plusSeconds(4 * 3600 - 1))).isTrue();
        assertThat(window.joins(last, last.plusSeconds(4 * 3600))).isFalse();
        assertThat(window.joins(last, last.minusSeconds(99_999)))
                .as("one that is told late joins")
                .isTrue();
        assertThatThrownBy(() -> new FoldWindow(Duration.ofSeconds(59))).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new FoldWindow(Duration.ofDays(31))).isInstanceOf(IllegalArgumentException.class);
    }

    /** Once nothing can join any more, nothing does; and until then something may. */
    @Property
    void aFoldIsOverWhenNothingMoreJoinsIt(
            @ForAll @IntRange(min = 1, max = 43_200) int minutes, @ForAll @IntRange(max = 3_000_000) int seconds) {
        var window = new FoldWindow(Duration.ofMinutes(minutes));
        var last = Instant.parse("2027-03-18T00:00:00Z");
        var now = last.plusSeconds(seconds);
        assertThat(window.over(last, now)).isNotEqualTo(window.joins(last, now));
    }

    @Test
    void theMoreItMattersTheSoonerSomebodyShouldHaveIt() {
        for (var severity : Severity.values()) {
            var before = Duration.ZERO;
            for (int tier = 1; tier <= 4; tier++) {
                var now = ResponseTime.of(severity, new Tier(tier));
                assertThat(now).isGreaterThanOrEqualTo(before);
                before = now;
            }
        }
        for (int tier = 1; tier <= 4; tier++) {
            assertThat(ResponseTime.of(Severity.CRITICAL, new Tier(tier)))
                    .isLessThan(ResponseTime.of(Severity.WARNING, new Tier(tier)));
            assertThat(ResponseTime.of(Severity.WARNING, new Tier(tier)))
                    .isLessThan(ResponseTime.of(Severity.NOTICE, new Tier(tier)));
        }
        assertThat(ResponseTime.of(Severity.CRITICAL, new Tier(1))).isEqualTo(Duration.ofMinutes(15));
    }

    @Test
    void whatComesBackWithinADayIsTheSameAndWhatGrewByItsLimitCallsAgain() {
        var settled = Instant.parse("2027-03-18T00:00:00Z");
        assertThat(Comeback.reopens(settled, settled.plusSeconds(86_399))).isTrue();
        assertThat(Comeback.reopens(settled, settled.plusSeconds(86_400))).isFalse();
        var sum = guard(Amount.Fold.SUM, Limits.above(12, 80));
        assertThat(Comeback.grewAgain(sum, 100, 112)).isFalse();
        assertThat(Comeback.grewAgain(sum, 100, 113)).isTrue();
        assertThat(Comeback.grewAgain(guard(Amount.Fold.MEAN, Limits.above(12, 80)), 100, 500))
                .isFalse();
        assertThat(Comeback.grewAgain(guard(Amount.Fold.SUM, Limits.below(12, 8)), 1, 500))
                .isFalse();
        assertThat(Comeback.grewAgain(new SilenceGuard(Limits.above(3, 9), terms()), 1, 500))
                .isFalse();
    }

    private static Guard guard(Amount.Fold fold, Limits limits) {
        return new LimitGuard(new Window.Sliding(Duration.ofMinutes(15)), Amount.of(fold), limits, terms());
    }

    private static Terms terms() {
        return Terms.clearing(0.85, Duration.ZERO);
    }
}
