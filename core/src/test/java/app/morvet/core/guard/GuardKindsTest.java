package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Past;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.Sort;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.function.IntToDoubleFunction;
import org.junit.jupiter.api.Test;

/** What each kind of guard does, told by small stories. */
class GuardKindsTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final Instant START = Instant.parse("2026-11-24T04:00:00Z");
    private static final Duration MINUTE = Duration.ofMinutes(1);

    private static Instant at(int minutes) {
        return START.plusSeconds(minutes * 60L);
    }

    /** A reading a minute. */
    private static Readings readings(int minutes, IntToDoubleFunction values) {
        var ring = new ReadingRing();
        for (int i = 0; i < minutes; i++) ring.add(at(i), values.applyAsDouble(i));
        return ring.all();
    }

    private static List<String> told(Guard guard, Heard heard, int until) {
        return GuardEvaluator.step(guard, GuardState.startingAt(START.minusSeconds(1)), heard, at(until))
                .transitions()
                .stream()
                .map(GuardKindsTest::words)
                .toList();
    }

    private static String words(Transition one) {
        return "%s %d %s"
                .formatted(one.kind(), Duration.between(START, one.at()).toMinutes(), one.level());
    }

    private static LimitGuard limit(int minutes, Amount amount, Limits limits) {
        return new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(minutes)), amount, limits, Terms.clearing(1, Duration.ZERO));
    }

    @Test
    void aShareOfReadingsMustBreachTheLimit() {
        var heard = Heard.of(readings(30, i -> i >= 10 && i < 20 ? 95 : 50), Sort.GAUGE, MINUTE);
        assertThat(told(limit(5, Amount.each(1), Limits.above(90, 99)), heard, 29))
                .containsExactly("RAISED 14 WARNING", "CLEARED 20 null");
        assertThat(told(limit(5, Amount.each(0), Limits.above(90, 99)), heard, 29))
                .containsExactly("RAISED 10 WARNING", "CLEARED 24 null");
        assertThat(told(limit(5, Amount.each(0.6), new Limits(Limit.outside(40, 90), null)), heard, 29))
                .containsExactly("RAISED 12 WARNING", "CLEARED 22 null");
    }

    @Test
    void aCounterThatIsRestartedHasNotGoneBackwards() {
        var heard = Heard.of(readings(20, i -> i < 10 ? 100 + i * 3 : (i - 10) * 3), Sort.COUNTER, MINUTE);
        var course =
                Measuring.course(limit(5, Amount.of(Amount.Fold.CHANGE), Limits.above(100, 200)), heard, START, at(19));
        // At the restart itself the first total of the new life (0) is what has come since.
        assertThat(course.valueAt(at(12))).isEqualTo(12);
        assertThat(course.valueAt(at(18))).isEqualTo(15);
        var rate =
                Measuring.course(limit(5, Amount.of(Amount.Fold.RATE), Limits.above(100, 200)), heard, START, at(19));
        assertThat(rate.valueAt(at(18))).isEqualTo(3);
    }

    @Test
    void aShareOfAMeasuredCeilingFollowsBoth() {
        var used = readings(20, i -> 80);
        var owned = readings(20, i -> i < 10 ? 100 : 85);
        var guard = limit(
                2, Amount.of(Amount.Fold.LAST).shareOf(new Amount.Ceiling.Measured("owned")), Limits.above(90, 99));
        var heard = new Heard(used, owned, Past.NONE, Sort.GAUGE, MINUTE);
        assertThat(told(guard, heard, 15)).containsExactly("RAISED 10 WARNING");
    }

    @Test
    void silenceIsCountedInPromisedReadings() {
        var guard = new SilenceGuard(Limits.above(2, 9), Terms.clearing(1, Duration.ZERO));
        var ring = new ReadingRing();
        for (int i = 0; i <= 5; i++) ring.add(at(i), 1);
        ring.add(at(20), 1);
        // The third promised reading after minute 5 is half a cadence late at 8:30.
        assertThat(told(guard, Heard.of(ring.all(), Sort.GAUGE, MINUTE), 22))
                .containsExactly("RAISED 8 WARNING", "ROSE 15 CRITICAL", "CLEARED 20 null");
    }

    @Test
    void silenceMeansWhatTheGuardSaysAndUnknownChangesNothing() {
        var heard = Heard.of(readings(5, i -> 95), Sort.GAUGE, MINUTE);
        var guard = limit(5, Amount.of(Amount.Fold.LAST), Limits.above(90, 99));
        assertThat(told(guard, heard, 60)).containsExactly("RAISED 0 WARNING");
        var calm = new LimitGuard(
                guard.window(),
                guard.amount(),
                guard.limits(),
                guard.terms().withNoData(new NoData(Duration.ofMinutes(20), NoData.Meaning.CALM)));
        assertThat(told(calm, heard, 60)).containsExactly("RAISED 0 WARNING", "CLEARED 24 null");
        var critical = new LimitGuard(
                guard.window(),
                guard.amount(),
                guard.limits(),
                guard.terms().withNoData(new NoData(Duration.ofMinutes(20), NoData.Meaning.CRITICAL)));
        assertThat(told(critical, heard, 60)).containsExactly("RAISED 0 WARNING", "ROSE 24 CRITICAL");
    }

    @Test
    void anAlertThatComesAndGoesIsOneAlertThatSaysSo() {
        var guard = limit(1, Amount.of(Amount.Fold.LAST), Limits.above(90, 99));
        var damped = new LimitGuard(
                guard.window(),
                guard.amount(),
                guard.limits(),
                guard.terms().withDamping(new Damping(3, Duration.ofMinutes(30))));
        var heard = Heard.of(readings(90, i -> i < 40 && i % 4 == 0 ? 95 : 50), Sort.GAUGE, MINUTE);
        assertThat(told(guard, heard, 89)).hasSize(20);
        assertThat(told(damped, heard, 89))
                .containsExactly(
                        "RAISED 0 WARNING",
                        "CLEARED 1 null",
                        "RAISED 4 WARNING",
                        "CLEARED 5 null",
                        "RAISED 8 WARNING",
                        "FLAPS 8 WARNING",
                        "CLEARED 67 null");
    }

    @Test
    void aStraightTrendIsToldWithItsInstantAndItsUncertainty() {
        var past = readings(
                2 * 24 * 60,
                i -> 60 + i / 144.0 + i / 60 % 7 * 0.3 + (i % 10 == 0 ? 25 : 0)); // 10 a day, and wild points
        var guard = new TrendGuard(
                95,
                Side.ABOVE,
                Duration.ofDays(2),
                false,
                ZONE,
                Limits.below(72, 24),
                Terms.clearing(0.9, Duration.ZERO));
        var seen = Projection.of(past, at(2 * 24 * 60), guard);
        assertThat(seen).isNotNull();
        assertThat(seen.line().slope()).isCloseTo(10 / 24.0, org.assertj.core.data.Offset.offset(0.01));
        var crossing = seen.crossing(95, Side.ABOVE);
        assertThat(crossing.at()).isBetween(at(2 * 24 * 60 + 32 * 60), at(2 * 24 * 60 + 37 * 60));
        assertThat(crossing.early()).isBefore(crossing.at());
        assertThat(crossing.late()).isAfter(crossing.at());
        assertThat(seen.crossing(50, Side.BELOW).at()).isNull();
        assertThat(seen.crossing(70, Side.ABOVE).at()).isEqualTo(seen.seen());
    }

    @Test
    void aDailyRhythmIsNoTrendButItsPeakCrossesFirst() {
        IntToDoubleFunction day = i -> 50 + 20 * Math.sin(2 * Math.PI * i / 1440);
        var flat = new TrendGuard(
                95,
                Side.ABOVE,
                Duration.ofDays(7),
                true,
                ZONE,
                Limits.below(72, 24),
                Terms.clearing(0.9, Duration.ZERO));
        var seen = Projection.of(readings(7 * 1440, day), at(7 * 1440), flat);
        assertThat(seen.crossing(95, Side.ABOVE).at()).isNull();
        assertThat(seen.line().slope()).isCloseTo(0, org.assertj.core.data.Offset.offset(0.01));
        var rising =
                Projection.of(readings(7 * 1440, i -> day.applyAsDouble(i) + i / 288.0), at(7 * 1440), flat); // 5 a day
        // The line itself reaches 95 two days later than the daily peak does.
        assertThat(Duration.between(
                        rising.seen(), rising.crossing(110, Side.ABOVE).at()))
                .isBetween(Duration.ofHours(12), Duration.ofHours(40));
    }

    @Test
    void aBandIsLearnedFromTheSameHourAndPastTroubleDoesNotTeachIt() {
        int week = 7 * 24 * 60;
        IntToDoubleFunction usual = i -> (i / 60 % 24 < 12 ? 100 : 20) + i % 5;
        // The whole of the second week was trouble.
        var past = readings(
                4 * week + 600,
                i -> i >= week && i < 2 * week ? 900 : i >= 4 * week + 300 ? 60 : usual.applyAsDouble(i));
        var range = UsualRange.learn(past, UsualRange.hourOf(at(4 * week), ZONE), 4, ZONE);
        assertThat(range).isNotNull();
        assertThat(range.middle()).isBetween(100.0, 104.0);
        var guard = new BandGuard(
                Duration.ofMinutes(30),
                0.8,
                Side.BELOW,
                4,
                ZONE,
                Limits.above(3, 40),
                Terms.clearing(1, Duration.ZERO));
        var heard = new Heard(past, Readings.NONE, past, Sort.GAUGE, MINUTE);
        var step = GuardEvaluator.step(guard, GuardState.startingAt(at(4 * week)), heard, at(4 * week + 599));
        assertThat(step.transitions()).hasSize(1);
        assertThat(step.transitions().getFirst().at()).isEqualTo(at(4 * week + 323));
    }

    /** Three odd readings a week are no spread: the hours beside it say what is usual, or else the same hour of all days. */
    @Test
    void anHourOfWhichLittleWasHeardBorrowsFromItsNeighboursAndSaysSo() {
        int week = 7 * 24 * 60;
        IntToDoubleFunction odd =
                i -> i / 60 % 24 == 12 ? (i % 60 == 0 ? 3 : i % 60 == 1 ? -2 : 0.2) : 0.2 + i % 5 / 100.0;
        var hour = UsualRange.hourOf(at(4 * week + 12 * 60), ZONE);
        int inDay = (int) Duration.between(at(0), hour).toMinutes() % (24 * 60) / 60;
        IntToDoubleFunction value =
                i -> i / 60 % 24 == inDay ? odd.applyAsDouble(12 * 60 + i % 60) : 0.2 + i % 5 / 100.0;
        var whole = readings(4 * week, value);
        Past sparse = (from, to) -> only(
                whole.between(from, to), at -> at / 60_000_000 % 60 < 3 || hourOfDay(at) != hourOfDay(Micros.of(hour)));
        var borrowed = UsualRange.learn(sparse, hour, 3, ZONE);
        assertThat(borrowed).isNotNull();
        assertThat(borrowed.source()).isEqualTo(UsualRange.Source.HOURS_BESIDE);
        assertThat(borrowed.middle() - 6 * borrowed.spread()).isGreaterThan(0);
        assertThat(borrowed.middle() + 6 * borrowed.spread()).isLessThan(0.5);
        // Of the neighbours nothing was heard either: the same hour of all days.
        Past lonely = (from, to) -> only(sparse.between(from, to), at -> hourOfDay(at) == hourOfDay(Micros.of(hour)));
        assertThat(UsualRange.learn(lonely, hour, 3, ZONE).source()).isEqualTo(UsualRange.Source.ALL_DAYS);
        assertThat(UsualRange.learn(whole::between, hour, 3, ZONE).source()).isEqualTo(UsualRange.Source.SAME_HOUR);
        Past next = (from, to) -> only(whole.between(from, to), at -> at < Micros.of(at(3)));
        assertThat(UsualRange.learn(next, hour, 3, ZONE)).isNull();
    }

    @Test
    void oneBadWeekOfTwoDoesNotTearTheRangeOpen() {
        // Two weeks of 0.2 s; two hours at noon of the first day were at 2 s.
        var past = readings(14 * 1440, i -> i >= 700 && i < 820 ? 2 : 0.2 + 0.01 * Math.sin(i));
        var hour = UsualRange.hourOf(at(14 * 1440 + 740), ZONE);
        var usual = UsualRange.learn(past, hour, 4, ZONE);
        assertThat(usual).isNotNull();
        assertThat(usual.weeks()).isEqualTo(2);
        assertThat(usual.source()).isEqualTo(UsualRange.Source.ALL_DAYS);
        assertThat(usual.middle()).isBetween(0.19, 0.21);
        assertThat(usual.spread()).isLessThan(0.02);
        // Of three weeks one in trouble is outvoted.
        var more = readings(21 * 1440, i -> i >= 700 && i < 820 ? 2 : 0.2 + 0.01 * Math.sin(i));
        var later = UsualRange.learn(more, UsualRange.hourOf(at(21 * 1440 + 740), ZONE), 4, ZONE);
        assertThat(later.source()).isEqualTo(UsualRange.Source.SAME_HOUR);
        assertThat(later.middle()).isBetween(0.19, 0.22);
        assertThat(later.spread()).isLessThan(0.03);
    }

    private static int hourOfDay(long micros) {
        return Micros.instant(micros).atZone(ZONE).getHour();
    }

    private static Readings only(Readings all, java.util.function.LongPredicate which) {
        var ring = new ReadingRing();
        for (int i = 0; i < all.size(); i++)
            if (which.test(all.times()[i])) ring.add(Micros.instant(all.times()[i]), all.values()[i]);
        return ring.all();
    }

    @Test
    void whatIsUnknownIsNotFalse() {
        var expression = Expression.parse("a and not b");
        assertThat(expression.of(i -> i == 0 ? Truth.TRUE : Truth.UNKNOWN)).isEqualTo(Truth.UNKNOWN);
        assertThat(expression.of(i -> i == 0 ? Truth.FALSE : Truth.UNKNOWN)).isEqualTo(Truth.FALSE);
        assertThat(expression.of(i -> i == 0 ? Truth.TRUE : Truth.FALSE)).isEqualTo(Truth.TRUE);
        var guard = new CombinationGuard(
                expression, List.of(1L, 2L), Severity.CRITICAL, true, Terms.clearing(1, Duration.ZERO));
        var first = new GuardEvaluator.Answers(Truth.FALSE, List.of(micros(5)), List.of(Truth.TRUE));
        var second = new GuardEvaluator.Answers(
                Truth.UNKNOWN, List.of(micros(9), micros(20)), List.of(Truth.FALSE, Truth.TRUE));
        var step = GuardEvaluator.combine(guard, GuardState.startingAt(START), List.of(first, second), at(30));
        assertThat(step.transitions().stream().map(GuardKindsTest::words))
                .containsExactly("RAISED 9 CRITICAL", "CLEARED 20 null");
    }

    private static long micros(int minutes) {
        return app.morvet.core.readings.Micros.of(at(minutes));
    }

    @Test
    void manySeriesOfOneGroupAreOneAlertAsBadAsTheWorst() {
        var raised = new Transition(Transition.Kind.RAISED, at(1), Severity.WARNING, 5, 5);
        var worse = new Transition(Transition.Kind.RAISED, at(2), Severity.CRITICAL, 9, 9);
        var over = new Transition(Transition.Kind.CLEARED, at(3), null, 1, 9);
        var end = new Transition(Transition.Kind.CLEARED, at(4), null, 1, 5);
        var told = Folding.fold(
                Map.of(),
                List.of(
                        new Folding.Of<>("a", raised),
                        new Folding.Of<>("b", worse),
                        new Folding.Of<>("b", over),
                        new Folding.Of<>("a", end)));
        assertThat(told.stream().map(one -> one.member() + " " + words(one.transition())))
                .containsExactly("a RAISED 1 WARNING", "b ROSE 2 CRITICAL", "b EASED 3 WARNING", "a CLEARED 4 null");
    }

    @Test
    void aProposalKeepsItsBudgetAndTellsTheRealTrouble() {
        // Two real troubles at 90, ten harmless bumps at 60.
        var heard = Heard.of(
                readings(14 * 1440, i -> {
                    int day = i / 1440;
                    int minute = i % 1440;
                    if ((day == 3 || day == 9) && minute >= 600 && minute < 640) return 90;
                    return minute >= 100 && minute < 110 ? 60 : 40 + i % 3;
                }),
                Sort.GAUGE,
                MINUTE);
        var guard = limit(5, Amount.of(Amount.Fold.LAST), Limits.above(50, 99));
        var end = at(14 * 1440);
        var runs = List.of(new Replay.Run(1, "one", Measuring.course(guard, heard, START, end)));
        assertThat(Replay.of(guard, runs, START, end).alerts()).hasSize(16);
        var troubles = List.of(
                new Hindsight.Trouble(1, 7, at(3 * 1440 + 600), at(3 * 1440 + 640), true),
                new Hindsight.Trouble(2, 7, at(9 * 1440 + 600), at(9 * 1440 + 640), true),
                new Hindsight.Trouble(3, 7, at(5 * 1440 + 100), at(5 * 1440 + 110), false));
        var proposal = Proposal.of(
                guard,
                runs,
                2,
                START,
                end,
                outcome -> Hindsight.of(
                        outcome.alerts().stream()
                                .map(one -> new Hindsight.Call(7, one.start(), one.end()))
                                .toList(),
                        troubles,
                        end));
        assertThat(proposal.chosen().caught()).isEqualTo(2);
        assertThat(proposal.chosen().falseCalls()).isZero();
        assertThat(proposal.chosen().alertsAWeek()).isEqualTo(1);
        assertThat(proposal.limits().mildest().low()).isBetween(60.0, 89.9);
    }
}
