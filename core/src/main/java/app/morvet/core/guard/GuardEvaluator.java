package app.morvet.core.guard;

import app.morvet.core.alert.Transition;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Sort;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Judges a guard on one series. A pure function of (guard, state, readings, until): it reads no clock and no store, and
 * live evaluation and replay both come through here.
 *
 * <p>It does not sample. It walks from one instant at which the value can change to the next (a reading comes in, a
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
     * @param answers     how the guard's answer to combinations changed meanwhile
     */
    public record Step(GuardState state, List<Transition> transitions, Answers answers) {}

    /**
     * What a guard answers to a combination over a stretch of time.
     *
     * @param before  at its beginning
     * @param times   microseconds, ascending
     * @param changes to what it changed at each of them
     */
    public record Answers(Truth before, List<Long> times, List<Truth> changes) {
        public static final Answers UNKNOWN = new Answers(Truth.UNKNOWN, List.of(), List.of());
        static final Answers FALSE = new Answers(Truth.FALSE, List.of(), List.of());

        /**
         * What a guard says of a component over which it stands with several series, such as the volumes of a host: it holds
         * where it holds for any of them. With none it is not known.
         */
        public static Answers any(List<Answers> some) {
            if (some.size() == 1) return some.getFirst();
            if (some.isEmpty()) return UNKNOWN;
            var times = some.stream()
                    .flatMap(one -> one.times().stream())
                    .sorted()
                    .distinct()
                    .toList();
            return new Answers(
                    or(some.stream().map(Answers::before)),
                    times,
                    times.stream()
                            .map(at -> or(some.stream().map(one -> one.at(at))))
                            .toList());
        }

        private static Truth or(Stream<Truth> some) {
            return some.reduce(Truth.FALSE, Truth::or);
        }

        private Truth at(long micros) {
            var truth = before;
            for (int i = 0; i < times.size() && times.get(i) <= micros; i++) truth = changes.get(i);
            return truth;
        }
    }

    /**
     * Judges everything after {@code state.evaluatedTo} up to and at {@code until}.
     *
     * @param until where to stop; before {@code state.evaluatedTo} nothing happens
     * @throws IllegalArgumentException for a combination; see {@link #combine}
     */
    public static Step step(Guard guard, GuardState state, Heard heard, Instant until) {
        if (until.isBefore(state.evaluatedTo())) return new Step(state, List.of(), standing(state));
        return judge(guard, state, Measuring.course(guard, heard, state.evaluatedTo(), until), until);
    }

    /**
     * The same as {@link #step} where a glance at the readings shows that nothing happens, which is most of the time; it
     * copies none of them.
     *
     * @param ring the readings of the series, as far back as the guard's reach and one more
     * @return null where a glance is not enough
     */
    public static @Nullable Step glance(Guard guard, GuardState state, ReadingRing ring, Sort sort, Instant until) {
        if (until.isBefore(state.evaluatedTo())) return null;
        var calm = Calm.of(guard, state, sort, until);
        var still = calm == null ? null : ring.read(calm);
        return still == null ? null : new Step(still, List.of(), Answers.FALSE);
    }

    /**
     * Judges a combination from what its members answered meanwhile.
     *
     * @param members in the order of the guard's members, each from {@code state.evaluatedTo} to {@code until}
     */
    public static Step combine(CombinationGuard guard, GuardState state, List<Answers> members, Instant until) {
        if (until.isBefore(state.evaluatedTo())) return new Step(state, List.of(), standing(state));
        return judge(guard, state, course(guard, members, state.evaluatedTo(), until), until);
    }

    /** What a combination measures: 1, 0, or nothing known. */
    static Course course(CombinationGuard guard, List<Answers> members, Instant from, Instant to) {
        long start = Micros.of(from);
        long end = Micros.of(to);
        var instants = new java.util.TreeSet<Long>();
        instants.add(start);
        for (var member : members) for (long at : member.times()) if (at > start && at <= end) instants.add(at);
        var course = new Course(instants.size());
        for (long at : instants) {
            var truth = guard.expression().of(index -> members.get(index).at(at));
            course.add(
                    at,
                    truth == Truth.UNKNOWN ? Double.NaN : truth == Truth.TRUE ? 1 : 0,
                    truth == Truth.UNKNOWN ? Course.Known.NO : Course.Known.YES);
        }
        return Measuring.hours(guard.terms().hours(), course, start, end);
    }

    /** Judges a course that was measured before. */
    static Step judge(Guard guard, GuardState state, Course course, Instant until) {
        var judge = new Judge(guard, state);
        judge.run(course, until);
        var answers = judge.answers();
        return new Step(
                judge.state(),
                judge.transitions(),
                new Answers(
                        state.truth(),
                        answers.stream().map(one -> Micros.of(one.at())).toList(),
                        answers.stream().map(Judge.Answer::truth).toList()));
    }

    private static Answers standing(GuardState state) {
        return new Answers(state.truth(), List.of(), List.of());
    }
}
