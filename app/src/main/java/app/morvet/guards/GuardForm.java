package app.morvet.guards;

import app.morvet.core.guard.Clearing;
import app.morvet.core.guard.CountWindow;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Watched;
import java.time.Duration;
import java.time.ZoneId;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The sentence form of a guard, as texts, just as they were typed. What cannot be read stands as an error at its field.
 *
 * @param watched  {@code every}, {@code application:KEY} or {@code interface:KEY}
 * @param window   {@code midnight} or {@code sliding}
 * @param minutes  length of a sliding window
 * @param warning  the warning limit; empty for none
 * @param critical the critical limit; empty for none
 * @param margin   clear margin in per cent
 * @param calm     clear time in minutes
 */
record GuardForm(
        String name,
        String watched,
        String window,
        String minutes,
        String warning,
        String critical,
        String margin,
        String calm,
        String fixNote,
        int version) {

    static final GuardForm NEW = new GuardForm("", "every", "midnight", "15", "10", "100", "90", "5", "", 0);

    /** What the form means, or why it means nothing. */
    record Read(Watched watched, @Nullable LimitGuard guard, Map<String, String> errors) {}

    static GuardForm of(StandingGuard standing) {
        var rule =
                switch (standing.rule()) {
                    case LimitGuard limit -> limit;
                };
        var watched =
                switch (standing.watched()) {
                    case Watched.EveryInterface() -> "every";
                    case Watched.InterfacesOf(var application) -> "application:" + application;
                    case Watched.OneInterface(var component) -> "interface:" + component;
                };
        var length = rule.window() instanceof CountWindow.Sliding(var it) ? it : Duration.ofMinutes(15);
        return new GuardForm(
                standing.name(),
                watched,
                rule.window() instanceof CountWindow.Sliding ? "sliding" : "midnight",
                Limits.number(length.toMinutes()),
                text(rule.limits().warning()),
                text(rule.limits().critical()),
                Limits.number(Math.round(rule.clearing().margin() * 1000) / 10.0),
                Limits.number(rule.clearing().time().toSeconds() / 60.0),
                standing.fixNote(),
                standing.version());
    }

    private static String text(@Nullable Double limit) {
        return limit == null ? "" : Limits.number(limit);
    }

    Read read(ZoneId zone) {
        var errors = new LinkedHashMap<String, String>();
        if (name.isBlank()) errors.put("name", "Give the guard a name.");
        if (name.length() > 100) errors.put("name", "At most 100 characters.");
        if (fixNote.length() > 20_000) errors.put("fixNote", "At most 20,000 characters.");
        var watches = watched.startsWith("application:")
                ? new Watched.InterfacesOf(watched.substring(12))
                : watched.startsWith("interface:")
                        ? new Watched.OneInterface(watched.substring(10))
                        : new Watched.EveryInterface();
        var window = part(
                errors,
                "minutes",
                () -> "sliding".equals(this.window)
                        ? new CountWindow.Sliding(minutes("minutes", errors, minutes))
                        : new CountWindow.SinceMidnight(zone));
        var low = number("warning", errors, warning);
        var high = number("critical", errors, critical);
        var limits = errors.containsKey("warning") || errors.containsKey("critical")
                ? null
                : part(errors, "critical", () -> new Limits(low, high));
        var share = number("margin", errors, margin);
        var clearing = part(
                errors, "margin", () -> new Clearing((share == null ? 0 : share) / 100, minutes("calm", errors, calm)));
        boolean whole = window != null
                && limits != null
                && clearing != null
                && errors.keySet().stream().allMatch(at -> at.equals("name") || at.equals("fixNote"));
        return new Read(watches, whole ? new LimitGuard(window, limits, clearing) : null, errors);
    }

    private interface Part<T> {
        T get();
    }

    private static <T> @Nullable T part(Map<String, String> errors, String field, Part<T> part) {
        try {
            return part.get();
        } catch (IllegalArgumentException | ArithmeticException wrong) {
            errors.putIfAbsent(field, sentence(String.valueOf(wrong.getMessage())));
            return null;
        }
    }

    private static String sentence(String words) {
        return Character.toUpperCase(words.charAt(0)) + words.substring(1) + ".";
    }

    private static @Nullable Double number(String field, Map<String, String> errors, String text) {
        if (text.isBlank()) return null;
        try {
            return Double.valueOf(text.strip().replace(',', '.'));
        } catch (NumberFormatException notOne) {
            errors.put(field, "\"" + text + "\" is not a number.");
            return null;
        }
    }

    private static Duration minutes(String field, Map<String, String> errors, String text) {
        var number = number(field, errors, text);
        if (number == null) {
            errors.putIfAbsent(field, "Give a number of minutes.");
            return Duration.ofMinutes(5);
        }
        return Duration.ofSeconds(Math.round(number * 60));
    }
}
