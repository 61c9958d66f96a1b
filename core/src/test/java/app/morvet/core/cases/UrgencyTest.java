package app.morvet.core.cases;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.NOTICE;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Tier;
import java.time.Duration;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;

class UrgencyTest {
    private static Urgency.Facts facts(Severity severity, int tier, long failures, long minutesLate) {
        return new Urgency.Facts(severity, false, new Tier(tier), failures, 1, Duration.ofMinutes(minutesLate), false);
    }

    @Test
    void itsPartsAreSaidAndAddUp() {
        var facts = facts(CRITICAL, 1, 104, 20);
        var urgency = Urgency.of(facts);
        assertThat(urgency).isEqualTo(new Urgency(60, 20, 10, 20, 0));
        assertThat(urgency.total()).isEqualTo(110);
        assertThat(urgency.words(facts)).isEqualTo("critical +60 · tier 1 +20 · spread +10 · waiting +20");
    }

    @Test
    void whatIsLateCountsMoreWithEachResponseTime() {
        assertThat(Urgency.of(facts(CRITICAL, 1, 1, -5)).waiting()).isZero();
        assertThat(Urgency.of(facts(CRITICAL, 1, 1, 0)).waiting()).isZero();
        assertThat(Urgency.of(facts(CRITICAL, 1, 1, 1)).waiting()).isEqualTo(10);
        assertThat(Urgency.of(facts(CRITICAL, 1, 1, 14)).waiting()).isEqualTo(10);
        assertThat(Urgency.of(facts(WARNING, 2, 1, 120)).waiting()).isEqualTo(20);
        assertThat(Urgency.of(facts(NOTICE, 4, 1, 100_000)).waiting()).isEqualTo(30);
    }

    @Test
    void whatIsOverWantsSettlingNotRunning() {
        var over = new Urgency.Facts(CRITICAL, true, new Tier(1), 1, 1, Duration.ZERO, false);
        assertThat(Urgency.of(over).total())
                .isLessThan(Urgency.of(facts(WARNING, 1, 1, 0)).total() + 1);
        assertThat(Urgency.of(over).words(over)).startsWith("critical, over +30");
    }

    @Property
    void aReturnedCaseStandsAboveEverythingThatIsNot(
            @ForAll Severity severity,
            @ForAll @IntRange(min = 1, max = 4) int tier,
            @ForAll @LongRange(min = 0, max = 10_000_000) long failures,
            @ForAll @IntRange(max = 1_000_000) int minutes) {
        var returned = new Urgency.Facts(NOTICE, true, new Tier(4), 0, 1, Duration.ZERO, true);
        assertThat(Urgency.of(returned).total())
                .isGreaterThan(
                        Urgency.of(facts(severity, tier, failures, minutes)).total());
    }

    @Property
    void moreOfAnythingIsNeverLessUrgent(
            @ForAll @IntRange(min = 2, max = 4) int tier,
            @ForAll @LongRange(max = 1_000_000) long failures,
            @ForAll @IntRange(max = 10_000) int minutes) {
        int base = Urgency.of(facts(WARNING, tier, failures, minutes)).total();
        assertThat(Urgency.of(facts(WARNING, tier - 1, failures, minutes)).total())
                .isGreaterThanOrEqualTo(base);
        assertThat(Urgency.of(facts(WARNING, tier, failures * 10, minutes)).total())
                .isGreaterThanOrEqualTo(base);
        assertThat(Urgency.of(facts(WARNING, tier, failures, minutes + 60)).total())
                .isGreaterThanOrEqualTo(base);
        assertThat(Urgency.of(facts(CRITICAL, tier, failures, minutes)).total()).isGreaterThan(base);
    }
}
