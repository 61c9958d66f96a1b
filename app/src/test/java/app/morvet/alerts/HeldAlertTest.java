package app.morvet.alerts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ToldAlerts;
import app.morvet.core.alert.Move;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/** An alert that something covers is recorded, and is nobody's work. */
class HeldAlertTest extends ToldAlerts {
    /** Covers what a test says. */
    @Component
    static class Covering implements Holding {
        private final Set<Long> components = ConcurrentHashMap.newKeySet();

        @Override
        public boolean covers(Move raised) {
            return components.contains(raised.about().component());
        }
    }

    @Autowired
    private Covering covering;

    @Test
    void whatIsCoveredWhenItIsRaisedIsRecordedToItsEndAndOpensNoCase() {
        var guard = guard("held");
        var host = component(host());
        covering.components.add(host.id());
        raised(guard, host, 0, WARNING, 3);
        rose(guard, host, 1, 9);
        counted(guard, host, 2, 8, 9);
        cleared(guard, host, 5, 9);
        assertThat(casesOf(host)).isEmpty();
        assertThat(jdbc.sql(
                                "select held, level, worst, cleared_at is not null as over from alert where component_id = :id")
                        .param("id", host.id())
                        .query()
                        .singleRow())
                .containsEntry("held", true)
                .containsEntry("level", "CRITICAL")
                .containsEntry("worst", 9.0)
                .containsEntry("over", true);
    }

    @Test
    void whatIsCoveredNoLongerIsWorkAgain() {
        var guard = guard("released");
        var host = component(host());
        covering.components.add(host.id());
        raised(guard, host, 0, CRITICAL, 9);
        cleared(guard, host, 1, 9);
        covering.components.remove(host.id());
        raised(guard, host, 2, CRITICAL, 9);
        assertThat(casesOf(host)).hasSize(1);
    }
}
