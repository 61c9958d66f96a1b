package app.morvet.alerts;

import java.util.Optional;
import org.springframework.stereotype.Service;

/** Alerts, looked up. */
@Service
public class Alerts {
    private final AlertStore store;

    Alerts(AlertStore store) {
        this.store = store;
    }

    /** The series that an alert last spoke of; empty for one that is older than series are. */
    public Optional<Long> seriesOf(long alert) {
        return store.seriesOf(alert);
    }
}
