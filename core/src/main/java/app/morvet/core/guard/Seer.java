package app.morvet.core.guard;

import app.morvet.core.readings.Past;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What guards learn from the past of one series. One that remembers it spares a live round the same questions again and again, and a
 * trend whose target is dragged about its projections.
 */
public interface Seer {
    Seer FRESH = Projection::of;

    /** Where the series is heading, as seen at an instant; null where too little was heard. */
    @Nullable
    Projection of(Past past, Instant seen, TrendGuard guard);

    /**
     * What is usual in an hour.
     *
     * @param hour its start
     * @return null where too little was heard
     */
    default @Nullable UsualRange usual(Past past, Instant hour, BandGuard guard) {
        return UsualRange.learn(past, hour, guard.weeks(), guard.zone());
    }
}
