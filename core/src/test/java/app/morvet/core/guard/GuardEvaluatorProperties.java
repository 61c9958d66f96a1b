package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/** What must hold for any guard and any readings. Times are whole seconds over two days, and their midnight. */
class GuardEvaluatorProperties {
    private static final Instant START = Instant.parse("2026-11-23T10:00:00Z");
    private static final Instant END = START.plus(Duration.ofHours(40));

    record Case(LimitGuard guard, List<Integer> seconds, List<Integer> cuts) {}

    @Provide
    Arbitrary<Case> cases() {
        Arbitrary<CountWindow> windows = Arbitraries.oneOf(
                Arbitraries.just(new CountWindow.SinceMidnight(ZoneId.of("Europe/Helsinki"))),
                Arbitraries.integers()
                        .between(1, 600)
                        .map(minutes -> new CountWindow.Sliding(Duration.ofMinutes(minutes))));
        var guards = Combinators.combine(
                        windows,
                        Arbitraries.integers().between(0, 5),
                        Arbitraries.integers().between(1, 5),
                        Arbitraries.of(0.3, 0.5, 0.9, 1.0),
                        Arbitraries.integers().between(0, 90))
                .as((window, warning, more, margin, calm) -> new LimitGuard(
                        window, Limits.of(warning, warning + more), new Clearing(margin, Duration.ofMinutes(calm))));
        var seconds = Arbitraries.integers()
                .between(1, (int) Duration.between(START, END).toSeconds())
                .list()
                .ofMaxSize(40);
        return Combinators.combine(guards, seconds, seconds).as(Case::new);
    }

    private static CountRing ring(List<Integer> seconds) {
        var ring = new CountRing();
        seconds.forEach(second -> ring.add(START.plusSeconds(second), 1));
        return ring;
    }

    @Property(tries = 500)
    void howTheReadingsAreCutIntoBatchesDoesNotChangeTheTransitions(@ForAll("cases") Case given) {
        var whole = GuardEvaluator.step(given.guard(), GuardState.startingAt(START), ring(given.seconds()), END);

        // Live: the readings come in order, a batch at a time, and nothing but the small state is kept between batches.
        var state = GuardState.startingAt(START);
        var told = new ArrayList<Transition>();
        var untils = new TreeSet<Instant>();
        given.cuts().forEach(cut -> untils.add(START.plusSeconds(cut)));
        untils.add(END);
        for (var until : untils) {
            var soFar = given.seconds().stream()
                    .filter(second -> !START.plusSeconds(second).isAfter(until))
                    .toList();
            var step = GuardEvaluator.step(given.guard(), state, ring(soFar), until);
            told.addAll(step.transitions());
            state = step.state();
        }

        assertThat(told).isEqualTo(whole.transitions());
        assertThat(state).isEqualTo(whole.state());
    }

    @Property(tries = 300)
    void anAlertIsUpWheneverTheCountHasBreachedItsLimitAndOnlyAfterItHas(@ForAll("cases") Case given) {
        var step = GuardEvaluator.step(given.guard(), GuardState.startingAt(START), ring(given.seconds()), END);
        var times = given.seconds().stream().map(START::plusSeconds).sorted().toList();
        for (var at : times) {
            double count = naiveCount(given.guard().window(), times, at);
            var level = levelAt(step.transitions(), at);
            given.guard().limits().breachedBy(count).ifPresent(breached -> assertThat(level)
                    .as("level at %s with a count of %s", at, count)
                    .isNotNull()
                    .isGreaterThanOrEqualTo(breached));
        }
        for (var transition : step.transitions()) {
            assertThat(transition.value()).isEqualTo(naiveCount(given.guard().window(), times, transition.at()));
        }
    }

    @Property(tries = 300)
    void transitionsAlternateSensibly(@ForAll("cases") Case given) {
        Severity level = null;
        for (var transition : GuardEvaluator.step(
                        given.guard(), GuardState.startingAt(START), ring(given.seconds()), END)
                .transitions()) {
            switch (transition.kind()) {
                case RAISED -> assertThat(level).isNull();
                case ROSE -> assertThat(level).isEqualTo(Severity.WARNING);
                case EASED -> assertThat(level).isEqualTo(Severity.CRITICAL);
                case CLEARED -> assertThat(level).isNotNull();
            }
            level = transition.level();
        }
    }

    /** An oracle that looks at every reading. */
    private static double naiveCount(CountWindow window, List<Instant> times, Instant at) {
        return times.stream()
                .filter(time -> !time.isAfter(at))
                .filter(time -> switch (window) {
                    case CountWindow.Sliding(var length) ->
                        Duration.between(time, at).compareTo(length) < 0;
                    case CountWindow.SinceMidnight(var zone) ->
                        time.atZone(zone).toLocalDate().equals(at.atZone(zone).toLocalDate());
                })
                .count();
    }

    private static Severity levelAt(List<Transition> transitions, Instant at) {
        Severity level = null;
        for (var transition : transitions) if (!transition.at().isAfter(at)) level = transition.level();
        return level;
    }
}
