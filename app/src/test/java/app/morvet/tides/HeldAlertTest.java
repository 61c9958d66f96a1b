package app.morvet.tides;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ToldAlerts;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** An alert that something covers is recorded, and is nobody's work. */
class HeldAlertTest extends ToldAlerts {
    @Autowired
    private Covering covering;

    /** What no window holds that is known, a round over windows lets go at any time. */
    @BeforeEach
    void withoutRoundsOverWindows() {
        round("windowRound").stop();
    }

    @AfterEach
    void roundsOverWindowsGoOn() {
        round("windowRound").start();
    }

    @Test
    void whatIsCoveredWhenItIsRaisedIsRecordedToItsEndAndOpensNoCase() {
        var guard = guard("held");
        var host = component(host());
        covering.cover(host.id());
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
        covering.cover(host.id());
        raised(guard, host, 0, CRITICAL, 9);
        cleared(guard, host, 1, 9);
        covering.release(host.id());
        raised(guard, host, 2, CRITICAL, 9);
        assertThat(casesOf(host)).hasSize(1);
    }
}
