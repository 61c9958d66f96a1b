package app.morvet.core.tracks;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Places and round times on an axis. */
class AxisTest {
    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");

    private static Axis axis(String from, String to) {
        return new Axis(Instant.parse(from), Instant.parse(to));
    }

    private static List<String> words(Axis axis) {
        return axis.ticks(HELSINKI).stream().map(Axis.Tick::words).toList();
    }

    @Test
    void placesArePerCentOfTheWidthAndMayLieOutside() {
        var axis = axis("2027-03-18T02:00:00Z", "2027-03-18T04:00:00Z");
        assertThat(axis.x(Instant.parse("2027-03-18T02:30:00Z"))).isEqualTo(25);
        assertThat(axis.x(Instant.parse("2027-03-18T01:00:00Z"))).isEqualTo(-50);
        assertThat(axis.holds(axis.from())).isTrue();
        assertThat(axis.holds(axis.to())).isFalse();
    }

    @Test
    void ticksAreRoundTimesOfTheClockOnTheWall() {
        assertThat(words(axis("2027-03-18T02:07:00Z", "2027-03-18T04:07:00Z")))
                .containsExactly("04:30", "05:00", "05:30", "06:00")
                .as("thirty minutes are the shortest step of which there are fewer than eight");
        assertThat(words(axis("2027-03-17T20:00:00Z", "2027-03-18T08:00:00Z")))
                .containsExactly("22:00", "Thu 18 Mar", "02:00", "04:00", "06:00", "08:00");
        assertThat(words(axis("2027-03-01T10:00:00Z", "2027-03-18T10:00:00Z")))
                .containsExactly("Mon 8 Mar", "Mon 15 Mar");
    }

    /** The night of the 28th of March the clock goes from 03:00 to 04:00, on the 31st of October from 04:00 back to 03:00. */
    @Test
    void onNightsOfAClockChangeEachTimeIsThereOnceAndWhatIsLeftOutIsNot() {
        assertThat(words(axis("2027-03-27T22:30:00Z", "2027-03-28T04:30:00Z")))
                .containsExactly("01:00", "02:00", "04:00", "05:00", "06:00", "07:00");
        var autumn = axis("2027-10-30T22:30:00Z", "2027-10-31T04:30:00Z");
        assertThat(words(autumn)).containsExactly("02:00", "03:00", "04:00", "05:00", "06:00");
        assertThat(autumn.ticks(HELSINKI)).extracting(Axis.Tick::x).isSorted();
    }

    @ParameterizedTest
    @CsvSource({"PT1M", "PT5M", "PT1H", "PT6H", "PT24H", "PT36H", "P3D", "P8D", "P20D", "P90D", "P399D"})
    void thereAreNeverMoreThanEightTicksAndNearlyAlwaysTwo(Duration length) {
        var from = Instant.parse("2027-02-11T05:13:20Z");
        for (int i = 0; i < 60; i++) {
            var at = from.plus(length.dividedBy(7).multipliedBy(i));
            assertThat(new Axis(at, at.plus(length)).ticks(HELSINKI)).hasSizeBetween(1, 8);
        }
    }

    @Test
    void itIsMovedByItsLengthAndZoomedAroundItsMiddle() {
        var axis = axis("2027-03-18T02:00:00Z", "2027-03-18T04:00:00Z");
        assertThat(axis.earlier(0.5)).isEqualTo(axis("2027-03-18T01:00:00Z", "2027-03-18T03:00:00Z"));
        assertThat(axis.earlier(-1)).isEqualTo(axis("2027-03-18T04:00:00Z", "2027-03-18T06:00:00Z"));
        assertThat(axis.longer(0.5)).isEqualTo(axis("2027-03-18T02:30:00Z", "2027-03-18T03:30:00Z"));
        assertThat(axis.longer(0.0001).length()).isEqualTo(Duration.ofMinutes(1));
        assertThat(axis.longer(1e6).length()).isEqualTo(Duration.ofDays(400));
        assertThatThrownBy(() -> new Axis(axis.to(), axis.from())).isInstanceOf(IllegalArgumentException.class);
    }
}
