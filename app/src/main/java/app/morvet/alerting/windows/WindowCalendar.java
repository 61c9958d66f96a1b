package app.morvet.alerting.windows;

import app.morvet.core.windows.WindowIcs;
import app.morvet.ground.base.MorvetSettings;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import org.springframework.stereotype.Component;

/** All windows as iCalendar: what was in the last weeks and comes within a year, each time as an event of its own. */
@Component
class WindowCalendar {
    private static final Duration BACK = Duration.ofDays(30);
    private static final Duration AHEAD = Duration.ofDays(370);
    /** Of one that recurs every few minutes a calendar has no use. */
    private static final int MOST_OF_ONE = 800;

    private final Windows windows;
    private final MorvetSettings settings;
    private final Clock clock;

    WindowCalendar(Windows windows, MorvetSettings settings, Clock clock) {
        this.windows = windows;
        this.settings = settings;
        this.clock = clock;
    }

    String text() {
        var now = clock.instant();
        var events = new ArrayList<WindowIcs.Event>();
        var host = settings.address().getHost();
        for (var one : windows.all())
            one.window().plan().occurrences(now.minus(BACK), now.plus(AHEAD)).stream()
                    .limit(MOST_OF_ONE)
                    .map(it -> new WindowIcs.Event(
                            "window-%d-%s@%s".formatted(one.id(), it.meant(), host),
                            one.window().name(),
                            windows.sentence(one.window()),
                            settings.address() + "/windows/" + one.id(),
                            it.span()))
                    .forEach(events::add);
        return WindowIcs.write(events, now);
    }
}
