package app.morvet.core.cases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How often things went together, against chance. */
class TogetherTest {
    private static final Duration NEAR = Duration.ofMinutes(3);
    private static final Duration SPAN = Duration.ofDays(90);
    private static final Instant T = Instant.parse("2027-01-01T00:00:00Z");

    /** The figures are those of SciPy 1.17.1: {@code e = one * (1 - exp(-other * 360 / 7776000))}, {@code poisson.sf(both - 1, e)}. */
    @ParameterizedTest
    @CsvSource({
        "6, 9, 5, 0.002499479238997404, 2000.4166956016045, 8.112633530223827e-16, true",
        "40, 300, 12, 0.5517153302433497, 21.75034722110596, 9.986432344747462e-13, true",
        "3, 2000, 2, 0.2653055912750274, 7.538476631375297, 0.029546629237015575, false",
        "12, 12, 0, 0.006664815157702897, 0, 1, false",
        "25, 25, 25, 0.028918446744705117, 864.5000964506306, 2.1215465073912802e-64, true",
        "1, 1, 1, 4.6295224629629e-5, 21600.5, 4.62941530e-5, false",
    })
    void theFiguresAreThoseOfAnIndependentReckoning(
            int one, int other, int both, double expected, double lift, double chance, boolean tells) {
        var together = new Together(one, other, both, NEAR, SPAN);
        assertThat(together.expected()).isCloseTo(expected, within(expected * 1e-6));
        assertThat(together.lift()).isCloseTo(lift, within(lift * 1e-6 + 1e-12));
        assertThat(together.chance()).isCloseTo(chance, within(chance * 1e-6));
        assertThat(together.tells()).isEqualTo(tells);
    }

    @Test
    void countedIsWhatHasAnotherNearByOnceEach() {
        var one = List.of(T, T.plusSeconds(60), T.plusSeconds(4000), T.plusSeconds(9000));
        var other = List.of(T.plusSeconds(181), T.plusSeconds(9180), T.plusSeconds(9100));
        var together = Together.of(one, other, NEAR, SPAN);
        assertThat(together.both())
                .as("the first is a second too far, the last has two")
                .isEqualTo(2);
        assertThat(Together.of(one, List.of(), NEAR, SPAN).both()).isZero();
    }

    /** Of things that have nothing to do with each other next to none are told of: the limit is one in a thousand. */
    @Test
    void byAccidentNextToNothingIsSaidToGoTogether() {
        var random = new Random(20270318);
        int told = 0;
        for (int i = 0; i < 2000; i++) {
            if (Together.of(made(random, 30), made(random, 200), NEAR, SPAN).tells()) told++;
        }
        assertThat(told).isLessThanOrEqualTo(6);
    }

    private static List<Instant> made(Random random, int count) {
        var all = new ArrayList<Instant>();
        for (int i = 0; i < count; i++) all.add(T.plusSeconds((long) (random.nextDouble() * SPAN.toSeconds())));
        return all;
    }

    @Test
    void itIsSaidInWords() {
        assertThat(new Together(6, 9, 5, NEAR, SPAN).words())
                .isEqualTo("went together 5 of 6 times in 90 days, 2,000 times as often as by chance");
        assertThat(new Together(3, 2000, 2, NEAR, SPAN).words()).endsWith("7.5 times as often as by chance");
        assertThat(new Together(3, 2, 0, NEAR, SPAN).words()).isEqualTo("did not go together before in 90 days");
    }

    @Test
    void whatCannotBeIsRefused() {
        assertThatThrownBy(() -> new Together(2, 9, 3, NEAR, SPAN)).hasMessage("3 of 2 cannot be together");
        assertThatThrownBy(() -> new Together(2, 9, 1, Duration.ZERO, SPAN))
                .isInstanceOf(IllegalArgumentException.class);
    }
}
