package app.morvet.sources.messages;

import app.morvet.core.messages.SearchWords;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Which failed messages are looked for; what is null or empty does not matter.
 *
 * @param key   business key, whole
 * @param words in error, attributes or payload: words, {@code "a phrase"}, {@code or}, {@code -without}
 * @param from  not older than this
 * @param to    before this
 */
public record MessageQuery(
        @Nullable Long component,
        @Nullable Long family,
        @Nullable Long rule,
        State state,
        String key,
        String words,
        Instant from,
        Instant to) {
    /** How a failed message stands. */
    public enum State {
        ANY("all"),
        OPEN("open"),
        DEALT("dealt with"),
        COUNTED("only counted");

        private final String words;

        State(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        static State of(String name) {
            for (var state : values()) if (state.name().equalsIgnoreCase(name)) return state;
            return ANY;
        }
    }

    public MessageQuery {
        if (key.length() > 200) throw new IllegalArgumentException("A business key has at most 200 characters.");
        if (words.length() > 500) throw new IllegalArgumentException("Look for at most 500 characters.");
        if (!from.isBefore(to)) throw new IllegalArgumentException("The time from must lie before the time to.");
    }

    /** What is asked of the index of words; empty where nothing is. */
    String asked() {
        return SearchWords.asked(words);
    }

    MessageQuery withoutWords() {
        return new MessageQuery(component, family, rule, state, key, "", from, to);
    }

    MessageQuery over(Instant start, Instant end) {
        return new MessageQuery(component, family, rule, state, key, words, start, end);
    }

    /** What is kept of it as a saved search: all but the time. */
    Map<String, String> kept(String interfaceKey) {
        var kept = new LinkedHashMap<String, String>();
        if (!interfaceKey.isEmpty()) kept.put("interface", interfaceKey);
        if (family != null) kept.put("family", String.valueOf(family));
        if (rule != null) kept.put("rule", String.valueOf(rule));
        if (state != State.ANY) kept.put("state", state.name().toLowerCase(java.util.Locale.ROOT));
        if (!key.isEmpty()) kept.put("key", key);
        if (!words.isEmpty()) kept.put("q", words);
        return kept;
    }
}
