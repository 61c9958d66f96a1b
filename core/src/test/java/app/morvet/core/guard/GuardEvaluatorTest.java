package app.morvet.core.guard;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static app.morvet.core.alert.Transition.Kind.CLEARED;
import static app.morvet.core.alert.Transition.Kind.EASED;
import static app.morvet.core.alert.Transition.Kind.RAISED;
import static app.morvet.core.alert.Transition.Kind.ROSE;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import app.morvet.core.alert.Transition;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Sort;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.assertj.core.groups.Tuple;
import org.junit.jupiter.api.Test;

class GuardEvaluatorTest {
    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");
    /** 06:00 in Helsinki. */
    private static final Instant SIX = Instant.parse("2026-11-24T04:00:00Z");

    private static final Amount SUM = Amount.of(Amount.Fold.SUM);

    private static final LimitGuard SINCE_MIDNIGHT = new LimitGuard(
            new Window.SinceMidnight(HELSINKI), SUM, Limits.above(10, 100), Terms.clearing(0.9, Duration.ofMinutes(5)));
    private static final LimitGuard TEN_MINUTES = new LimitGuard(
            new Window.Sliding(Duration.ofMinutes(10)),
            SUM,
            Limits.above(2, 5),
            Terms.clearing(0.5, Duration.ofMinutes(3)));

    private static Instant at(int minutes) {
        return SIX.plusSeconds(minutes * 60L);
    }

    private static ReadingRing failures(int... minutes) {
        var ring = new ReadingRing();
        for (int minute : minutes) ring.add(at(minute), 1);
        return ring;
    }

    private static Heard heard(ReadingRing ring) {
        return Heard.of(ring.all(), Sort.COUNT, Duration.ofMinutes(1));
    }

    private static List<Transition> run(LimitGuard guard, ReadingRing ring, Instant from, Instant until) {
        return GuardEvaluator.step(guard, GuardState.startingAt(from), heard(ring), until)
                .transitions();
    }

    private static Tuple is(Transition.Kind kind, Instant at, Object level, double value) {
        return tuple(kind, at, level, value);
    }

    private static org.assertj.core.api.AbstractListAssert<?, List<? extends Tuple>, Tuple, ?> told(
            List<Transition> transitions) {
        return assertThat(transitions)
                .extracting(Transition::kind, Transition::at, Transition::level, Transition::value);
    }

    @Test
    void theFailureThatCrossesTheLimitRaisesTheAlertAtItsOwnInstant() {
        told(run(TEN_MINUTES, failures(0, 1, 2), SIX.minusSeconds(1), at(3)))
                .containsExactly(is(RAISED, at(2), WARNING, 3));
    }

    @Test
    void reachingTheLimitIsNotYetCrossingIt() {
        assertThat(run(TEN_MINUTES, failures(0, 1), SIX.minusSeconds(1), at(3))).isEmpty();
    }

    @Test
    void moreFailuresRaiseItToCriticalOnce() {
        told(run(TEN_MINUTES, failures(0, 1, 2, 3, 4, 5, 6), SIX.minusSeconds(1), at(7)))
                .containsExactly(is(RAISED, at(2), WARNING, 3), is(ROSE, at(5), CRITICAL, 6));
    }

    @Test
    void aSlidingCountFallsAsReadingsLeaveItsWindowAndClearsAfterTheClearTime() {
        // 3 at minute 2; one leaves at 10, one at 11: then it is 1 = 50 % of 2, and stays so for three minutes.
        told(run(TEN_MINUTES, failures(0, 1, 2), SIX.minusSeconds(1), at(30)))
                .containsExactly(is(RAISED, at(2), WARNING, 3), is(CLEARED, at(14), null, 0));
    }

    @Test
    void aNewFailureWithinTheClearTimeStartsItAgain() {
        told(run(TEN_MINUTES, failures(0, 1, 2, 12), SIX.minusSeconds(1), at(40)))
                .containsExactly(is(RAISED, at(2), WARNING, 3), is(CLEARED, at(14), null, 1));
        told(run(TEN_MINUTES, failures(0, 1, 2, 11, 13), SIX.minusSeconds(1), at(40)))
                .containsExactly(is(RAISED, at(2), WARNING, 3), is(CLEARED, at(24), null, 0));
    }

    @Test
    void aCriticalAlertEasesToWarningWhileTheWarningLimitHolds() {
        var guard = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(10)),
                SUM,
                Limits.above(1, 4),
                Terms.clearing(0.5, Duration.ofMinutes(2)));
        // five in the first minute, then two every ten minutes
        told(run(guard, failures(0, 0, 0, 0, 0, 9, 9, 18, 18), SIX.minusSeconds(1), at(22)))
                .containsExactly(is(RAISED, at(0), CRITICAL, 5), is(EASED, at(12), WARNING, 2));
    }

    @Test
    void whatIsBackUnderEveryLimitClearsWithoutEasingFirst() {
        told(run(TEN_MINUTES, failures(0, 0, 0, 0, 0, 0), SIX.minusSeconds(1), at(60)))
                .containsExactly(is(RAISED, at(0), CRITICAL, 6), is(CLEARED, at(13), null, 0));
    }

    @Test
    void theCountSinceMidnightStartsAgainAtLocalMidnight() {
        var ring = new ReadingRing();
        for (int i = 0; i < 11; i++) ring.add(SIX.plusSeconds(i), 1);
        var midnight = Instant.parse("2026-11-24T22:00:00Z");
        told(run(SINCE_MIDNIGHT, ring, SIX.minusSeconds(1), midnight.plusSeconds(3600)))
                .containsExactly(
                        is(RAISED, SIX.plusSeconds(10), WARNING, 11), is(CLEARED, midnight.plusSeconds(300), null, 0));
    }

    @Test
    void aReadingAtMidnightItselfBelongsToTheNewDay() {
        var midnight = Instant.parse("2026-11-24T22:00:00Z");
        var ring = new ReadingRing();
        ring.add(midnight, 11);
        told(run(SINCE_MIDNIGHT, ring, SIX, midnight.plusSeconds(1)))
                .containsExactly(is(RAISED, midnight, WARNING, 11));
    }

    @Test
    void theDayOnWhichTheClocksGoBackIsTwentyFiveHoursLong() {
        var start = Instant.parse("2026-10-24T21:00:00Z"); // midnight of 25 October in Helsinki
        var ring = new ReadingRing();
        ring.add(start, 11);
        told(run(SINCE_MIDNIGHT, ring, start.minusSeconds(1), start.plusSeconds(30 * 3600)))
                .containsExactly(
                        is(RAISED, start, WARNING, 11),
                        is(CLEARED, start.plus(Duration.ofHours(25)).plusSeconds(300), null, 0));
    }

    @Test
    void aLimitOfNoneAtAllCanClear() {
        var guard = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(1)),
                SUM,
                new Limits(null, Limit.above(0)),
                Terms.clearing(0.9, Duration.ZERO));
        told(run(guard, failures(0), SIX.minusSeconds(1), at(5)))
                .containsExactly(is(RAISED, at(0), CRITICAL, 1), is(CLEARED, at(1), null, 0));
    }

    @Test
    void aLateReadingCountsFromWhereTheEvaluationStands() {
        var ring = failures(0, 1);
        var before = GuardEvaluator.step(TEN_MINUTES, GuardState.startingAt(SIX.minusSeconds(1)), heard(ring), at(5));
        ring.add(at(3), 1);
        var after = GuardEvaluator.step(TEN_MINUTES, before.state(), heard(ring), at(6));
        told(after.transitions()).containsExactly(is(RAISED, at(5), WARNING, 3));
    }

    @Test
    void evaluatingBackwardsDoesNothing() {
        var state = GuardState.startingAt(at(5));
        var step = GuardEvaluator.step(TEN_MINUTES, state, heard(failures(0, 1, 2)), at(4));
        assertThat(step.state()).isEqualTo(state);
        assertThat(step.transitions()).isEmpty();
    }

    /** In Helsinki the clock goes from 03:00 to 04:00 at 01:00Z; hours from 03:30 then begin with the change. */
    @Test
    void hoursThatBeginInTheMissingHourBeginWhereTheClockIsPutForwardHoweverItIsCut() {
        var change = Instant.parse("2026-03-29T01:00:00Z");
        var hours = new Hours(
                java.util.EnumSet.allOf(java.time.DayOfWeek.class),
                java.time.LocalTime.of(3, 30),
                java.time.LocalTime.of(5, 0),
                HELSINKI);
        var guard = new LimitGuard(
                new Window.Sliding(Duration.ofHours(4)),
                Amount.of(Amount.Fold.LAST),
                new Limits(Limit.above(10), null),
                new Terms(new Clearing(0.85, Duration.ZERO), NoData.NOTHING, Grouping.EACH_SUBJECT, hours, null));
        var ring = new ReadingRing();
        for (int i = -60; i < 180; i += 10) ring.add(change.plusSeconds(i * 60L), 50);
        var from = change.minusSeconds(3600);
        var until = change.plusSeconds(3 * 3600);
        assertThat(run(guard, ring, from, until))
                .extracting(Transition::kind, Transition::at)
                .containsExactly(tuple(RAISED, change), tuple(CLEARED, change.plusSeconds(3600)));
        for (int minute = 1; minute < 240; minute += 7) {
            var cut = from.plusSeconds(minute * 60L);
            var first = GuardEvaluator.step(guard, GuardState.startingAt(from), heard(ring), cut);
            var rest = GuardEvaluator.step(guard, first.state(), heard(ring), until);
            assertThat(java.util.stream.Stream.concat(first.transitions().stream(), rest.transitions().stream()))
                    .as("cut at " + cut)
                    .isEqualTo(run(guard, ring, from, until));
        }
    }

    @Test
    void oneMessageJustAfterMidnightIsOneAMinute() {
        var midnight = Instant.parse("2026-11-23T22:00:00Z");
        var guard = new LimitGuard(
                new Window.SinceMidnight(HELSINKI),
                Amount.of(Amount.Fold.RATE),
                Limits.above(12, 80),
                Terms.clearing(0.85, Duration.ZERO));
        var ring = new ReadingRing();
        ring.add(midnight.plusMillis(1), 1);
        var heard = Heard.of(ring.all(), Sort.COUNT, Duration.ofMinutes(1));
        var course = Measuring.course(guard, heard, midnight.plusSeconds(5), midnight.plusSeconds(300));
        assertThat(course.value(0)).isEqualTo(1);
        ring.add(midnight.plusSeconds(120), 3);
        heard = Heard.of(ring.all(), Sort.COUNT, Duration.ofMinutes(1));
        assertThat(Measuring.course(guard, heard, midnight.plusSeconds(300), midnight.plusSeconds(300))
                        .value(0))
                .isCloseTo(2, org.assertj.core.data.Offset.offset(1e-6));
    }

    /** What growth began with counts while it is less old than the window is long; at that very instant it is known no more. */
    @Test
    void growthIsKnownUntilWhatItBeganWithIsTooOld() {
        var guard = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(20)),
                Amount.of(Amount.Fold.CHANGE),
                Limits.above(3, 9),
                Terms.clearing(0.85, Duration.ZERO));
        var ring = new ReadingRing();
        ring.add(SIX, 0);
        ring.add(SIX.plus(Duration.ofMinutes(25)), 2);
        var heard = Heard.of(ring.all(), Sort.GAUGE, Duration.ofMinutes(1));
        var from = GuardState.startingAt(SIX);
        var end = SIX.plus(Duration.ofMinutes(44));
        var whole = GuardEvaluator.step(guard, from, heard, end).state();
        assertThat(whole.known()).isFalse();
        for (int minute : new int[] {26, 39, 40, 41}) {
            var cut = GuardEvaluator.step(guard, from, heard, SIX.plus(Duration.ofMinutes(minute)))
                    .state();
            assertThat(cut.known()).as("after %d min", minute).isEqualTo(minute < 40);
            assertThat(GuardEvaluator.step(guard, cut, heard, end).state()).isEqualTo(whole);
        }
    }
}
