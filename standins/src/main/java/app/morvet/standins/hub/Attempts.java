package app.morvet.standins.hub;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What became of messages that were sent again. Asked twice with the same key, it answers the same and does it once.
 */
final class Attempts {
    private static final int KEPT = 100_000;

    /**
     * @param outcome delivered, failed or refused
     * @param attempt how many times it has been tried by now
     */
    record Outcome(String message, String outcome, int attempt, @Nullable String step, @Nullable String error) {}

    private final Map<String, Outcome> byKey = new LinkedHashMap<>() {
        private static final long serialVersionUID = 1;

        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Outcome> eldest) {
            return size() > KEPT;
        }
    };
    private final Map<String, Integer> tried = new LinkedHashMap<>();
    private final Map<String, Integer> stubborn = new LinkedHashMap<>();

    synchronized Optional<Outcome> known(String key) {
        return Optional.ofNullable(byKey.get(key));
    }

    synchronized int next(String message) {
        return tried.merge(message, 1, Integer::sum) + 1;
    }

    synchronized void remember(String key, Outcome outcome) {
        byKey.put(key, outcome);
    }

    /** The next so many messages of an interface that are sent again will fail, whatever was mended. */
    synchronized void failNext(String carrier, int count) {
        stubborn.put(carrier, count);
    }

    synchronized int failsNext(String carrier) {
        return stubborn.getOrDefault(carrier, 0);
    }

    synchronized boolean takeStubborn(String carrier) {
        int left = stubborn.getOrDefault(carrier, 0);
        if (left > 0) stubborn.put(carrier, left - 1);
        return left > 0;
    }
}
