package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.morvet.core.batch.UsualDuration.Seen;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.function.ToDoubleFunction;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

/** What is usual for a job is learned from its runs: on which days apart, with which weight, and of what it is guessed. */
class UsualDurationTest {
    private static final LocalDate TODAY = LocalDate.parse("2026-03-18");
    private static final Instant NOW = TODAY.atStartOfDay(Jobs.UTC).toInstant();

    /** Runs at 02:00 of each of the days before. */
    private static List<Seen> nightly(int days, ToDoubleFunction<LocalDate> seconds) {
        var seen = new ArrayList<Seen>();
        for (int back = days; back >= 1; back--) {
            var day = TODAY.minusDays(back);
            seen.add(new Seen(
                    day.atTime(2, 0).toInstant(Jobs.UTC.getRules().getOffset(NOW)), seconds.applyAsDouble(day)));
        }
        return seen;
    }

    private static UsualDuration learned(List<Seen> seen) {
        return UsualDuration.of(seen, Jobs.UTC, NOW, null);
    }

    /** The database gives rows in any order; a duration must not change by that, not even by its last digit. */
    @Property(tries = 300)
    void theOrderOfTheRunsChangesNothing(
            @ForAll @Size(min = 1, max = 60) List<@IntRange(min = 1, max = 6) Integer> minutes, @ForAll long seed) {
        var seen = nightly(
                minutes.size(), day -> 60 * minutes.get((int) (TODAY.toEpochDay() - day.toEpochDay()) - 1) + 60 / 7.0);
        var shuffled = new ArrayList<>(seen);
        Collections.shuffle(shuffled, new Random(seed));
        for (int ahead = 0; ahead < 7; ahead++)
            assertThat(learned(shuffled).on(TODAY.plusDays(ahead)))
                    .isEqualTo(learned(seen).on(TODAY.plusDays(ahead)));
    }

    @Test
    void aWeekdayThatDiffersIsLearnedApart() {
        var usual = learned(
                nightly(60, day -> (day.getDayOfWeek() == DayOfWeek.SUNDAY ? 1800 : 600) + day.getDayOfMonth() % 5));
        var sunday = usual.on(LocalDate.parse("2026-03-22"));
        assertThat(sunday.because()).isEqualTo("on Sundays");
        assertThat(sunday.median()).isCloseTo(1802, within(3.0));
        assertThat(sunday.runs())
                .as("1 February and 1 March are of the turn of the month")
                .isEqualTo(7);
        var monday = usual.on(LocalDate.parse("2026-03-23"));
        assertThat(monday.because()).isEmpty();
        assertThat(monday.quantile(1)).isLessThan(610);
        assertThat(monday.runs()).isEqualTo(49);
    }

    @Test
    void threeSundaysAreTooFewAndASmallDifferenceIsNone() {
        assertThat(learned(nightly(21, day -> day.getDayOfWeek() == DayOfWeek.SUNDAY ? 1800 : 600))
                        .on(LocalDate.parse("2026-03-22"))
                        .because())
                .isEmpty();
        assertThat(learned(nightly(60, day -> day.getDayOfWeek() == DayOfWeek.SUNDAY ? 650 : 600))
                        .on(LocalDate.parse("2026-03-22"))
                        .because())
                .as("a twelfth more")
                .isEmpty();
    }

    @Test
    void theTurnOfTheMonthIsLearnedApartAndLeavesTheOtherDaysAlone() {
        var usual = learned(nightly(
                70,
                day -> day.getDayOfMonth() == 1 || day.getDayOfMonth() == day.lengthOfMonth()
                        ? 5400
                        : 600 + day.getDayOfMonth() % 5));
        assertThat(usual.on(LocalDate.parse("2026-03-31")).because()).isEqualTo("at the turn of the month");
        assertThat(usual.on(LocalDate.parse("2026-04-01")).median()).isEqualTo(5400);
        assertThat(usual.on(LocalDate.parse("2026-03-30")).quantile(1)).isLessThan(610);
    }

    @Test
    void aSingleNightIsNotBelievedAndAChangeForGoodIsAfterSomeWeeks() {
        assertThat(learned(nightly(60, day -> day.equals(TODAY.minusDays(1)) ? 3600 : 900))
                        .on(TODAY)
                        .median())
                .isEqualTo(900);
        assertThat(changedFor(10).median()).isEqualTo(900);
        assertThat(changedFor(28).median())
                .as("28 nights weigh more than the 32 before them")
                .isEqualTo(1800);
    }

    private static Spread changedFor(int days) {
        return learned(nightly(60, day -> day.isBefore(TODAY.minusDays(days)) ? 900 : 1800))
                .on(TODAY);
    }

    @Test
    void ofAJobThatNeverRanTheLongestThatIsAgreedIsTheGuess() {
        var guess = UsualDuration.of(List.of(), Jobs.UTC, NOW, Duration.ofMinutes(40))
                .on(TODAY);
        assertThat(guess.known()).isFalse();
        assertThat(guess.quantile(0)).isEqualTo(1);
        assertThat(guess.quantile(1)).isEqualTo(2400);
        assertThat(learned(List.of()).on(TODAY).quantile(1))
                .as("ten minutes where nothing is agreed")
                .isEqualTo(600);
    }
}
