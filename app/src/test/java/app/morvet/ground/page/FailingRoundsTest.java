package app.morvet.ground.page;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ground.base.Rounds;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.Semaphore;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.boot.health.contributor.Status;

/** What is not done any more is said where people look. */
class FailingRoundsTest {
    private volatile boolean away = true;

    private final Rounds rounds =
            new Rounds(
                    "rounds-of-a-test",
                    new Rounds.Undone("Tides are not told", "Tides are told late", "/tides"),
                    Duration.ofMillis(10)) {
                @Override
                protected boolean round() {
                    if (away) throw new IllegalStateException("the store is away");
                    return false;
                }
            };

    @AfterEach
    void end() {
        rounds.stop();
    }

    private interface Check {
        boolean holds();
    }

    private static void until(Check check) throws InterruptedException {
        var end = Instant.now().plusSeconds(15);
        while (!check.holds()) {
            assertThat(Instant.now()).isBefore(end);
            Thread.sleep(10);
        }
    }

    @Test
    void aRoundThatFailsIsKnownUntilOneIsDoneAgain() throws Exception {
        rounds.start();
        until(() -> rounds.failing().isPresent());
        var failing = rounds.failing().orElseThrow();
        assertThat(failing.why()).isEqualTo("the store is away");
        assertThat(failing.undone().words()).isEqualTo("Tides are not told");
        away = false;
        until(() -> rounds.failing().isEmpty());
    }

    /** Once is nothing; for longer it stands on the now line and in health. */
    @Test
    void whatFailsForAWhileIsSaid() throws Exception {
        var at = new FailingRounds(List.of(rounds), Duration.ofMillis(50), Duration.ofHours(1));
        assertThat(at.now()).isEmpty();
        assertThat(at.health().getStatus()).isEqualTo(Status.UP);
        rounds.start();
        until(() -> !at.now().isEmpty());
        assertThat(at.now()).singleElement().satisfies(item -> {
            assertThat(item.words()).startsWith("Tides are not told for 0 s");
            assertThat(item.mark()).isEqualTo("critical");
            assertThat(item.link()).isEqualTo("/tides");
        });
        assertThat(at.health().getStatus()).isEqualTo(Status.DOWN);
        assertThat(at.health().getDetails()).containsEntry("Tides are not told", "the store is away");
        away = false;
        until(() -> at.now().isEmpty());
    }

    /** A round that is at work on something for long, while more comes in: said as late, and Morvet is up. */
    @Test
    void whatFallsBehindIsSaidUntilItHasCaughtUp() throws Exception {
        var goOn = new Semaphore(0);
        var slow = new Slow(goOn);
        var at = new FailingRounds(List.of(slow), Duration.ofHours(1), Duration.ofMillis(50));
        slow.start();
        try {
            assertThat(at.now()).isEmpty();
            slow.more();
            until(() -> !at.now().isEmpty());
            assertThat(at.now()).singleElement().satisfies(item -> {
                assertThat(item.words()).isEqualTo("Tides are told late, 0 s behind");
                assertThat(item.mark()).isEqualTo("warning");
            });
            assertThat(at.health().getStatus()).isEqualTo(Status.UP);
            assertThat(at.health().getDetails()).containsEntry("Tides are told late", "0 s behind");
            // One round does not do all of it; the second does.
            goOn.release();
            assertThat(at.now()).isNotEmpty();
            goOn.release();
            until(() -> at.now().isEmpty());
            assertThat(at.health().getDetails()).isEmpty();
        } finally {
            slow.stop();
        }
    }

    private static final class Slow extends Rounds {
        private final Semaphore goOn;
        private int left;

        Slow(Semaphore goOn) {
            super(
                    "slow-rounds-of-a-test",
                    new Undone("Tides are not told", "Tides are told late", "/tides"),
                    Duration.ofHours(1));
            this.goOn = goOn;
        }

        void more() {
            left = 2;
            wake();
        }

        @Override
        protected boolean round() throws InterruptedException {
            if (left == 0) return false;
            goOn.acquire();
            return --left > 0;
        }
    }
}
