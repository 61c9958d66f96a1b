package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Judges a guard on one subject. A pure function of (guard, state, readings, until): it reads no clock and no store, and
 * live evaluation and replay both come through here.
 *
 * <p>It does not sample. It walks from one instant at which the count can change to the next (a reading comes in, a
 * reading leaves the window, a day begins, a clear time runs out), so a transition bears the very instant at which it
 * became true, and cutting the same readings into other batches gives the same transitions.
 *
 * <p>A reading older than {@code state.evaluatedTo} is late: it counts from {@code evaluatedTo} on, and what was already
 * told stays told.
 */
public final class GuardEvaluator {
    private GuardEvaluator() {}

    /**
     * The outcome of one evaluation.
     *
     * @param state       to be handed in next time
     * @param transitions in order of time; mostly empty
     */
    public record Step(GuardState state, List<Transition> transitions) {}

    /**
     * Judges everything after {@code state.evaluatedTo} up to and at {@code until}.
     *
     * @param ring must hold the readings of the guard's window from {@code state.evaluatedTo} back, and all newer ones
     * @param until where to stop; before {@code state.evaluatedTo} nothing happens
     */
    public static Step step(Guard guard, GuardState state, CountRing ring, Instant until) {
        return switch (guard) {
            case LimitGuard limit -> step(limit, state, ring, until);
        };
    }

    private static Step step(LimitGuard guard, GuardState state, CountRing ring, Instant until) {
        if (until.isBefore(state.evaluatedTo())) return new Step(state, List.of());
        var transitions = new ArrayList<Transition>();
        var now = judge(guard, state, ring, state.evaluatedTo(), transitions);
        for (var next = nextChange(guard, now, ring); !next.isAfter(until); next = nextChange(guard, now, ring)) {
            now = judge(guard, now, ring, next, transitions);
        }
        return new Step(now.evaluatedTo(until), List.copyOf(transitions));
    }

    private static Instant nextChange(LimitGuard guard, GuardState state, CountRing ring) {
        var at = state.evaluatedTo();
        return Stream.of(
                        ring.nextAfter(at),
                        guard.window().nextDrop(at, ring),
                        clearTimeUp(guard, state.calmSince(), at),
                        clearTimeUp(guard, state.clearSince(), at))
                .min(Instant::compareTo)
                .orElseThrow();
    }

    private static Instant clearTimeUp(LimitGuard guard, @Nullable Instant since, Instant after) {
        if (since == null) return Instant.MAX;
        var up = since.plus(guard.clearing().time());
        return up.isAfter(after) ? up : Instant.MAX;
    }

    private static GuardState judge(
            LimitGuard guard, GuardState state, CountRing ring, Instant at, List<Transition> transitions) {
        double value = ring.countBetween(guard.window().openStart(at), at);
        var level = state.level();
        var breached = guard.limits().breachedBy(value).orElse(null);

        if (breached != null && (level == null || breached.worseThan(level))) {
            var raisedAt = level == null ? at : state.raisedAt();
            double worst = Math.max(value, state.worst());
            var kind = level == null ? Transition.Kind.RAISED : Transition.Kind.ROSE;
            transitions.add(new Transition(kind, at, breached, value, worst));
            return new GuardState(at, breached, raisedAt, null, null, value, worst);
        }
        if (level == null) return new GuardState(at, null, null, null, null, value, 0);

        double worst = Math.max(value, state.worst());
        if (holds(guard, level, value)) return new GuardState(at, level, state.raisedAt(), null, null, value, worst);

        var calmSince = state.calmSince() == null ? at : state.calmSince();
        var clearSince = heldByAny(guard, value) ? null : state.clearSince() == null ? at : state.clearSince();
        if (clearSince != null && !at.isBefore(clearSince.plus(guard.clearing().time()))) {
            transitions.add(new Transition(Transition.Kind.CLEARED, at, null, value, worst));
            return new GuardState(at, null, null, null, null, value, 0);
        }
        if (level == Severity.CRITICAL
                && guard.limits().warning() != null
                && !at.isBefore(calmSince.plus(guard.clearing().time()))) {
            transitions.add(new Transition(Transition.Kind.EASED, at, Severity.WARNING, value, worst));
            return new GuardState(at, Severity.WARNING, state.raisedAt(), clearSince, clearSince, value, worst);
        }
        return new GuardState(at, level, state.raisedAt(), calmSince, clearSince, value, worst);
    }

    private static boolean heldByAny(LimitGuard guard, double value) {
        return holds(guard, Severity.WARNING, value) || holds(guard, Severity.CRITICAL, value);
    }

    /** Whether a value keeps an alert of this level up: above the clear line of its limit. */
    private static boolean holds(LimitGuard guard, Severity level, double value) {
        return guard.limits()
                .of(level)
                .filter(limit -> value > guard.clearing().line(limit))
                .isPresent();
    }
}
