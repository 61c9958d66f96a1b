package app.morvet.work.cases;

import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Brings quiet cases back when their time has come. Whether one is quiet follows from the time alone; this tells it. */
@Component
class QuietEnds {
    private final CaseStore store;
    private final Live live;
    private final Times times;

    QuietEnds(CaseStore store, Live live, Times times) {
        this.store = store;
        this.live = live;
        this.times = times;
    }

    @Scheduled(fixedDelay = 2000)
    @Transactional
    void tell() {
        var now = times.now();
        var ended = store.quietEnded(now);
        for (var one : ended) {
            store.change(one, one.progress().quietUntil(null));
            store.addEntry(
                    one.id(),
                    now,
                    null,
                    "woke",
                    one.overSince() == null
                            ? "Quiet has ended, and it is still going on"
                            : "Quiet has ended; it is over by now",
                    null);
        }
        if (!ended.isEmpty()) {
            live.changed("cases");
            live.changed("now");
        }
    }
}
