package app.morvet.alerting.windows;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** What windows held, for pages. */
@Service
public class HeldView {
    /**
     * @param until    the end of what held it
     * @param rests    whether it stands on what happened inside alone
     * @param released since when it is work; null where it never was
     */
    public record Held(Alert alert, Instant until, boolean rests, @Nullable Instant released) {
        public boolean work() {
            return released != null;
        }
    }

    private final HeldStore store;
    private final Alerts alerts;

    HeldView(HeldStore store, Alerts alerts) {
        this.store = store;
        this.alerts = alerts;
    }

    /** What was held in one time of a window, the first first; at most so many. */
    public List<Held> in(Windows.Time time, int most) {
        return rows(store.in(time.window(), time.meant(), most));
    }

    private List<Held> rows(List<HeldStore.Row> rows) {
        var byId = new java.util.HashMap<Long, Alert>();
        alerts.byIds(rows.stream().map(HeldStore.Row::alert).toList()).forEach(one -> byId.put(one.id(), one));
        return rows.stream()
                .filter(one -> byId.containsKey(one.alert()))
                .map(one -> new Held(
                        java.util.Objects.requireNonNull(byId.get(one.alert())),
                        one.until(),
                        one.restsAt() != null,
                        one.released()))
                .toList();
    }
}
