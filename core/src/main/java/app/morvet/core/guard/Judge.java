package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Holds a course against limits: when an alert is raised, rises, eases, flaps and clears. Walks from point to point, and
 * between them from one end of a clear time to the next, so that a transition bears the very instant at which it became
 * true.
 */
final class Judge {
    /** When a guard's answer to a combination changed. */
    record Answer(Instant at, Truth truth) {}

    private final Limits limits;
    private final Terms terms;
    private final List<Transition> transitions = new ArrayList<>();
    private final List<Answer> answers = new ArrayList<>();
    private GuardState state;

    private double value = Double.NaN;

    /** The worst value of points that were passed over, not yet in the state; NaN where there are none. */
    private double worst = Double.NaN;

    private Course.Known known = Course.Known.NO;
    private @Nullable Severity breached;
    private @Nullable Severity held;

    Judge(Guard guard, GuardState state) {
        this.limits = guard.limits();
        this.terms = guard.terms();
        this.state = state;
    }

    /** Judges a course that begins at the state's {@code evaluatedTo}, up to and at {@code until}. */
    void run(Course course, Instant until) {
        if (until.isBefore(state.evaluatedTo())) return;
        long end = app.morvet.core.readings.Micros.of(until);
        for (int i = 0; i < course.size() && course.micros(i) <= end; i++) {
            // Most points of a calm course change nothing; they are passed without making anything.
            if (nothingNew(course, i) || staysUp(course, i)) continue;
            tellWorst();
            var at = course.at(i);
            timersBefore(at);
            take(course, i);
            judge(at);
        }
        tellWorst();
        timersBefore(until);
        timerAt(until);
        if (state.evaluatedTo().isBefore(until)) state = state.evaluatedTo(until);
        if (state.level() == null && !same(state.value(), value)) state = fresh(until, state.raises());
    }

    private boolean nothingNew(Course course, int index) {
        if (state.level() != null || known != Course.Known.YES || course.known(index) != Course.Known.YES) return false;
        if (!state.known()) return false;
        value = course.value(index);
        return course.breached(index) < 0 ? limits.breachedBy(value) == null : course.breached(index) == 0;
    }

    /** An alert that is up, and neither rises nor begins to ease: only its worst value may be another. */
    private boolean staysUp(Course course, int index) {
        var level = state.level();
        if (level == null || known != Course.Known.YES || course.known(index) != Course.Known.YES) return false;
        if (!state.known() || state.calmSince() != null || state.clearSince() != null) return false;
        if (course.breached(index) >= 0) return false;
        double now = course.value(index);
        var breaches = limits.breachedBy(now);
        if (breaches == null || breaches.worseThan(level) || level.worseThan(breaches)) return false;
        value = now;
        worst = limits.worse(Double.isNaN(worst) ? state.worst() : worst, now);
        return true;
    }

    /** What was passed over while the alert stayed up is told before anything else happens. */
    private void tellWorst() {
        if (Double.isNaN(worst)) return;
        state = new GuardState(
                state.evaluatedTo(),
                true,
                state.level(),
                state.raisedAt(),
                null,
                null,
                value,
                worst,
                state.flaps(),
                state.raises());
        worst = Double.NaN;
    }

    GuardState state() {
        return state;
    }

    List<Transition> transitions() {
        return List.copyOf(transitions);
    }

    List<Answer> answers() {
        return answers;
    }

    private void take(Course course, int index) {
        value = course.value(index);
        known = course.known(index);
        breached = null;
        held = null;
        switch (known) {
            case YES -> {
                breached = course.breached(index) < 0 ? limits.breachedBy(value) : severity(course.breached(index));
                held = course.held(index) < 0
                        ? limits.heldBy(value, terms.clearing().margin())
                        : severity(course.held(index));
            }
            case SILENT -> {
                breached = terms.noData().meaning().severity();
                // What is silent is not calm: nothing that was raised eases meanwhile.
                held = breached == null ? null : Severity.CRITICAL;
            }
            case NO, OFF -> {
                // nothing to hold against a limit
            }
        }
    }

    private static @Nullable Severity severity(int level) {
        return level == 2 ? Severity.CRITICAL : level == 1 ? Severity.WARNING : null;
    }

    private void timersBefore(Instant end) {
        for (var due = nextTimer(); due.isBefore(end); due = nextTimer()) judge(due);
    }

    private void timerAt(Instant end) {
        if (nextTimer().equals(end)) judge(end);
    }

    /** The next end of a clear time after what has been judged. */
    private Instant nextTimer() {
        var calm = timer(state.calmSince());
        var clear = timer(state.clearSince());
        return calm.isBefore(clear) ? calm : clear;
    }

    private Instant timer(@Nullable Instant since) {
        if (since == null) return Instant.MAX;
        var up = since.plus(clearTime());
        return up.isAfter(state.evaluatedTo()) ? up : Instant.MAX;
    }

    /** An alert that flaps must be calm for as long as flapping is counted. */
    private Duration clearTime() {
        var damping = terms.damping();
        return state.flaps() && damping != null
                ? damping.within()
                : terms.clearing().time();
    }

    private void judge(Instant at) {
        var before = state.truth();
        state = judged(at);
        if (state.truth() != before) answers.add(new Answer(at, state.truth()));
    }

    private GuardState judged(Instant at) {
        var level = state.level();
        if (known == Course.Known.OFF) {
            if (level != null) clear(at, state.worst());
            return new GuardState(at, true, null, null, null, null, value, Double.NaN, false, List.of());
        }
        boolean silentAndSaysNothing =
                known == Course.Known.SILENT && terms.noData().meaning() == NoData.Meaning.NOTHING;
        if (known == Course.Known.NO || silentAndSaysNothing) {
            return new GuardState(
                    at,
                    false,
                    level,
                    state.raisedAt(),
                    null,
                    null,
                    value,
                    state.worst(),
                    state.flaps(),
                    state.raises());
        }
        double worst = limits.worse(state.worst(), value);
        if (breached != null && (level == null || breached.worseThan(level))) {
            return level == null ? raise(at, breached, value) : rise(at, breached, worst);
        }
        if (level == null) return fresh(at, state.raises());
        if (held != null && !level.worseThan(held)) {
            return up(at, level, null, null, worst);
        }
        var calmSince = state.calmSince() == null ? at : state.calmSince();
        var clearSince = held != null ? null : state.clearSince() == null ? at : state.clearSince();
        if (clearSince != null && !at.isBefore(clearSince.plus(clearTime()))) {
            clear(at, worst);
            return fresh(at, state.flaps() ? List.of() : state.raises());
        }
        var milder =
                held != null ? held : level == Severity.CRITICAL && limits.warning() != null ? Severity.WARNING : null;
        if (milder != null && level.worseThan(milder) && !at.isBefore(calmSince.plus(clearTime()))) {
            transitions.add(Transition.between(level, milder, at, value, worst));
            return up(at, milder, clearSince, clearSince, worst);
        }
        return up(at, level, calmSince, clearSince, worst);
    }

    private void clear(Instant at, double worst) {
        transitions.add(Transition.between(state.level(), null, at, value, worst));
    }

    private GuardState fresh(Instant at, List<Instant> raises) {
        boolean isKnown = known == Course.Known.YES || known == Course.Known.SILENT || known == Course.Known.OFF;
        return new GuardState(at, isKnown, null, null, null, null, value, Double.NaN, false, raises);
    }

    private GuardState raise(Instant at, Severity level, double worst) {
        transitions.add(Transition.between(null, level, at, value, worst));
        var damping = terms.damping();
        if (damping == null) return new GuardState(at, true, level, at, null, null, value, worst, false, List.of());
        var raises = new ArrayList<Instant>();
        for (var one : state.raises()) if (one.plus(damping.within()).isAfter(at)) raises.add(one);
        raises.add(at);
        boolean flaps = raises.size() >= damping.times();
        if (flaps) transitions.add(new Transition(Transition.Kind.FLAPS, at, level, value, worst));
        return new GuardState(at, true, level, at, null, null, value, worst, flaps, raises);
    }

    private GuardState rise(Instant at, Severity level, double worst) {
        transitions.add(Transition.between(state.level(), level, at, value, worst));
        return new GuardState(
                at, true, level, state.raisedAt(), null, null, value, worst, state.flaps(), state.raises());
    }

    private GuardState up(
            Instant at, Severity level, @Nullable Instant calmSince, @Nullable Instant clearSince, double worst) {
        return new GuardState(
                at, true, level, state.raisedAt(), calmSince, clearSince, value, worst, state.flaps(), state.raises());
    }

    private static boolean same(double one, double other) {
        return Double.compare(one, other) == 0;
    }
}
