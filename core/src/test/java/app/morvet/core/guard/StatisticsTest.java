package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.data.Offset.offset;

import java.util.Arrays;
import org.junit.jupiter.api.Test;

/**
 * Against other people's programs. The figures of R 4.2 come from {@code Rscript -e 'x <- c(…); quantile(x, c(.05,.5,.9,.95,.99));
 * mad(x)'}, those of SciPy 1.17 from {@code scipy.stats.theilslopes(y, x, alpha=0.95)}, with the values below.
 */
class StatisticsTest {
    private static final double[] X = {43.3, 43.3, 45.7, 45.8, 50.2, 51.5, 55.3, 60.1, 77.7, 41.2};

    @Test
    void quantilesAreThoseOfR() {
        var sorted = X.clone();
        Arrays.sort(sorted);
        double[][] figures = {{.05, 42.145}, {.5, 48}, {.9, 61.86}, {.95, 69.78}, {.99, 76.116}};
        for (var figure : figures)
            assertThat(Statistics.quantile(sorted, figure[0])).isEqualTo(figure[1], offset(1e-9));
    }

    @Test
    void theSpreadIsTheMadOfR() {
        assertThat(Statistics.spread(X, Statistics.median(X))).isEqualTo(6.96822, offset(1e-9));
    }

    @Test
    void theRobustSlopeAndItsIntervalAreThoseOfSciPyInSpiteOfTwoWildPoints() {
        double[] x = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12};
        double[] y = {2.1, 3.9, 6.2, 7.8, 30, 12.1, 13.8, 16.3, 18.1, 19.8, 22.2, 1.0};
        var line = TheilSen.of(x, y);
        assertThat(line.slope()).isEqualTo(1.981666666666667, offset(1e-9));
        assertThat(line.low()).isEqualTo(1.7, offset(1e-9));
        assertThat(line.high()).isEqualTo(2.033333333333333, offset(1e-9));
    }
}
