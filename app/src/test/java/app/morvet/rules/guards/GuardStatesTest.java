package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.alert.Severity;
import app.morvet.core.guard.GuardState;
import app.morvet.core.guard.Watch;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** What guards have to remember is read back as it was, to the microsecond. */
class GuardStatesTest extends MorvetTest {
    private static final Instant AT = Instant.parse("2027-03-18T03:20:00.000250Z");

    @Autowired
    private GuardStore store;

    @Autowired
    private TransactionTemplate transaction;

    private static GuardState quiet(Instant to) {
        return GuardState.startingAt(to);
    }

    private static GuardState up(Severity level, double value, Instant... raises) {
        return new GuardState(
                AT, true, level, AT.minusSeconds(60), AT.minusSeconds(30), null, value, 99.5, true, List.of(raises));
    }

    private void keep(Map<GuardStore.Key, GuardState> states) {
        store.keep(List.copyOf(states.keySet()), List.copyOf(states.values()));
    }

    /** Of a guard that is off, and seen by nobody else: rounds go by meanwhile. */
    @Test
    void manyAreKeptAtOnceAndOneIsChanged() throws Exception {
        setUpOnce();
        var host = "host-" + UUID.randomUUID().toString().substring(0, 8);
        assertThat(tell("heat{component=\"%1$s\"} 1\nload{component=\"%1$s\"} 1\nfill{component=\"%1$s\"} 1\n"
                                .formatted(host))
                        .statusCode())
                .isEqualTo(202);
        var series = jdbc.sql(
                        "select s.id from series s join component c on c.id = s.component_id where c.key = :key order by s.id")
                .param("key", host)
                .query(Long.class)
                .list();
        var rule = SomeWatches.over(1).guard().rule();
        long guard = guards.add(
                new StoredGuard(0, "States of " + host, false, Watch.of("heat"), rule, "", null, 0), person("lead"));
        var first = new GuardStore.Key(guard, series.get(0));
        var second = new GuardStore.Key(guard, series.get(1));
        var third = new GuardStore.Key(guard, series.get(2));
        var states = Map.of(
                first, quiet(AT),
                second, up(Severity.WARNING, Double.NaN),
                third, up(Severity.CRITICAL, -0.5, AT.minusSeconds(600), AT.minusSeconds(60)));
        transaction.executeWithoutResult(status -> {
            status.setRollbackOnly();
            keep(states);
            assertThat(store.statesOf(guard)).isEqualTo(states);
            var later = quiet(AT.plusSeconds(60));
            keep(Map.of(third, later));
            assertThat(store.statesOf(guard)).containsEntry(third, later).containsEntry(second, states.get(second));
            keep(Map.of());
            assertThat(store.statesOf(guard)).hasSize(3);
        });
    }
}
