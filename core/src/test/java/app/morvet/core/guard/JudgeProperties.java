package app.morvet.core.guard;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static app.morvet.core.alert.Transition.Kind.CLEARED;
import static app.morvet.core.alert.Transition.Kind.EASED;
import static app.morvet.core.alert.Transition.Kind.FLAPS;
import static app.morvet.core.alert.Transition.Kind.RAISED;
import static app.morvet.core.alert.Transition.Kind.ROSE;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Sort;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.jspecify.annotations.Nullable;

/**
 * When an alert is raised, rises, eases, flaps and clears, against a look back at every minute: warns above 4, is critical
 * above 8, and is back at half of each.
 */
class JudgeProperties {
    private static final Instant START = Instant.parse("2027-03-16T08:00:00Z");
    private static final double WARNS_ABOVE = 4;
    private static final double CRITICAL_ABOVE = 8;

    /**
     * @param values one a minute
     * @param calm   minutes for which it must be back
     * @param times  how often raised makes it flap; 0 for never
     * @param within minutes in which that is counted
     * @param cuts   minutes after which it is evaluated
     */
    record Shift(List<Integer> values, int calm, int times, int within, List<Integer> cuts) {
        Instant end() {
            return at(values.size() - 1);
        }
    }

    private record Told(Transition.Kind kind, Instant at, @Nullable Severity level, double worst) {}

    @Provide
    Arbitrary<Shift> shifts() {
        // Mostly calm or mostly not, for some minutes: what is drawn evenly would never be calm for long.
        var stretch = Combinators.combine(
                        Arbitraries.of(0, 2, 3, 4, 5, 8, 9, 12),
                        Arbitraries.integers().between(1, 9))
                .as((value, minutes) ->
                        IntStream.range(0, minutes).mapToObj(i -> value).toList());
        var values = stretch.list().ofMinSize(1).ofMaxSize(25).map(parts -> parts.stream()
                .flatMap(List::stream)
                .toList());
        return Combinators.combine(
                        values,
                        Arbitraries.of(0, 1, 3, 6),
                        Arbitraries.of(0, 2, 3),
                        Arbitraries.of(7, 20),
                        Arbitraries.integers().between(0, 225).list().ofMaxSize(5))
                .as(Shift::new);
    }

    @Property
    void everyTransitionIsWhereALookBackPutsIt(@ForAll("shifts") Shift shift) {
        assertThat(told(shift, shift.cuts())).containsExactlyElementsOf(lookingBack(shift));
    }

    @Property
    void anAlertIsRaisedBeforeAnythingElseAndNothingFollowsItsEnd(@ForAll("shifts") Shift shift) {
        boolean up = false;
        for (var one : told(shift, List.of())) {
            assertThat(one.kind() != RAISED).as(one.toString()).isEqualTo(up);
            if (one.kind() == RAISED) up = true;
            if (one.kind() == CLEARED) up = false;
        }
    }

    private static Instant at(int minute) {
        return START.plusSeconds(60L * minute);
    }

    private static List<Told> told(Shift shift, List<Integer> cuts) {
        var terms = Terms.clearing(0.5, Duration.ofMinutes(shift.calm()));
        var guard = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(5)),
                Amount.of(Amount.Fold.LAST),
                Limits.above(WARNS_ABOVE, CRITICAL_ABOVE),
                shift.times() == 0
                        ? terms
                        : terms.withDamping(new Damping(shift.times(), Duration.ofMinutes(shift.within()))));
        var ring = new ReadingRing();
        for (int i = 0; i < shift.values().size(); i++)
            ring.add(at(i), shift.values().get(i));
        var heard = Heard.of(ring.all(), Sort.GAUGE, Duration.ofMinutes(1));
        var state = GuardState.startingAt(START.minusSeconds(1));
        var transitions = new ArrayList<Transition>();
        var ends = new ArrayList<>(cuts.stream()
                .map(JudgeProperties::at)
                .filter(end -> end.isBefore(shift.end()))
                .sorted()
                .toList());
        ends.add(shift.end());
        for (var end : ends) {
            var step = GuardEvaluator.step(guard, state, heard, end);
            state = step.state();
            transitions.addAll(step.transitions());
        }
        return transitions.stream()
                .map(one -> new Told(one.kind(), one.at(), one.level(), one.worst()))
                .toList();
    }

    /** Looks back at all minutes anew at each. */
    private static List<Told> lookingBack(Shift shift) {
        var told = new ArrayList<Told>();
        var values = shift.values();
        Severity level = null;
        boolean flaps = false;
        int raised = 0;
        var raises = new ArrayList<Integer>();
        for (int i = 0; i < values.size(); i++) {
            int value = values.get(i);
            double worst =
                    IntStream.rangeClosed(raised, i).map(values::get).max().orElse(value);
            int calm = flaps ? shift.within() : shift.calm();
            if (level == null) {
                if (value <= WARNS_ABOVE) continue;
                level = value > CRITICAL_ABOVE ? CRITICAL : WARNING;
                raised = i;
                told.add(new Told(RAISED, at(i), level, value));
                int now = i;
                raises.removeIf(one -> one + shift.within() <= now);
                raises.add(i);
                flaps = shift.times() > 0 && raises.size() >= shift.times();
                if (flaps) told.add(new Told(FLAPS, at(i), level, value));
            } else if (level == WARNING && value > CRITICAL_ABOVE) {
                level = CRITICAL;
                told.add(new Told(ROSE, at(i), level, worst));
            } else if (all(i - calm, i, raised, j -> values.get(j) <= WARNS_ABOVE / 2)) {
                told.add(new Told(CLEARED, at(i), null, worst));
                if (flaps) raises.clear();
                level = null;
                flaps = false;
            } else if (level == CRITICAL && all(i - calm, i, raised, j -> values.get(j) <= CRITICAL_ABOVE / 2)) {
                level = WARNING;
                told.add(new Told(EASED, at(i), level, worst));
            }
        }
        return told;
    }

    private static boolean all(int from, int to, int raised, IntPredicate holds) {
        return from >= raised && IntStream.rangeClosed(from, to).allMatch(holds);
    }
}
