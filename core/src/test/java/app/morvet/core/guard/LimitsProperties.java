package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.alert.Severity;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** What holds for limits on every side, and any value. */
class LimitsProperties {
    @Provide
    Arbitrary<Limits> limits() {
        var number = Arbitraries.integers().between(-50, 50);
        var step = Arbitraries.integers().between(1, 30);
        return Combinators.combine(number, step, step, Arbitraries.of(Side.class))
                .as((at, wide, farther, side) -> switch (side) {
                    case ABOVE -> Limits.above(at, at + farther);
                    case BELOW -> Limits.below(at, at - farther);
                    case OUTSIDE ->
                        new Limits(
                                Limit.outside(at, at + wide),
                                Limit.outside(at - farther, at + wide + (double) farther));
                    case EQUAL -> Limits.of(Side.EQUAL, (double) at, (double) at + farther);
                });
    }

    @Property
    void whatBreachesHoldsAndAMarginOnlyHoldsLonger(
            @ForAll("limits") Limits limits,
            @ForAll @IntRange(min = -120, max = 120) int value,
            @ForAll @DoubleRange(min = 0.5, max = 1) double margin) {
        var breached = limits.breachedBy(value);
        var held = limits.heldBy(value, margin);
        if (breached != null) assertThat(held).isNotNull().isGreaterThanOrEqualTo(breached);
        assertThat(limits.heldBy(value, 1)).isEqualTo(breached);
    }

    @Property
    void theFartherOutTheWorse(
            @ForAll("limits") Limits limits,
            @ForAll @IntRange(min = -120, max = 120) int one,
            @ForAll @IntRange(min = -120, max = 120) int other) {
        if (limits.side() == Side.EQUAL) return;
        double worse = limits.worse(one, other);
        assertThat(worse).isIn((double) one, (double) other);
        assertThat(rank(limits, worse)).isEqualTo(Math.max(rank(limits, one), rank(limits, other)));
        assertThat(limits.worse(one, Double.NaN)).isEqualTo(one);
        assertThat(limits.worse(Double.NaN, one)).isEqualTo(one);
    }

    private static int rank(Limits limits, double value) {
        var severity = limits.breachedBy(value);
        return severity == null ? -1 : severity.ordinal();
    }

    @Test
    void criticalLiesFartherOutThanWarning() {
        assertThatThrownBy(() -> Limits.above(80, 12))
                .hasMessage("the critical limit (12) must be above the warning limit (80)");
        assertThatThrownBy(() -> Limits.below(12, 80))
                .hasMessage("the critical limit (80) must be below the warning limit (12)");
        assertThatThrownBy(() -> new Limits(Limit.outside(0, 10), Limit.outside(2, 8)))
                .hasMessage("the critical limits must lie outside the warning limits");
        assertThatThrownBy(() -> Limits.above(5, 5)).hasMessageContaining("must be above");
        assertThatThrownBy(() -> new Limits(Limit.above(1), Limit.below(0)))
                .hasMessage("the warning and the critical limit look to different sides");
        assertThatThrownBy(() -> new Limits(null, null)).hasMessageContaining("needs a warning limit");
        assertThatThrownBy(() -> Limit.above(Double.NaN)).hasMessage("a limit must be a finite number");
        assertThat(Limits.of(Side.ABOVE, null, 80.0).breachedBy(81)).isEqualTo(Severity.CRITICAL);
    }
}
