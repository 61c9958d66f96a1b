package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.util.Arrays;
import org.junit.jupiter.api.Test;

/** Delays that are counted in steps: those at the edges, and what is kept of them. */
class DelaysTest {
    @Test
    void ofNoneThereIsNoPercentile() {
        assertThat(Delays.none().quantile(0.5)).isEmpty();
    }

    @Test
    void whatIsUnderTheFirstStepAndBeyondTheLastIsCounted() {
        assertThat(Delays.of(0).quantile(1)).hasValue(0.01);
        assertThat(Delays.of(1e12).counts()[Delays.STEPS - 1]).isEqualTo(1);
    }

    @Test
    void countsAreCutBehindTheLastThatIsNot0() {
        assertThat(Delays.none().shortCounts()).isEmpty();
        assertThat(Delays.of(0.001).shortCounts()).containsExactly(1);
        var some = Delays.of(0.001, 0.3, 0.3);
        assertThat(Arrays.copyOf(some.shortCounts(), Delays.STEPS)).isEqualTo(some.counts());
        assertThat(some.shortCounts()).hasSizeLessThan(20).endsWith(2);
        assertThat(Delays.of(1e12).shortCounts()).hasSize(Delays.STEPS);
    }

    @Test
    void whatIsNoDelayIsRefused() {
        for (double wrong : new double[] {-0.1, Double.NaN})
            assertThatIllegalArgumentException()
                    .isThrownBy(() -> Delays.of(wrong))
                    .withMessageContaining("0 s or more");
        assertThatIllegalArgumentException()
                .isThrownBy(() -> new Delays(new int[3]))
                .withMessageContaining("72 steps");
    }
}
