package app.morvet.sources.messages;

import app.morvet.sources.messages.MessageStore.Span;
import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * What failed since some instant, for those who ask again and again while more fails: what is older than the last minute of it is
 * counted once, and again only where something is heard that is as old. It is for whoever takes all failures out of their queue,
 * since nobody else hears of each of them.
 */
@Component
public class FailuresSoFar {
    private static final Duration LATEST = Duration.ofMinutes(1);
    private static final long MANY = 500;
    private static final int ASKED_FOR = 10_000;

    private record Asked(MessageScope scope, Instant from) {}

    /** What failed before an instant. */
    private record Before(Instant end, Span span) {}

    private final MessageStore store;
    private final Cache<Asked, Before> counted = Caffeine.newBuilder()
            .maximumSize(ASKED_FOR)
            .expireAfterWrite(Duration.ofMinutes(5))
            .build();

    FailuresSoFar(MessageStore store) {
        this.store = store;
    }

    /** A failure is taken out of the queue; to be called before it is asked for anything that it counts in. */
    public void heard(long component, long family, Instant at) {
        counted.asMap()
                .entrySet()
                .removeIf(one -> at.isBefore(one.getValue().end())
                        && one.getKey().scope().mayTake(component, family));
    }

    /** Others took failures out of the queue. */
    public void missedSome() {
        counted.invalidateAll();
    }

    /** What failed from an instant on. What a rule takes is always counted: another rule may take of it what is old. */
    public Span since(MessageScope scope, Instant from, Instant until) {
        if (scope.rule() != null) return store.span(scope, from, until);
        var asked = new Asked(scope, from);
        var before = counted.getIfPresent(asked);
        var all = before == null
                ? store.span(scope, from, until)
                : before.span().plus(store.span(scope, before.end(), until));
        if (all.failures() >= MANY && all.last() != null) count(asked, before, all.last());
        return all;
    }

    private void count(Asked asked, @Nullable Before before, Instant last) {
        var end = last.minus(LATEST);
        var begin = before == null ? asked.from() : before.end();
        if (end.isBefore(begin.plus(LATEST))) return;
        var more = store.span(asked.scope(), begin, end.minus(1, ChronoUnit.MICROS));
        counted.put(asked, new Before(end, before == null ? more : before.span().plus(more)));
    }
}
