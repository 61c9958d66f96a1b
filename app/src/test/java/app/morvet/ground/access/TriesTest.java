package app.morvet.ground.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** How often somebody may try, and whom that slows down. */
class TriesTest {
    private final AtomicLong nanos = new AtomicLong();
    private final Tries tries = new Tries(nanos::get);

    private long possible(int asked, String name, String address, String device) {
        return IntStream.range(0, asked)
                .filter(i -> tries.count(name, address, device).isZero())
                .count();
    }

    @Test
    void triesComeBackOneAfterTheOtherAndNobodyIsLockedForEver() {
        assertThat(possible(50, "a", "here", "")).isEqualTo(Tries.AT_ONCE);
        assertThat(tries.count("a", "here", "")).isPositive().isLessThanOrEqualTo(Tries.COMES_BACK);
        nanos.addAndGet(Tries.COMES_BACK.toNanos());
        assertThat(possible(3, "a", "here", "")).isEqualTo(1);
    }

    @Test
    void whoTriesElsewhereUsesUpNoTriesHere() {
        possible(100, "a", "there", "");
        assertThat(possible(1, "a", "here", "")).isEqualTo(1);
        assertThat(possible(1, "b", "there", "")).isEqualTo(1);
    }

    /** From a thousand machines at once no more are looked at than from a few. */
    @Test
    void aNameIsNotGuessedFromManyMachines() {
        long looked = IntStream.range(0, 1000)
                .filter(i -> tries.count("a", "machine " + i, "").isZero())
                .count();
        assertThat(looked).isEqualTo(Tries.OF_A_NAME);
        assertThat(possible(1, "a", "office", "device of a")).isEqualTo(1);
    }

    @Test
    void oneMachineDoesNotTryAllNames() {
        long looked = IntStream.range(0, 1000)
                .filter(i -> tries.count("name " + i, "there", "").isZero())
                .count();
        assertThat(looked).isEqualTo(100);
        assertThat(tries.count("name 1", "here", "")).isEqualTo(Duration.ZERO);
    }

    /** A whole company may log in from one address in the morning. */
    @Test
    void whoHasTheRightPasswordUsesUpNobodysTries() {
        for (int i = 0; i < 1000; i++) {
            assertThat(tries.count("name " + i % 20, "office", "")).isEqualTo(Duration.ZERO);
            tries.right("name " + i % 20, "office", "");
        }
    }

    @Test
    void theRightPasswordGivesAllTriesBack() {
        possible(4, "a", "here", "");
        tries.right("a", "here", "");
        assertThat(possible(50, "a", "here", "")).isEqualTo(Tries.AT_ONCE);
    }
}
