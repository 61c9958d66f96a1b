package app.morvet.alerts;

import app.morvet.core.alert.Severity;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Alerts, looked up. */
@Service
public class Alerts {
    private final AlertStore store;

    Alerts(AlertStore store) {
        this.store = store;
    }

    /** A time in which something about a component alerted; {@code to} is null while it does. */
    public record Stretch(long component, Severity level, Instant from, @Nullable Instant to) {}

    /** What alerted on some components in a span, in order of time. */
    public List<Stretch> stretches(Collection<Long> components, Instant from, Instant to) {
        return store.stretches(components, from, to).stream()
                .map(one -> new Stretch(one.component(), one.level(), one.from(), one.to()))
                .toList();
    }

    /** The series that an alert last spoke of; empty for one that is older than series are. */
    public Optional<Long> seriesOf(long alert) {
        return store.seriesOf(alert);
    }
}
