package app.morvet.sources.readings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.MorvetTest;
import app.morvet.core.readings.Sort;
import app.morvet.ground.estate.Estate;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.IllegalTransactionStateException;
import org.springframework.transaction.support.TransactionTemplate;

/** What registers itself stays, though what came with it is undone; what is over is over with what ended it. */
class RegisteredStaysTest extends MorvetTest {
    @Autowired
    SeriesBook series;

    @Autowired
    TransactionTemplate transaction;

    private final String key = "registered-" + UUID.randomUUID().toString().substring(0, 8);

    private SeriesBook.Newcomer newcomer() {
        long component = estate.byKey(key).orElseThrow().id();
        return new SeriesBook.Newcomer(component, "level_" + key.replace('-', '_'), Sort.GAUGE, "", "", Map.of());
    }

    private long undone() {
        transaction.executeWithoutResult(status -> {
            estate.register(List.of(new Estate.Newcomer(key, "host")));
            series.register(List.of(newcomer()), estate.feeds().getFirst().id());
            status.setRollbackOnly();
        });
        return series.ofComponent(estate.byKey(key).orElseThrow().id())
                .getFirst()
                .id();
    }

    @Test
    void aComponentAndItsSeriesStay() {
        long id = undone();
        assertThat(jdbc.sql("select c.key from series s join component c on c.id = s.component_id where s.id = :id")
                        .param("id", id)
                        .query(String.class)
                        .list())
                .containsExactly(key);
    }

    @Test
    void aSeriesEndsInTheTransactionThatEndsItAndInNone() {
        long id = undone();
        assertThatThrownBy(() -> series.end(List.of(id))).isInstanceOf(IllegalTransactionStateException.class);
        transaction.executeWithoutResult(status -> {
            series.end(List.of(id));
            status.setRollbackOnly();
        });
        assertThat(ended(id)).isFalse();
        transaction.executeWithoutResult(status -> series.end(List.of(id)));
        assertThat(ended(id)).isTrue();
    }

    private boolean ended(long id) {
        return jdbc.sql("select ended_at is not null from series where id = :id")
                .param("id", id)
                .query(Boolean.class)
                .single();
    }
}
