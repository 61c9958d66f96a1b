package app.morvet.sources.messages;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/**
 * What failed since some instant, for those who ask again and again while more fails: it is counted once, and what is heard after
 * that is added. It is for whoever takes failures out of their queue, since nobody else hears of each of them once.
 */
@Component
public class FailuresSoFar {
    private final MessageStore store;
    private final Cache<MessageScope, Map<Instant, FailedSpan>> counted = Caffeine.newBuilder()
            .maximumSize(10_000)
            .expireAfterWrite(Duration.ofMinutes(5))
            .build();

    FailuresSoFar(MessageStore store) {
        this.store = store;
    }

    /** A failure that nobody counted is taken out of the queue. */
    public void heard(long component, long family, Instant at) {
        for (var scope : List.of(
                MessageScope.of(component),
                new MessageScope(component, family, null),
                new MessageScope(null, family, null))) {
            var since = counted.getIfPresent(scope);
            if (since != null)
                since.replaceAll((from, span) -> at.isBefore(from) ? span : span.plus(new FailedSpan(1, at, at)));
        }
    }

    /** Others took failures out of the queue, or what was taken is put back. */
    public void missedSome() {
        counted.invalidateAll();
    }

    /**
     * What failed from an instant on and is out of the queue. What a rule takes is counted each time: another rule may take some of
     * it.
     */
    public FailedSpan since(MessageScope scope, Instant from) {
        if (scope.rule() != null) return store.told(scope, from);
        return counted.get(scope, none -> new ConcurrentHashMap<>())
                .computeIfAbsent(from, none -> store.told(scope, from));
    }
}
