package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.readings.Past;
import app.morvet.core.readings.Readings;
import app.morvet.sources.readings.Series;
import com.github.benmanes.caffeine.cache.Ticker;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** One series that cannot be judged is set aside, and all others are judged on. */
class SetAsideTest {
    private static final Instant NOW = Instant.parse("2027-03-18T03:20:00Z");
    private static final long BROKEN = 1;

    private final SetAside aside = new SetAside();
    private boolean broken = true;

    /** Whatever is asked of the past of one series fails while it is broken. */
    private Past past(Series series) {
        if (broken && series.id() == BROKEN) throw new ArithmeticException("it is not finite");
        return (from, to) -> Readings.NONE;
    }

    private List<Long> judged() {
        var watches = SomeWatches.of(0, SomeWatches.over(BROKEN), SomeWatches.over(2), SomeWatches.over(3));
        return new Judging(watches, this::past, new Learned(Ticker.systemTicker()), aside)
                .of(watches.all().values(), NOW).stream()
                        .map(one -> one.watching().key().series())
                        .toList();
    }

    @Test
    void theOthersAreJudgedAndTheNowLineSaysSo() {
        assertThat(judged()).containsExactly(2L, 3L);
        assertThat(judged()).containsExactly(2L, 3L);
        assertThat(aside.now()).singleElement().satisfies(item -> {
            assertThat(item.words()).isEqualTo("1 series cannot be judged");
            assertThat(item.mark()).isEqualTo("warning");
        });
    }

    @Test
    void onceItCanBeJudgedNothingIsSaidOfIt() {
        judged();
        broken = false;
        assertThat(judged()).containsExactly(BROKEN, 2L, 3L);
        assertThat(aside.now()).isEmpty();
    }
}
