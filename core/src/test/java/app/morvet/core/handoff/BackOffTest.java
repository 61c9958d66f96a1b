package app.morvet.core.handoff;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** How long is waited before the next try, and when it is given up. */
class BackOffTest {
    private static final BackOff USUAL =
            new BackOff(Duration.ofSeconds(2), Duration.ofMinutes(2), Duration.ofHours(24));

    @Test
    void whoeverIsAskedIsNotAskedSoonerThanTheySay() {
        var backOff = new BackOff(Duration.ofSeconds(5), Duration.ofMinutes(5), Duration.ofHours(1));
        assertThat(backOff.after(1, Duration.ofMinutes(20))).isEqualTo(Duration.ofMinutes(20));
        assertThat(backOff.after(3, Duration.ofSeconds(1))).isEqualTo(Duration.ofSeconds(20));
        assertThat(backOff.after(3, Duration.ZERO)).isEqualTo(backOff.after(3));
    }

    @Test
    void eachWaitIsTwiceTheOneBeforeUpToTheLongest() {
        assertThat(java.util.stream.IntStream.rangeClosed(1, 9)
                        .mapToObj(USUAL::after)
                        .map(Duration::toSeconds))
                .containsExactly(2L, 4L, 8L, 16L, 32L, 64L, 120L, 120L, 120L);
        assertThatThrownBy(() -> USUAL.after(0)).hasMessage("there is no wait before the first try");
    }

    @Property
    void howeverOftenItFailsTheWaitStaysWithinItsBounds(@ForAll @IntRange(min = 1) int failures) {
        assertThat(USUAL.after(failures)).isBetween(USUAL.first(), USUAL.longest());
    }

    @Property
    void itIsTriedUntilItsPatienceIsUsedUpAndNotAfter(
            @ForAll @IntRange(min = 1, max = 300) int first,
            @ForAll @IntRange(min = 1, max = 3600) int longest,
            @ForAll @IntRange(min = 1, max = 86_400) int patience) {
        var some = new BackOff(Duration.ofSeconds(first), Duration.ofSeconds(longest), Duration.ofSeconds(patience));
        var since = Duration.ZERO;
        int tries = 1;
        while (!some.exhausted(since)) {
            since = since.plus(some.after(tries));
            tries++;
        }
        assertThat(some.tries()).isEqualTo(tries);
        // The last try is at the end of the patience or after it, the one before was within.
        assertThat(since).isGreaterThanOrEqualTo(some.patience());
        assertThat(since.minus(some.after(tries - 1))).isLessThan(some.patience());
    }
}
