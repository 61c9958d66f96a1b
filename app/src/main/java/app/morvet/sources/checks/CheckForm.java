package app.morvet.sources.checks;

import app.morvet.core.checks.Cadence;
import app.morvet.core.checks.Kind;
import app.morvet.core.checks.Kinds;
import app.morvet.core.checks.Look;
import app.morvet.core.checks.WebCall;
import app.morvet.ground.base.Sentence;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Base64;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The sentence form of a check, as texts, just as they were typed. */
record CheckForm(Map<String, String> fields) {
    private static final Map<String, String> PLAIN =
            Map.of("kind", "http", "every", "5 min", "tries", "1", "agree", "1", "version", "0", "steps", "1");

    CheckForm {
        var all = new HashMap<>(PLAIN);
        fields.forEach((name, value) -> {
            if (value != null) all.put(name, value);
        });
        for (var field : kind(all.get("kind")).fields()) all.putIfAbsent(field.name(), field.plain());
        for (int n = 2; n <= WebCall.MOST_STEPS; n++) all.putIfAbsent("codes" + n, "200");
        fields = Map.copyOf(all);
    }

    private static Kind kind(@Nullable String key) {
        return Kinds.ALL.stream()
                .filter(one -> one.key().equals(key))
                .findFirst()
                .orElse(WebCall.KIND);
    }

    public Kind kind() {
        return kind(fields.get("kind"));
    }

    public String get(String name) {
        return fields.getOrDefault(name, "").strip();
    }

    public boolean has(String name, String value) {
        return get(name).equals(value);
    }

    /** The numbers behind the names of the fields of a web call's steps; the first has none. */
    public List<String> steps() {
        int steps = get("steps").matches("\\d{1,2}") ? Integer.parseInt(get("steps")) : 1;
        int most = Math.max(1, Math.min(WebCall.MOST_STEPS, steps));
        return IntStream.rangeClosed(1, WebCall.MOST_STEPS)
                .filter(n -> n <= most || !get("url" + n).isEmpty())
                .mapToObj(n -> n == 1 ? "" : "" + n)
                .toList();
    }

    /** Whether an outpost is chosen to ask from. */
    public boolean from(long outpost) {
        return !get("from-" + outpost).isEmpty();
    }

    public List<Long> from() {
        return fields.keySet().stream()
                .filter(name -> name.matches("from-\\d{1,18}") && !get(name).isEmpty())
                .map(name -> Long.parseLong(name.substring(5)))
                .sorted()
                .toList();
    }

    /**
     * @param headers as they are shown: without what they say
     * @param logIn   the same
     */
    static CheckForm of(StoredCheck one, String component, String headers, String logIn) {
        var fields = new HashMap<>(one.look().fields());
        fields.put("name", one.name());
        fields.put("component", component);
        fields.put("every", one.every().text());
        fields.put("tries", "" + one.tries());
        fields.put("agree", "" + one.agree());
        fields.put("version", "" + one.version());
        fields.put("kind", one.look().kind().key());
        fields.put("headers", headers);
        fields.put("logIn", logIn);
        fields.put("active", one.active() ? "yes" : "");
        one.from().forEach(outpost -> fields.put("from-" + outpost, "yes"));
        return new CheckForm(fields);
    }

    /**
     * What it means.
     *
     * @param look   null while it means nothing; the errors say why
     * @param errors by field
     */
    record Read(@Nullable Look look, Cadence every, int tries, int agree, Map<String, String> errors) {}

    Read read(ZoneId zone, Instant now) {
        var errors = new LinkedHashMap<String, String>();
        var every = part("every", errors, () -> Cadence.read(get("every"), zone, now));
        var tries = part("tries", errors, () -> whole("tries"));
        var agree = part("agree", errors, () -> whole("agree"));
        var own = Look.own(kind(), fields);
        var read = kind().read(own);
        read.errors()
                .forEach((name, words) -> errors.putIfAbsent(name, Sentence.of(new IllegalArgumentException(words))));
        var target = read.target();
        return new Read(
                errors.isEmpty() && target != null ? new Look(kind(), own, target) : null,
                every == null ? Cadence.of(Duration.ofMinutes(5)) : every,
                tries == null ? 1 : tries,
                agree == null ? 1 : agree,
                errors);
    }

    /** Headers as they are typed, and a log-in of a web call, which is one of them. */
    String headers() {
        var typed = fields.getOrDefault("headers", "");
        if (kind() != WebCall.KIND || get("user").isEmpty()) return typed;
        var both = get("user") + ":" + fields.getOrDefault("password", "");
        var basic = "Authorization: Basic " + Base64.getEncoder().encodeToString(both.getBytes(StandardCharsets.UTF_8));
        return Stream.concat(
                        typed.lines().filter(line -> !line.toLowerCase(java.util.Locale.ROOT)
                                .startsWith("authorization")),
                        Stream.of(basic))
                .reduce((a, b) -> a + "\n" + b)
                .orElse("");
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
