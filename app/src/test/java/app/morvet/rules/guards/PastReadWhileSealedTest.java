package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.readings.Readings;
import app.morvet.sources.messages.MessageStore;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.ReadingHistory;
import app.morvet.sources.readings.Sealing;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.sources.states.States;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.PlatformTransactionManager;

/** Guards that begin to stand over series read their past, whatever becomes of the store meanwhile. */
class PastReadWhileSealedTest extends MorvetTest {
    private static final Duration REACH = Duration.ofDays(7);

    @Autowired
    SeriesBook book;

    @Autowired
    ReadingHistory readings;

    @Autowired
    MessageStore messages;

    @Autowired
    States states;

    @Autowired
    Sealing sealing;

    @Autowired
    PlatformTransactionManager transactions;

    private Series series(Subject subject, String measure) {
        return book.find(subject.id(), measure, Map.of()).orElseThrow();
    }

    /** The table of a day is emptied by what seals it, for each reader at once, whatever moment that one sees. */
    @Test
    void aDayThatIsSealedBeforeItIsReadIsRead() throws Exception {
        var subject = subject();
        var day = Instant.now().truncatedTo(ChronoUnit.DAYS).minus(5, ChronoUnit.DAYS);
        var page = new StringBuilder();
        for (int minute = 0; minute < 60; minute++)
            page.append("heat{component=\"%s\"} %d %d\n"
                    .formatted(subject.key(), minute, day.getEpochSecond() + 60 * minute));
        tell(page.toString());
        fail(subject, 3);

        var sealedFirst = new Histories(readings, messages, states, jdbc, transactions) {
            @Override
            Map<Long, Readings> between(Collection<Series> some, Instant from, Instant to) {
                var other = Thread.ofPlatform()
                        .start(() -> sealing.sealUpTo(Instant.now().minus(Duration.ofDays(2))));
                try {
                    other.join();
                } catch (InterruptedException stop) {
                    Thread.currentThread().interrupt();
                }
                return super.between(some, from, to);
            }
        };
        var rings = new SeriesRings(sealedFirst);
        var heat = series(subject, "heat");
        var failed = series(subject, Measure.FAILED_MESSAGES);
        rings.watch(Map.of(heat, REACH, failed, REACH), Map.of(), Instant.now());
        var overHeat = SomeWatches.over(heat);
        var overFailed = SomeWatches.over(failed);
        rings.lay(List.of(overHeat, overFailed));

        assertThat(overHeat.post().ring.size()).isEqualTo(60);
        assertThat(overFailed.post().ring.size()).isEqualTo(3);
        assertThat(jdbc.sql("select count(*) from reading where series_id = :id")
                        .param("id", heat.id())
                        .query(Long.class)
                        .single())
                .as("it is sealed by now")
                .isZero();
    }
}
