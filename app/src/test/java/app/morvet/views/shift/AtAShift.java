package app.morvet.views.shift;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;

/** A host in an application of its own, a guard over it, and an analyst who looks. */
abstract class AtAShift extends ToldAlerts {
    @Autowired
    private Windows windows;

    protected Subject host;
    protected long guard;
    protected String name = "";
    protected int minute;
    protected Browser analyst;

    @BeforeEach
    void somethingToWatch() throws Exception {
        host = component("host");
        guard = guard("hot");
        name = guards.all().stream()
                .filter(one -> one.id() == guard)
                .findFirst()
                .orElseThrow()
                .name();
        minute = (int) Duration.between(T, Instant.now()).toMinutes() - 5;
        analyst = freshlyLoggedIn("analyst");
    }

    /** Planned work on the host, from and to so many minutes from now. */
    protected void window(int from, int to) {
        var now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
        windows.set(StoredWindow.fresh(new MaintenanceWindow(
                "Work on " + host.key(),
                Scope.ALL.named(host.key()),
                Plan.once(now.plusSeconds(60L * from), now.plusSeconds(60L * to), ZoneId.of("Europe/Helsinki")),
                MaintenanceWindow.Effect.HOLD,
                MaintenanceWindow.Jobs.AS_EVER,
                "new firmware")));
    }
}
