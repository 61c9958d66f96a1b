package app.morvet.alerting.windows;

import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.Paused;
import app.morvet.sources.checks.Checks;
import app.morvet.sources.outposts.Outposts;
import app.morvet.sources.readings.SeriesBook;
import java.time.Clock;
import org.springframework.context.annotation.Lazy;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** In windows that pause checks nothing is asked; at their end all is, at once. */
@Component
class PausedChecks implements Paused {
    private final Windows windows;
    private final Outposts outposts;
    private final Checks checks;
    private final SeriesBook series;
    private final Estate estate;
    private final Clock clock;

    PausedChecks(
            @Lazy Windows windows,
            @Lazy Outposts outposts,
            @Lazy Checks checks,
            SeriesBook series,
            Estate estate,
            Clock clock) {
        this.windows = windows;
        this.outposts = outposts;
        this.checks = checks;
        this.series = series;
        this.estate = estate;
        this.clock = clock;
    }

    @Override
    public boolean any() {
        var now = clock.instant();
        return windows.on(now).stream().anyMatch(one -> one.window().pauses());
    }

    @Override
    public boolean now(Estate.Component one) {
        var now = clock.instant();
        return windows.cover(now).pauses(windows.factsOf(one), now);
    }

    @Override
    public boolean feed(long id) {
        var now = clock.instant();
        var told = series.componentsOfFeed(id);
        return !told.isEmpty()
                && told.stream()
                        .allMatch(one -> windows.cover(now).pauses(windows.factsOf(estate.component(one)), now));
    }

    @EventListener
    void on(WindowMoved moved) {
        if (!moved.window().window().pauses()) return;
        // What outposts ask is in their briefs.
        outposts.asked();
        if (moved instanceof WindowMoved.Ended)
            checks.dueNow(moved.window().window().scope());
    }
}
