package app.morvet.core.callouts;

import static app.morvet.core.callouts.CallOutRules.NIGHT;
import static app.morvet.core.callouts.CallOutRules.again;
import static app.morvet.core.callouts.CallOutRules.at;
import static app.morvet.core.callouts.CallOutRules.line;
import static app.morvet.core.callouts.CallOutRules.opened;
import static app.morvet.core.callouts.CallOutRules.team;
import static app.morvet.core.callouts.CallOutRules.when;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.callouts.Course.Call;
import app.morvet.core.callouts.Course.Next;
import app.morvet.core.callouts.Course.Reach;
import app.morvet.core.callouts.Course.Told;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

/** Who is told next of a case, until somebody has it. */
class CourseTest {
    /** The first line at once, the second after 10 min, then after 20 min more all of the team. */
    private static final CallOutRule RULE = opened(line(0, 0), line(1, 10), team(20));

    private static final List<List<String>> ALL = List.of(List.of("otso"), List.of("linnea"), List.of("team"));

    private static Told told(int step, String who, int minute) {
        return new Told(step, 0, who, at(minute), false);
    }

    private static Told cannot(int step, String who, int minute) {
        return new Told(step, 0, who, at(minute), true);
    }

    private static Next next(CallOutRule rule, List<List<String>> reach, List<Told> told, Standing standing, int now) {
        return Course.next(rule, NIGHT, standing, told, reach::get, at(now));
    }

    private static Next next(List<Told> told, int now) {
        return next(RULE, ALL, told, Standing.NEW, now);
    }

    private static Next calls(Call... calls) {
        return new Next(List.of(calls), null, false);
    }

    @Test
    void theFirstIsToldAtOnceAndEachNextAfterTheTimeOfTheOneBefore() {
        assertThat(next(List.of(), 0)).isEqualTo(calls(new Call(0, 0, "otso")));
        assertThat(next(List.of(told(0, "otso", 0)), 3)).isEqualTo(Next.look(at(10)));
        assertThat(next(List.of(told(0, "otso", 0)), 10)).isEqualTo(calls(new Call(1, 0, "linnea")));
        assertThat(next(List.of(told(0, "otso", 0), told(1, "linnea", 12)), 13)).isEqualTo(Next.look(at(32)));
    }

    @Test
    void whoCannotIsNotWaitedFor() {
        assertThat(next(List.of(cannot(0, "otso", 0)), 4)).isEqualTo(calls(new Call(1, 0, "linnea")));
        // Whoever was told after them still has their time.
        assertThat(next(List.of(cannot(0, "otso", 0), told(1, "linnea", 4)), 5)).isEqualTo(Next.look(at(24)));
    }

    /** A rule may begin later: what somebody takes within that time is told to nobody. */
    @Test
    void aFirstStepMayWait() {
        var later = opened(line(0, 5), line(1, 10));
        assertThat(next(later, ALL, List.of(), Standing.NEW, 2)).isEqualTo(Next.look(at(5)));
        assertThat(next(later, ALL, List.of(), Standing.NEW, 5)).isEqualTo(calls(new Call(0, 0, "otso")));
    }

    @Test
    void aStepWithNobodyTakesNoTime() {
        var noFirst = List.of(List.<String>of(), List.of("linnea"), List.of("team"));
        assertThat(next(RULE, noFirst, List.of(), Standing.NEW, 0)).isEqualTo(calls(new Call(1, 0, "linnea")));
        var noSecond = List.of(List.of("otso"), List.<String>of(), List.of("team"));
        assertThat(next(RULE, noSecond, List.of(told(0, "otso", 0)), Standing.NEW, 10))
                .isEqualTo(calls(new Call(2, 0, "team")));
    }

    /** One who is on duty in both lines is told once; whoever comes after them is told in time all the same. */
    @Test
    void nobodyIsToldTwice() {
        var alone = List.of(List.of("otso"), List.of("otso"), List.of("otso", "team"));
        assertThat(next(RULE, alone, List.of(told(0, "otso", 0)), Standing.NEW, 10))
                .isEqualTo(calls(new Call(2, 0, "team")));
    }

    @Test
    void allOfAStepAreToldAtOnce() {
        var two = List.of(List.of("otso", "reija"), List.of("linnea"), List.of("team"));
        assertThat(next(RULE, two, List.of(), Standing.NEW, 0))
                .isEqualTo(calls(new Call(0, 0, "otso"), new Call(0, 0, "reija")));
        // One of the two cannot: the other has their time.
        assertThat(next(RULE, two, List.of(cannot(0, "otso", 0), told(0, "reija", 0)), Standing.NEW, 5))
                .isEqualTo(Next.look(at(10)));
    }

    @Test
    void noneIsToldOnceSomebodyHasIt() {
        for (var had : List.of(
                new Standing(true, false, false, false, null),
                new Standing(false, true, false, false, null),
                new Standing(false, false, true, false, null)))
            assertThat(next(RULE, ALL, List.of(), had, 0)).as("%s", had).isEqualTo(Next.look(null));
        var quiet = new Standing(false, false, false, false, at(60));
        assertThat(next(RULE, ALL, List.of(told(0, "otso", 0)), quiet, 30))
                .as("quiet is no owner: it is looked again")
                .isEqualTo(Next.look(at(60)));
        assertThat(next(RULE, ALL, List.of(told(0, "otso", 0)), quiet, 60)).isEqualTo(calls(new Call(1, 0, "linnea")));
    }

    @Test
    void thatNobodyTakesItIsPlainOnceTheLastHasHadTheirTime() {
        var all = List.of(told(0, "otso", 0), told(1, "linnea", 10), told(2, "team", 30));
        assertThat(next(all, 31)).isEqualTo(Next.look(at(45)));
        assertThat(next(all, 45)).isEqualTo(new Next(List.of(), null, true));
        var none = List.of(cannot(0, "otso", 0), cannot(1, "linnea", 1), cannot(2, "team", 2));
        assertThat(next(none, 3)).isEqualTo(new Next(List.of(), null, true));
    }

    @Test
    void whereNobodyCanBeReachedItIsPlainAtOnceAndLookedAgain() {
        var nobody = List.of(List.<String>of(), List.<String>of(), List.<String>of());
        assertThat(next(RULE, nobody, List.of(), Standing.NEW, 0)).isEqualTo(new Next(List.of(), at(15), true));
        // Meanwhile somebody is on duty.
        assertThat(next(RULE, ALL, List.of(), Standing.NEW, 15)).isEqualTo(calls(new Call(0, 0, "otso")));
    }

    @Test
    void allAreToldAgainUntilSomebodyHasItForADayAtMost() {
        var rule = again(opened(line(0, 0), line(1, 10)), 20);
        var told = new ArrayList<>(List.of(cannot(0, "otso", 0), told(1, "linnea", 10)));
        assertThat(next(rule, ALL, told, Standing.NEW, 29)).isEqualTo(new Next(List.of(), at(30), false));
        assertThat(next(rule, ALL, told, Standing.NEW, 30)).isEqualTo(calls(new Call(1, 1, "linnea")));
        told.add(new Told(1, 1, "linnea", at(30), false));
        assertThat(next(rule, ALL, told, Standing.NEW, 31))
                .as("they were told again and did not take it: that is said")
                .isEqualTo(new Next(List.of(), at(50), true));
        assertThat(next(rule, ALL, told, Standing.NEW, 50)).isEqualTo(calls(new Call(1, 2, "linnea")));
        assertThat(next(rule, ALL, told, Standing.NEW, 24 * 60)).isEqualTo(new Next(List.of(), null, true));
    }

    /** What came back to nobody is told again to people; it makes no second ticket. */
    @Test
    void nothingIsHandedOffAgain() {
        var desk = new Step(Duration.ofMinutes(10), new Whom.Desk(Whom.OWNER), List.of());
        var rule = again(opened(line(0, 0), desk), 20);
        var told = List.of(told(0, "otso", 0), told(1, "desk 3", 10));
        assertThat(next(rule, List.of(List.of("otso"), List.of("desk 3")), told, Standing.NEW, 30))
                .isEqualTo(calls(new Call(0, 1, "otso")));
    }

    @Test
    void whatWasReturnedIsToldUntilSomebodyDealsWithIt() {
        var rule = when(Happening.RETURNED, opened(line(0, 0), line(1, 10)));
        var returned = new Standing(false, true, false, true, null);
        assertThat(next(rule, ALL, List.of(), returned, 0)).isEqualTo(calls(new Call(0, 0, "otso")));
        assertThat(next(rule, ALL, List.of(), new Standing(false, true, false, false, null), 0))
                .isEqualTo(Next.look(null));
    }

    @Test
    void whatIsOverIsToldOnceAndWaitsForNobody() {
        var rule = when(Happening.OVER, opened(line(0, 0)));
        var over = new Standing(true, false, false, false, null);
        assertThat(next(rule, ALL, List.of(), over, 0)).isEqualTo(calls(new Call(0, 0, "otso")));
        assertThat(next(rule, ALL, List.of(told(0, "otso", 0)), over, 60)).isEqualTo(Next.look(null));
    }

    /**
     * Looked at when it says, and at any other time as well: the same are told at the same times, each once, in the order of the steps,
     * and nobody who can be reached is left out where nobody takes it.
     */
    @Property(tries = 200)
    void itDoesNotMatterHowOftenAnybodyLooks(
            @ForAll @Size(min = 3, max = 3) List<@IntRange(max = 7) Integer> reachable,
            @ForAll @Size(min = 3, max = 3) List<@IntRange(min = 1, max = 40) Integer> waits,
            @ForAll @IntRange(max = 255) int whoCannot,
            @ForAll long otherLooks) {
        var names = List.of("otso", "linnea", "reija");
        Reach reach = step -> {
            var who = new ArrayList<String>();
            for (int bit = 0; bit < 3; bit++) if ((reachable.get(step) >> bit & 1) == 1) who.add(names.get(bit));
            return who;
        };
        var rule = opened(line(0, waits.get(0)), line(1, waits.get(1)), line(2, waits.get(2)));
        var plain = run(rule, reach, whoCannot, null);
        assertThat(run(rule, reach, whoCannot, new Random(otherLooks))).isEqualTo(plain);
        assertThat(plain).extracting(Told::who).doesNotHaveDuplicates();
        assertThat(plain).extracting(Told::step).isSorted();
        var all = new HashSet<String>();
        for (int step = 0; step < 3; step++) all.addAll(reach.of(step));
        assertThat(plain).extracting(Told::who).containsExactlyInAnyOrderElementsOf(all);
    }

    /** Whoever cannot says so half a minute after they were told. */
    private static List<Told> run(
            CallOutRule rule, Reach reach, int whoCannot, @org.jspecify.annotations.Nullable Random looks) {
        var told = new ArrayList<Told>();
        for (int half = 0; half < 2 * 240; half++) {
            var now = NIGHT.plusSeconds(half * 30L);
            told.replaceAll(one -> one.at().plusSeconds(30).isAfter(now)
                    ? one
                    : new Told(
                            one.step(),
                            0,
                            one.who(),
                            one.at(),
                            (whoCannot >> (one.who().hashCode() & 7) & 1) == 1));
            for (int times = looks == null ? 1 : 1 + looks.nextInt(3); times > 0; times--) {
                var heard = new ArrayList<>(told);
                if (looks != null) Collections.shuffle(heard, looks);
                var next = Course.next(rule, NIGHT, Standing.NEW, heard, reach, now);
                assertThat(next.look() == null || next.look().isAfter(now)).isTrue();
                for (var call : next.calls()) told.add(new Told(call.step(), call.round(), call.who(), now, false));
            }
        }
        return told.stream()
                .map(one -> new Told(one.step(), one.round(), one.who(), one.at(), false))
                .sorted(java.util.Comparator.comparing(Told::at)
                        .thenComparing(Told::step)
                        .thenComparing(Told::who))
                .toList();
    }

    /** Where it is looked exactly when it says, none is told later than the rule has it. */
    @Property(tries = 200)
    void eachIsToldWhenTheRuleSaysSo(@ForAll @Size(min = 3, max = 3) List<@IntRange(min = 1, max = 40) Integer> waits) {
        var rule = opened(line(0, waits.get(0)), line(1, waits.get(1)), team(waits.get(2)));
        var told = new ArrayList<Told>();
        Instant now = NIGHT;
        for (int look = 0; look < 10; look++) {
            var next = Course.next(rule, NIGHT, Standing.NEW, told, ALL::get, now);
            for (var call : next.calls()) told.add(new Told(call.step(), call.round(), call.who(), now, false));
            if (next.calls().isEmpty() && next.look() == null) break;
            if (next.look() != null) now = next.look();
        }
        var due = NIGHT;
        for (int step = 0; step < 3; step++) {
            due = due.plus(Duration.ofMinutes(waits.get(step)));
            assertThat(told.get(step)).isEqualTo(new Told(step, 0, ALL.get(step).getFirst(), due, false));
        }
    }
}
