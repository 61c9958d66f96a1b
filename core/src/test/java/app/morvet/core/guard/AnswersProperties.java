package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.TreeMap;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/** What a guard says of a component over which it stands with several series, against a look at every second. */
class AnswersProperties {
    private static final int SECONDS = 30;

    @Provide
    Arbitrary<List<GuardEvaluator.Answers>> answers() {
        var truth = Arbitraries.of(Truth.values());
        return Combinators.combine(
                        truth,
                        Arbitraries.maps(Arbitraries.longs().between(0, SECONDS - 1), truth)
                                .ofMaxSize(5))
                .as((before, changes) -> {
                    var inOrder = new TreeMap<>(changes);
                    return new GuardEvaluator.Answers(
                            before, List.copyOf(inOrder.keySet()), List.copyOf(inOrder.values()));
                })
                .list()
                .ofMinSize(1)
                .ofMaxSize(4);
    }

    private static Truth at(GuardEvaluator.Answers answers, long second) {
        var truth = answers.before();
        for (int i = 0; i < answers.times().size(); i++)
            if (answers.times().get(i) <= second) truth = answers.changes().get(i);
        return truth;
    }

    @Property
    void itHoldsWheneverItHoldsForAnyAndIsKnownNotToWhereItHoldsForNone(
            @ForAll("answers") List<GuardEvaluator.Answers> some) {
        var any = GuardEvaluator.Answers.any(some);
        assertThat(any.times()).isSorted().doesNotHaveDuplicates().hasSameSizeAs(any.changes());
        for (long second = -1; second < SECONDS; second++) {
            long now = second;
            var each = some.stream().map(one -> at(one, now)).toList();
            var expected =
                    each.contains(Truth.TRUE) ? Truth.TRUE : each.contains(Truth.UNKNOWN) ? Truth.UNKNOWN : Truth.FALSE;
            assertThat(at(any, now)).isEqualTo(expected);
        }
    }

    @Example
    void ofNoSeriesNothingIsKnownAndACombinationOfItIsNotEither() {
        assertThat(GuardEvaluator.Answers.any(List.of())).isEqualTo(GuardEvaluator.Answers.UNKNOWN);
        var guard = new CombinationGuard(
                Expression.parse("a"),
                List.of(1L),
                app.morvet.core.alert.Severity.CRITICAL,
                false,
                Terms.clearing(1, Duration.ZERO));
        var from = Instant.parse("2027-03-18T00:00:00Z");
        var step = GuardEvaluator.combine(
                guard,
                GuardState.startingAt(from),
                List.of(GuardEvaluator.Answers.any(List.of())),
                from.plusSeconds(60));
        assertThat(step.transitions()).isEmpty();
        assertThat(step.state().known()).isFalse();
    }
}
