package app.morvet.sources.checks;

import app.morvet.core.checks.Expectation;
import app.morvet.core.checks.Target;
import app.morvet.core.guard.Spans;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.base.SpanText;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The sentence form of a check, as texts, just as they were typed. */
record CheckForm(Map<String, String> fields) {
    private static final Map<String, String> PLAIN = Map.ofEntries(
            Map.entry("kind", "http"),
            Map.entry("every", "5 min"),
            Map.entry("tries", "1"),
            Map.entry("method", "GET"),
            Map.entry("codes", "200"),
            Map.entry("patience", "10 s"),
            Map.entry("days", "21"),
            Map.entry("version", "0"));

    /** @param kinds of checks, each with what it is called */
    static final Map<String, String> KINDS = kinds();

    private static Map<String, String> kinds() {
        var kinds = new LinkedHashMap<String, String>();
        kinds.put("http", "web call");
        kinds.put("port", "port");
        kinds.put("certificate", "certificate");
        return kinds;
    }

    CheckForm {
        var all = new HashMap<>(PLAIN);
        fields.forEach((name, value) -> {
            if (value != null) all.put(name, value);
        });
        fields = Map.copyOf(all);
    }

    public String get(String name) {
        return fields.getOrDefault(name, "").strip();
    }

    public boolean has(String name, String value) {
        return get(name).equals(value);
    }

    /** @param headers as they are shown: without what they say */
    static CheckForm of(StoredCheck one, String component, String headers) {
        var fields = new HashMap<String, String>();
        fields.put("name", one.name());
        fields.put("component", component);
        fields.put("every", Spans.words(one.every()));
        fields.put("tries", "" + one.tries());
        fields.put("version", "" + one.version());
        fields.put("kind", CheckStore.kind(one.target()));
        fields.put("patience", millis(one.target().patience()));
        fields.put("headers", headers);
        fields.put("active", one.active() ? "yes" : "");
        switch (one.target()) {
            case Target.Http it -> {
                fields.put("method", it.method());
                fields.put("url", it.url());
                fields.put("body", it.body());
                fields.put("follow", it.follow() ? "yes" : "");
                for (var expected : it.expectations()) {
                    if (expected instanceof Expectation.Code code) fields.put("codes", code.ranges());
                    if (expected instanceof Expectation.Within within) fields.put("within", millis(within.most()));
                }
                fields.put(
                        "expected",
                        it.expectations().stream()
                                .filter(any -> !(any instanceof Expectation.Code || any instanceof Expectation.Within))
                                .map(Expectation::words)
                                .collect(Collectors.joining("\n")));
            }
            case Target.Port it -> {
                fields.put("host", it.name());
                fields.put("port", "" + it.port());
                fields.put("firstLine", it.firstLine());
            }
            case Target.Certificate it -> {
                fields.put("host", it.name());
                fields.put("port", "" + it.port());
                fields.put("days", "" + it.days());
            }
        }
        return new CheckForm(fields);
    }

    private static String millis(Duration span) {
        return span.toMillis() % 1000 == 0 ? span.toSeconds() + " s" : span.toMillis() + " ms";
    }

    /**
     * What it means.
     *
     * @param target null while it means nothing; the errors say why
     * @param errors by field
     */
    record Read(@Nullable Target target, Duration every, int tries, Map<String, String> errors) {}

    Read read() {
        var errors = new LinkedHashMap<String, String>();
        var every = part("every", errors, () -> SpanText.read(get("every")));
        var tries = part("tries", errors, () -> whole("tries"));
        var target = target(errors);
        return new Read(
                errors.isEmpty() ? target : null,
                every == null ? Duration.ofMinutes(5) : every,
                tries == null ? 1 : tries,
                errors);
    }

    private @Nullable Target target(Map<String, String> errors) {
        var patience = part("patience", errors, () -> time(get("patience")));
        if (has("kind", "http")) return http(patience, errors);
        var port = part("port", errors, () -> whole("port"));
        if (patience == null || port == null) return null;
        if (has("kind", "port"))
            return part("host", errors, () -> new Target.Port(get("host"), port, get("firstLine"), patience));
        var days = part("days", errors, () -> whole("days"));
        return days == null
                ? null
                : part("host", errors, () -> new Target.Certificate(get("host"), port, days, patience));
    }

    private @Nullable Target http(@Nullable Duration patience, Map<String, String> errors) {
        var expectations = new ArrayList<Expectation>();
        var code = part("codes", errors, () -> Expectation.Code.of(get("codes")));
        if (code != null) expectations.add(code);
        if (!get("within").isEmpty()) {
            var within = part("within", errors, () -> new Expectation.Within(time(get("within"))));
            if (within != null) expectations.add(within);
        }
        var more = part("expected", errors, () -> Expectation.read(fields.getOrDefault("expected", "")));
        expectations.addAll(more == null ? List.<Expectation>of() : more);
        if (patience == null) return null;
        return part(
                "url",
                errors,
                () -> new Target.Http(
                        get("method"),
                        get("url"),
                        fields.getOrDefault("body", ""),
                        has("follow", "yes"),
                        patience,
                        expectations));
    }

    /** Shorter than what else is written in sentences: also in thousandths of a second. */
    private static Duration time(String text) {
        if (text.matches("\\d{1,6} ?ms")) return Duration.ofMillis(Long.parseLong(text.replaceAll("\\D", "")));
        return SpanText.read(text);
    }

    private int whole(String name) {
        if (!get(name).matches("\\d{1,6}"))
            throw new IllegalArgumentException("\"" + get(name) + "\" is not a whole number");
        return Integer.parseInt(get(name));
    }

    private static <T> @Nullable T part(String field, Map<String, String> errors, Supplier<T> part) {
        try {
            return part.get();
        } catch (IllegalArgumentException wrong) {
            errors.putIfAbsent(field, Sentence.of(wrong));
            return null;
        }
    }
}
