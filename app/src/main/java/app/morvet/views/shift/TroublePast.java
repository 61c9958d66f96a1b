package app.morvet.views.shift;

import app.morvet.alerting.alerts.Alerts;
import app.morvet.core.alert.ReliefTrack;
import app.morvet.ground.base.Remembered;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;

/** What was wrong in the last hours, on all components: read once for all who look in the same minute, until something moves. */
@Component
class TroublePast {
    private static final Duration BACK = Duration.ofHours(12);

    /** @param on by component, up to the end of the minute */
    record Past(Instant from, Instant to, Map<Long, List<ReliefTrack.Stretch>> on) {}

    private final Alerts alerts;
    private final Times times;
    private final Remembered<Past> past;

    TroublePast(Alerts alerts, Times times, Live live) {
        this.alerts = alerts;
        this.times = times;
        this.past = new Remembered<>(this::read, one -> one.to().equals(times.endOfMinute()));
        live.hear(Set.of("cases"), past::forget);
    }

    Past past() {
        return past.get();
    }

    private Past read() {
        var to = times.endOfMinute();
        var from = to.minus(BACK);
        var on = new HashMap<Long, List<ReliefTrack.Stretch>>();
        for (var one : alerts.stretches(from, to))
            on.computeIfAbsent(one.component(), none -> new ArrayList<>())
                    .add(new ReliefTrack.Stretch(one.level(), one.from(), one.to()));
        return new Past(from, to, on);
    }
}
