package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.alert.Severity;
import app.morvet.core.cases.Comeback;
import app.morvet.core.cases.Headline;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Guards as words, and the checks at their door. */
class GuardWordsTest {
    private static final LimitGuard DAY = new LimitGuard(
            new CountWindow.SinceMidnight(ZoneId.of("Europe/Helsinki")),
            Limits.of(10, 100),
            new Clearing(0.9, Duration.ofMinutes(5)));
    private static final LimitGuard BURST = new LimitGuard(
            new CountWindow.Sliding(Duration.ofMinutes(15)), new Limits(null, 2.5), new Clearing(1, Duration.ZERO));

    @Test
    void aGuardReadsAsTheSentenceThatItMeans() {
        var names = Map.of("freight", "Freight Manifests", "mf", "Manifest to harbour authority");
        assertThat(GuardSentence.of(DAY, new Watched.InterfacesOf("freight"), names::get))
                .isEqualTo(
                        "Watch failed messages on each interface of Freight Manifests, counted since midnight. Warn above 10, critical above 100. Clear at 90 % of the limit or less, held for 5 min.");
        assertThat(GuardSentence.of(BURST, new Watched.OneInterface("mf"), names::get))
                .isEqualTo(
                        "Watch failed messages on Manifest to harbour authority, counted over the last 15 min. Critical above 2.5. Clear at 100 % of the limit or less.");
    }

    @Test
    void aHeadlineSaysWhatWhereAndOverWhichLimit() {
        assertThat(Headline.of(DAY, "Manifest to harbour authority", Severity.WARNING, 37))
                .isEqualTo("37 failed since midnight on Manifest to harbour authority, over the warning limit of 10");
        assertThat(Headline.of(BURST, "Customer updates", Severity.CRITICAL, 2))
                .isEqualTo(
                        "2 failed in the last 15 min on Customer updates, now at or under the critical limit of 2.5");
    }

    @Test
    void whatCannotBeMeantIsRefusedWithTheReason() {
        assertThatThrownBy(() -> Limits.of(100, 10))
                .hasMessage("the critical limit (10) must be above the warning limit (100)");
        assertThatThrownBy(() -> new Limits(null, null))
                .hasMessageContaining("needs a warning limit, a critical limit or both");
        assertThatThrownBy(() -> new Limits(-1.0, null)).hasMessageContaining("the warning limit must be 0 or more");
        assertThatThrownBy(() -> new Limits(Double.NaN, null)).hasMessageContaining("0 or more");
        assertThatThrownBy(() -> new Clearing(0, Duration.ZERO)).hasMessageContaining("above 0 % and up to 100 %");
        assertThatThrownBy(() -> new Clearing(1, Duration.ofHours(25)))
                .hasMessageContaining("0 to 24 h, was 1 day 1 h");
        assertThatThrownBy(() -> new CountWindow.Sliding(Duration.ofSeconds(30)))
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
    void aGuardMatchesWhatItsSubjectsSay() {
        assertThat(new Watched.EveryInterface().matches("mf", "")).isTrue();
        assertThat(new Watched.InterfacesOf("freight").matches("mf", "freight")).isTrue();
        assertThat(new Watched.InterfacesOf("freight").matches("mf", "crew")).isFalse();
        assertThat(new Watched.OneInterface("mf").matches("mg", "freight")).isFalse();
    }

    @Test
    void settledTroubleComesBackWhenItGrowsByItsLimitAgain() {
        assertThat(Comeback.grewAgain(DAY, 37, 47)).isFalse();
        assertThat(Comeback.grewAgain(DAY, 37, 48)).isTrue();
        assertThat(Comeback.grewAgain(BURST, 0, 2)).isFalse();
        var settled = Instant.parse("2026-11-24T04:00:00Z");
        assertThat(Comeback.reopens(settled, settled.plusSeconds(23 * 3600))).isTrue();
        assertThat(Comeback.reopens(settled, settled.plusSeconds(24 * 3600))).isFalse();
    }

    @Test
    void theCurveFallsAtMidnightAndNotAsASlope() {
        var midnight = Instant.parse("2026-11-24T22:00:00Z");
        var ring = new CountRing();
        ring.add(midnight.minusSeconds(600), 7);
        var curve = CountCurve.of(
                DAY.window(), ring, midnight.minusSeconds(900), midnight.plusSeconds(900), Duration.ofSeconds(400));
        assertThat(curve).extracting(CountCurve.Point::value).containsExactly(0.0, 7.0, 7.0, 7.0, 0.0, 0.0, 0.0, 0.0);
        assertThat(curve).filteredOn(point -> point.at().equals(midnight)).hasSize(1);
    }
}
