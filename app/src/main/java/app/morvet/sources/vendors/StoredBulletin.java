package app.morvet.sources.vendors;

import app.morvet.core.vendors.Bulletin;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A bulletin as it is kept.
 *
 * @param goneAt since when the feed does not have it any more, or null
 */
public record StoredBulletin(
        long id,
        long component,
        long connection,
        Bulletin said,
        Instant firstSeen,
        Instant lastSeen,
        @Nullable Instant goneAt,
        int version) {
    /** Whether it is about what is or comes: said to be neither over nor, where it has an end, past that. */
    public boolean isOpen(Instant now) {
        var to = said.to();
        return !said.over() && goneAt == null && (to == null || to.isAfter(now));
    }
}
