package app.morvet.core.guard;

import app.morvet.core.readings.Past;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Makes projections of one series; one that remembers them spares a trend whose target is dragged about. */
public interface Seer {
    Seer FRESH = Projection::of;

    @Nullable
    Projection of(Past past, Instant seen, TrendGuard guard);
}
