package app.morvet.tides;

import app.morvet.alerting.alerts.Holding;
import app.morvet.core.alert.Move;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** Covers the components that a test says. */
@Component
class Covering implements Holding {
    private final Set<Long> components = ConcurrentHashMap.newKeySet();

    void cover(long component) {
        components.add(component);
    }

    void release(long component) {
        components.remove(component);
    }

    @Override
    public boolean covers(Move raised) {
        return components.contains(raised.about().component());
    }
}
