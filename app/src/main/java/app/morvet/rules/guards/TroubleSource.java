package app.morvet.rules.guards;

import app.morvet.core.guard.Hindsight;
import java.time.Instant;
import java.util.Collection;
import java.util.List;

/**
 * What people said of past trouble. Asked for by guards and answered by cases, which lie downstream: so the bench can hold
 * a replay against it and nothing walks back.
 */
public interface TroubleSource {
    /** Past cases on some components that ran in a span, as they were settled. */
    List<Hindsight.Trouble> on(Collection<Long> components, Instant from, Instant to);
}
