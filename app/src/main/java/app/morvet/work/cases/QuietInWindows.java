package app.morvet.work.cases;

import app.morvet.alerting.windows.WindowMoved;
import app.morvet.alerting.windows.Windows;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import java.time.Instant;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** What was open before a window stays open; where the window says so, it is quiet while that is on. */
@Component
class QuietInWindows {
    private final CaseStore store;
    private final Windows windows;
    private final Estate estate;
    private final Live live;
    private final Times times;

    QuietInWindows(CaseStore store, Windows windows, Estate estate, Live live, Times times) {
        this.store = store;
        this.windows = windows;
        this.estate = estate;
        this.live = live;
        this.times = times;
    }

    @EventListener
    void on(WindowMoved.Begun begun) {
        if (!begun.window().quiet()) return;
        var name = begun.window().window().name();
        var until = begun.time().to();
        for (var one : store.open()) {
            var quiet = one.progress().quietUntil();
            if (quiet != null && !quiet.isBefore(until) || !covers(begun, one)) continue;
            store.change(one, one.progress().quietUntil(until));
            entry(
                    one,
                    begun.time().from(),
                    "quiet",
                    "Quiet until %s, while the window \"%s\" is on".formatted(times.of(until), name));
        }
    }

    private boolean covers(WindowMoved moved, WorkCase one) {
        return moved.window().window().scope().takes(windows.factsOf(estate.component(one.component())));
    }

    /** One that ends early ends the quiet that it brought. */
    @EventListener
    void on(WindowMoved.Ended ended) {
        var now = times.now();
        if (!ended.window().quiet() || !ended.time().to().isAfter(now)) return;
        for (var one : store.open()) {
            if (!ended.time().to().equals(one.progress().quietUntil()) || !covers(ended, one)) continue;
            store.change(one, one.progress().quietUntil(null));
            entry(one, now, "woke", "Quiet has ended with the window");
        }
    }

    private void entry(WorkCase one, Instant at, String kind, String words) {
        store.addEntry(one.id(), at, null, kind, words, null);
        live.changed("cases");
        live.changed("now");
    }
}
