package app.morvet.core.shift;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.shift.Turns.Taken;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Since when things are new to whoever comes in. */
class TurnsTest {
    private static final long ME = 1;
    private static final long OTHER = 2;
    private static final Instant NOW = at(100);

    private static Instant at(int hour) {
        return Instant.ofEpochSecond(1_800_000_000L + 3600L * hour);
    }

    @Test
    void sinceAnotherTookOver() {
        assertThat(Turns.newSince(
                        List.of(new Taken(ME, at(60)), new Taken(OTHER, at(68)), new Taken(3, at(76))), ME, NOW))
                .isEqualTo(at(68));
    }

    @Test
    void whoHasTakenOverAgainStillSeesWhatWasNewThen() {
        assertThat(Turns.newSince(
                        List.of(new Taken(ME, at(60)), new Taken(OTHER, at(68)), new Taken(ME, at(99))), ME, NOW))
                .isEqualTo(at(68));
    }

    @Test
    void whoeverNeverTookOverOrNeverLeftHasTheLastTwelveHours() {
        assertThat(Turns.newSince(List.of(), ME, NOW)).isEqualTo(at(88));
        assertThat(Turns.newSince(List.of(new Taken(ME, at(99))), ME, NOW)).isEqualTo(at(88));
        assertThat(Turns.newSince(List.of(new Taken(OTHER, at(99))), ME, NOW)).isEqualTo(at(88));
    }

    @Test
    void whatIsStillToComeDoesNotCount() {
        assertThat(Turns.newSince(List.of(new Taken(ME, at(60)), new Taken(OTHER, at(101))), ME, NOW))
                .isEqualTo(at(88));
    }
}
