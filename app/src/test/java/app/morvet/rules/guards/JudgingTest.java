package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Readings;
import app.morvet.rules.guards.Watches.Watching;
import com.github.benmanes.caffeine.cache.Ticker;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Up to which instant a series is judged, and until when no time alone takes it any further; a reading a minute is promised. */
class JudgingTest {
    private static final Instant NOW = Instant.parse("2027-03-18T03:20:00Z");

    private final ReadingRing ring = new ReadingRing();
    private final Watching one = SomeWatches.over(1);

    {
        one.post().ring = ring;
    }

    private Judging judging(Watches watches) {
        return new Judging(
                watches, series -> (from, to) -> Readings.NONE, new Learned(Ticker.systemTicker()), new SetAside());
    }

    private Instant judgedTo(Instant now) {
        var found = judging(SomeWatches.of(0, one)).of(List.of(one), now).getFirst();
        one.post().state = found.step().state();
        return found.step().state().evaluatedTo();
    }

    private Instant still(Instant now) {
        return judging(SomeWatches.of(0, one)).still(one, now);
    }

    private void heard(Instant at) {
        ring.add(Micros.of(at), 40);
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 7, 59, 60})
    void aSeriesIsJudgedToItsNewestReadingAndNoFurtherForAMinute(int secondsAgo) {
        var newest = NOW.minusSeconds(secondsAgo);
        heard(newest);
        assertThat(judgedTo(NOW)).isEqualTo(newest);
        var until = still(NOW);
        assertThat(until).isEqualTo(newest.plusSeconds(60));
        for (var at = NOW; !at.isAfter(until); at = at.plusSeconds(1))
            assertThat(judgedTo(at)).as("at %s", at).isEqualTo(newest);
        assertThat(judgedTo(until.plusSeconds(1))).as("one second silent").isEqualTo(newest.plusSeconds(1));
    }

    @Test
    void aSilentSeriesIsJudgedFurtherAtEachLook() {
        heard(NOW.minus(Duration.ofMinutes(5)));
        assertThat(judgedTo(NOW)).isEqualTo(NOW.minusSeconds(60));
        assertThat(still(NOW)).as("it has its turn with all else").isBeforeOrEqualTo(NOW);
        assertThat(judgedTo(NOW.plusSeconds(6))).isEqualTo(NOW.minusSeconds(54));
    }

    @Test
    void oneThatWasNeverHeardIsLookedAtInTurn() {
        assertThat(judgedTo(NOW)).isEqualTo(NOW.minusSeconds(60));
        assertThat(still(NOW)).isEqualTo(NOW);
    }

    /** By the clock of whoever told it. */
    @Test
    void aReadingOfTheFutureIsJudgedWhenItsTimeHasCome() {
        heard(NOW.plusSeconds(30));
        assertThat(judgedTo(NOW)).isEqualTo(NOW);
        assertThat(still(NOW)).isEqualTo(NOW);
        assertThat(judgedTo(NOW.plusSeconds(29))).isEqualTo(NOW.plusSeconds(29));
        assertThat(judgedTo(NOW.plusSeconds(40))).isEqualTo(NOW.plusSeconds(30));
    }

    /** They are judged up to one instant together, which another of them may hold back and let go at any time. */
    @Test
    void theMembersOfACombinationHaveTheirTurnHoweverLatelyTheyWereHeard() {
        heard(NOW);
        var watches = SomeWatches.of(0, List.of(7L, 8L), one);
        assertThat(judging(watches).still(one, NOW)).isEqualTo(NOW);
    }
}
