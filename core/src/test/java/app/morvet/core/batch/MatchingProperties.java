package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/** Which run belongs to which start: what must hold whatever ran. */
class MatchingProperties {
    private static final Instant BEGIN = Instant.parse("2026-03-18T00:00:00Z");

    record Day(List<Instant> starts, List<Run> runs) {}

    @Provide
    Arbitrary<Day> days() {
        var starts = Arbitraries.integers().between(1, 400).set().ofMinSize(1).ofMaxSize(8);
        var run = Combinators.combine(
                        Arbitraries.integers().between(-20, 500),
                        Arbitraries.integers().between(0, 60),
                        Arbitraries.of(Run.End.values()),
                        Arbitraries.of(Run.Trigger.values()))
                .as((at, length, end, trigger) ->
                        new Run(0, minute(at), minute(at + length), end, null, trigger, null, null, null, null));
        return Combinators.combine(starts, run.list().ofMaxSize(10)).as((some, runs) -> {
            var named = new ArrayList<Run>();
            for (int i = 0; i < runs.size(); i++) {
                var one = runs.get(i);
                named.add(
                        new Run(i, one.started(), one.ended(), one.end(), null, one.trigger(), null, null, null, null));
            }
            return new Day(
                    some.stream().sorted().map(MatchingProperties::minute).toList(), named);
        });
    }

    private static Instant minute(int minute) {
        return BEGIN.plus(Duration.ofMinutes(minute));
    }

    private static Matching.Matched match(Day day, List<Run> runs) {
        return Matching.of(day.starts(), day.starts(), runs);
    }

    @Property
    void everyRunHasOnePlace(@ForAll("days") Day day) {
        var matched = match(day, day.runs());
        var placed = new ArrayList<Run>(matched.strays());
        matched.runs().forEach(placed::addAll);
        assertThat(placed).containsExactlyInAnyOrderElementsOf(day.runs());
        assertThat(new HashSet<>(placed)).hasSameSizeAs(placed);
    }

    @Property
    void theOrderInWhichRunsAreToldDoesNotMatter(@ForAll("days") Day day, @ForAll Random random) {
        var shuffled = new ArrayList<>(day.runs());
        Collections.shuffle(shuffled, random);
        assertThat(match(day, shuffled)).isEqualTo(match(day, day.runs()));
    }

    @Property
    void noRunBeginsBeforeItsStartByMoreThanTwoMinutes(@ForAll("days") Day day) {
        var matched = match(day, day.runs());
        for (int i = 0; i < day.starts().size(); i++)
            for (var run : matched.runs().get(i))
                assertThat(run.at()).isAfterOrEqualTo(day.starts().get(i).minus(Matching.EARLY));
    }

    @Property
    void aFurtherAttemptFollowsOneThatWasNotDone(@ForAll("days") Day day) {
        for (var attempts : match(day, day.runs()).runs())
            for (int i = 1; i < attempts.size(); i++)
                assertThat(attempts.get(i - 1).done()).isFalse();
    }

    /** Whoever runs each start once, a little late, has each in its place; and so after an outage, one after the other. */
    @Property
    void runsInOrderBelongToStartsInOrder(@ForAll("days") Day day, @ForAll Random random) {
        boolean outage = random.nextBoolean();
        var last = day.starts().getLast();
        var runs = new ArrayList<Run>();
        for (int i = 0; i < day.starts().size(); i++) {
            var at = outage ? last.plusSeconds(60L * (i + 1)) : day.starts().get(i);
            runs.add(new Run(i, at, at.plusSeconds(20), Run.End.FINE, null, Run.Trigger.SCHEDULE, 0, null, null, null));
        }
        var matched = match(day, runs);
        assertThat(matched.strays()).isEmpty();
        for (int i = 0; i < runs.size(); i++) assertThat(matched.runs().get(i)).containsExactly(runs.get(i));
    }

    @Property
    void aSchedulerThatNamesTheStartIsBelieved(@ForAll("days") Day day, @ForAll Random random) {
        int start = random.nextInt(day.starts().size());
        var meant = day.starts().get(start);
        var at = meant.plus(Duration.ofHours(20));
        var run = new Run(99, at, null, null, meant, Run.Trigger.SCHEDULE, null, null, null, null);
        var others = day.runs().stream()
                .filter(one -> one.at().isBefore(meant.minus(Duration.ofDays(2))))
                .toList();
        var all = new ArrayList<>(others);
        all.add(run);
        assertThat(match(day, all).runs().get(start)).containsExactly(run);
    }

    @Property
    void whatIsStartedByHandFillsNoEarlierGap(@ForAll("days") Day day) {
        var at = day.starts().getLast().plusSeconds(60);
        var own = new Run(1, at, at.plusSeconds(5), Run.End.FINE, null, Run.Trigger.SCHEDULE, 0, null, null, null);
        var byHand = new Run(
                2,
                at.plusSeconds(60),
                at.plusSeconds(65),
                Run.End.FINE,
                null,
                Run.Trigger.BY_HAND,
                0,
                null,
                null,
                null);
        assertThat(match(day, List.of(own, byHand)).strays()).containsExactly(byHand);
    }
}
