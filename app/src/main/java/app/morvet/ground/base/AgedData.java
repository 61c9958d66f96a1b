package app.morvet.ground.base;

import java.time.Instant;

/** Data of a feature that is kept for so long and no longer. */
public interface AgedData {
    /** Drops what is older than it is kept. It may be called again when it was cut off in the middle. */
    void dropOld(Instant now);
}
