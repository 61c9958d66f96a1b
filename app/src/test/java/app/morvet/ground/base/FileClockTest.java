package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FileClockTest {
    private static final Instant NOON = Instant.parse("2027-03-18T12:00:00Z");
    private static final long TENTH = 100_000_000;

    @TempDir
    Path folder;

    private final AtomicLong nanos = new AtomicLong();
    private Path file;

    @BeforeEach
    void file() {
        file = folder.resolve("clock");
    }

    private void say(String ahead) throws Exception {
        Files.writeString(file, ahead);
    }

    private Clock clock() {
        return new FileClock(file, Clock.fixed(NOON, ZoneOffset.UTC), nanos::get);
    }

    @Test
    void itIsAsFarAheadAsTheFileSaysAndFollowsItWithinATenthOfASecond() throws Exception {
        say("PT10M\n");
        var clock = clock();
        assertThat(clock.instant()).isEqualTo(NOON.plus(Duration.ofMinutes(10)));
        say("PT25M");
        nanos.addAndGet(TENTH - 1);
        assertThat(clock.instant()).isEqualTo(NOON.plus(Duration.ofMinutes(10)));
        nanos.addAndGet(1);
        assertThat(clock.instant()).isEqualTo(NOON.plus(Duration.ofMinutes(25)));
        assertThat(clock.withZone(ZoneOffset.ofHours(2)).instant()).isEqualTo(NOON.plus(Duration.ofMinutes(25)));
    }

    @Test
    void whatCannotBeReadAtTheMomentDoesNotMoveIt() throws Exception {
        say("PT10M");
        var clock = clock();
        for (var broken : new String[] {"", "PT", "ten minutes"}) {
            say(broken);
            nanos.addAndGet(TENTH);
            assertThat(clock.instant()).as(broken).isEqualTo(NOON.plus(Duration.ofMinutes(10)));
        }
        Files.delete(file);
        nanos.addAndGet(TENTH);
        assertThat(clock.instant()).isEqualTo(NOON.plus(Duration.ofMinutes(10)));
    }

    @Test
    void atTheStartItMustBeThereAndSayHowFar() throws Exception {
        assertThatThrownBy(this::clock).isInstanceOf(UncheckedIOException.class).hasMessageContaining("clock");
        say("soon");
        assertThatThrownBy(this::clock)
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("such as PT10M");
    }
}
