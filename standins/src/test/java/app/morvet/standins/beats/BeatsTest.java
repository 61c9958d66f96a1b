package app.morvet.standins.beats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.standins.StandInSettings;
import app.morvet.standins.ToMorvet;
import java.net.URI;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;

/** What beats does so at whole multiples of its cadence, and not while it is stilled. */
class BeatsTest {
    private static final Instant NOW = Instant.parse("2027-03-18T02:40:00Z");

    private static Beats beats() {
        var settings = new StandInSettings(
                URI.create("http://127.0.0.1:1"),
                "",
                "",
                "",
                Path.of("none"),
                1,
                0,
                Duration.ZERO,
                Duration.ZERO,
                Duration.ZERO,
                7);
        return new Beats(new ToMorvet(settings, JsonMapper.shared()), settings, Clock.systemUTC());
    }

    private static long count(Beats beats, Instant at, String key) {
        return beats.due(at).stream()
                .filter(one -> key.equals(one.get("subject")))
                .count();
    }

    @Test
    void theLastOnesAreToldAtTheStartAndAlwaysByTheSameIds() {
        var beats = beats();
        assertThat(count(beats, NOW, "ledger-backup")).isEqualTo(8);
        var last = beats.due(NOW).stream()
                .filter(one -> "gate-clock".equals(one.get("subject")))
                .toList()
                .getLast();
        assertThat(last.get("time")).isEqualTo("2027-03-18T02:40:00Z");
        assertThat(last.get("id")).isEqualTo("gate-clock-" + NOW.getEpochSecond() / 60);
        assertThat(beats().due(NOW)).isEqualTo(beats.due(NOW));
    }

    @Test
    void whatIsStilledMissesItsBeats() {
        var beats = beats();
        beats.set("gate-clock", false);
        assertThat(count(beats, NOW, "gate-clock")).isZero();
        assertThat(count(beats, NOW, "roster-mirror")).isEqualTo(8);
        beats.set("gate-clock", true);
        assertThat(count(beats, NOW, "gate-clock")).isEqualTo(8);
        assertThatThrownBy(() -> beats.set("nothing", true)).hasMessage("nothing beats as nothing");
    }
}
