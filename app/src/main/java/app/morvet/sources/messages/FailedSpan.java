package app.morvet.sources.messages;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What failed in a span.
 *
 * @param first null when nothing failed
 * @param last  null when nothing failed
 */
public record FailedSpan(long failures, @Nullable Instant first, @Nullable Instant last) {
    FailedSpan plus(FailedSpan more) {
        return new FailedSpan(failures + more.failures, earlier(first, more.first), later(last, more.last));
    }

    private static @Nullable Instant earlier(@Nullable Instant one, @Nullable Instant other) {
        return one == null || other != null && other.isBefore(one) ? other : one;
    }

    private static @Nullable Instant later(@Nullable Instant one, @Nullable Instant other) {
        return one == null || other != null && other.isAfter(one) ? other : one;
    }
}
