package app.morvet.views.windows;

import app.morvet.ToldAlerts;
import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Amount;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.MaintenanceWindow.Effect;
import app.morvet.core.windows.Plan;
import app.morvet.ground.estate.Groups;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.beans.factory.annotation.Autowired;

/** What happens to alerts in windows is told by a guard over a value that is high, or not. */
abstract class AlertsInWindows extends ToldAlerts {
    protected static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    protected static final AtomicInteger NUMBER = new AtomicInteger();
    protected final Instant now = Instant.now().truncatedTo(ChronoUnit.SECONDS);

    @Autowired
    protected Windows windows;

    @Autowired
    protected Groups groups;

    protected Instant in(int minutes) {
        return now.plus(Duration.ofMinutes(minutes));
    }

    protected long window(Scope scope, int from, int to, Effect effect, boolean quiet) {
        var window = new MaintenanceWindow(
                "Work " + NUMBER.incrementAndGet(),
                scope,
                Plan.once(in(from), in(to), ZONE),
                effect,
                MaintenanceWindow.Jobs.AS_EVER,
                "");
        return windows.set(new StoredWindow(0, window, "", quiet, null, null, 0));
    }

    protected long over(Subject subject, int from, int to) {
        return window(Scope.ALL.named(subject.key()).withAllOnIt(), from, to, Effect.HOLD, false);
    }

    protected StoredWindow stored(long id) {
        return windows.find(id).orElseThrow();
    }

    protected void end(long id) {
        windows.end(id, stored(id).version(), person("analyst"));
    }

    /** A guard over a value that is high, or not: nothing of it stands on the past. */
    protected long gauge() {
        return guard("gauge", Amount.Fold.MAX, "");
    }

    protected void move(long guard, Subject subject, Transition.Kind kind, int minute, Severity level, double value) {
        var words = "heat is " + value + " on " + subject.key();
        tell(guard, subject, new Transition(kind, in(minute), level, value, value), words, words);
    }

    protected void raise(long guard, Subject subject, int minute, Severity level, double value) {
        move(guard, subject, Transition.Kind.RAISED, minute, level, value);
    }

    protected void over(long guard, Subject subject, int minute) {
        move(guard, subject, Transition.Kind.CLEARED, minute, null, 0);
    }
}
