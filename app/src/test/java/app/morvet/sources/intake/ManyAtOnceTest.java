package app.morvet.sources.intake;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.sources.readings.ReadingHistory;
import app.morvet.sources.readings.SeriesBook;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Many senders at the same moment, each with something that Morvet has not seen: nobody who has a connection waits for another. */
class ManyAtOnceTest extends MorvetTest {
    private static final int SENDERS = 40;
    /** A midnight at which no day is there yet. */
    private static final Instant MIDNIGHT =
            Instant.now().minus(Duration.ofDays(75)).truncatedTo(ChronoUnit.DAYS);

    @Autowired
    SeriesBook series;

    @Autowired
    ReadingHistory history;

    private static List<Integer> atOnce(List<Callable<HttpResponse<String>>> senders) throws Exception {
        var statuses = new ArrayList<Integer>();
        try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
            for (Future<HttpResponse<String>> answer : threads.invokeAll(senders))
                statuses.add(answer.get().statusCode());
        }
        return statuses;
    }

    @Test
    void fortyBatchesOfEventsOverAMidnightAreAllTaken() throws Exception {
        setUpOnce();
        var name = "many-" + UUID.randomUUID().toString().substring(0, 8);
        var senders = new ArrayList<Callable<HttpResponse<String>>>();
        for (int sender = 0; sender < SENDERS; sender++) {
            var batch = new ArrayList<Map<String, Object>>();
            for (int minute = -2; minute < 2; minute++) {
                var event = failed(
                        UUID.randomUUID().toString(), name + "-" + sender, MIDNIGHT.plus(Duration.ofMinutes(minute)));
                batch.add(event);
            }
            senders.add(() -> send(batch));
        }
        assertThat(atOnce(senders)).containsOnly(202).hasSize(SENDERS);
        assertThat(jdbc.sql(
                                "select count(*) from failed_message m join component c on c.id = m.component_id where starts_with(c.key, :name)")
                        .param("name", name)
                        .query(Long.class)
                        .single())
                .isEqualTo(4L * SENDERS);
    }

    @Test
    void fortyPagesOfReadingsOverAMidnightAreAllTaken() throws Exception {
        setUpOnce();
        var name = "many_" + UUID.randomUUID().toString().substring(0, 8);
        long seconds = MIDNIGHT.minus(Duration.ofDays(5)).getEpochSecond();
        var senders = new ArrayList<Callable<HttpResponse<String>>>();
        for (int sender = 0; sender < SENDERS; sender++) {
            var component = name + "-" + sender;
            var page = "# TYPE %s gauge\n".formatted(name)
                    + "%s{component=\"%s\",kind=\"host\"} 1 %d\n".formatted(name, component, (seconds - 60) * 1000)
                    + "%s{component=\"%s\",kind=\"host\"} 2 %d\n".formatted(name, component, (seconds + 60) * 1000);
            senders.add(() -> tell(page));
        }
        assertThat(atOnce(senders)).containsOnly(202).hasSize(SENDERS);
        // They are of a day that may be sealed at any moment.
        var around = Instant.ofEpochSecond(seconds);
        assertThat(series.ofMeasure(name)).hasSize(SENDERS).allSatisfy(one -> assertThat(
                        history.between(one.id(), around.minusSeconds(120), around.plusSeconds(120))
                                .values())
                .containsExactly(1, 2));
    }
}
