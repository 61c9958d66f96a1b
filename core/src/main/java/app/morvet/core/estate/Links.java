package app.morvet.core.estate;

import java.util.Collection;
import org.jspecify.annotations.Nullable;

/** How components hang together, by their ids. */
public interface Links {
    /** What a component needs to work, in an order that stays. */
    Collection<Long> needs(long component);

    /** What it stands on, if anything. */
    @Nullable
    Long standsOn(long component);

    /** What needs it to work, or stands on it. */
    Collection<Long> dependents(long component);
}
