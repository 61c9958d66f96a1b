package app.morvet.core.checks;

import app.morvet.core.guard.Spans;
import java.time.Duration;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Function;

/**
 * The holes of a sentence as they were filled in. What cannot be meant is noted by its field, and something harmless stands
 * for it, so that all that is wrong is told at once.
 */
public final class Fields {
    private final Map<String, String> typed;
    private final Map<String, String> errors = new LinkedHashMap<>();

    Fields(Map<String, String> typed) {
        this.typed = new HashMap<>(typed);
    }

    /** Without blanks around it; empty where nothing was filled in. */
    public String text(String name) {
        return typed.getOrDefault(name, "").strip();
    }

    public boolean has(String name) {
        return !text(name).isEmpty();
    }

    /** Something that is written as a text. */
    public <T extends @org.jspecify.annotations.Nullable Object> T read(
            String name, Function<String, T> how, T otherwise) {
        try {
            return how.apply(text(name));
        } catch (IllegalArgumentException wrong) {
            errors.putIfAbsent(name, String.valueOf(wrong.getMessage()));
            return otherwise;
        }
    }

    public int whole(String name) {
        return read(
                name,
                text -> {
                    if (!text.matches("\\d{1,9}"))
                        throw new IllegalArgumentException("\"" + text + "\" is not a whole number");
                    return Integer.parseInt(text);
                },
                1);
    }

    public Duration span(String name) {
        return read(name, Spans::read, Duration.ofSeconds(1));
    }

    Map<String, String> errors() {
        return errors;
    }

    /** For what is wrong with them together, said at the first of them. */
    void wrong(String name, RuntimeException wrong) {
        if (errors.isEmpty()) errors.put(name, String.valueOf(wrong.getMessage()));
    }
}
