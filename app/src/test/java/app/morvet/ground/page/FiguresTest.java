package app.morvet.ground.page;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;

class FiguresTest {
    @Test
    void theyReadAsTheFormattersOfTheLanguageWriteThem() {
        var random = new Random(7);
        for (int i = 0; i < 20_000; i++) {
            long value = random.nextLong() >> random.nextInt(64);
            assertThat(Figures.grouped(value)).isEqualTo(String.format(Locale.ROOT, "%,d", value));
            double real = random.nextInt(-20_000, 20_000) / 16.0;
            assertThat(Figures.tenths(real)).isEqualTo(String.format(Locale.ROOT, "%.1f", real));
        }
        assertThat(Figures.grouped(Long.MIN_VALUE)).isEqualTo(String.format(Locale.ROOT, "%,d", Long.MIN_VALUE));
    }
}
