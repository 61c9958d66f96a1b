package app.morvet.rules.guards;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.Clearing;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Grouping;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Limit;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Numbers;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.Spans;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.ground.estate.ScopeForm;
import java.time.DayOfWeek;
import java.time.Duration;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The sentence form of a guard, as texts, just as they were typed. Fields that the kind at hand does not use keep what they
 * held, so that going from one kind to another and back loses nothing.
 *
 * @param fields by name
 */
record GuardForm(Map<String, String> fields) {
    private static final Set<String> TUNED = Set.of(
            "warning",
            "warningHigh",
            "critical",
            "criticalHigh",
            "length",
            "missedWarning",
            "missedCritical",
            "target",
            "lookback",
            "ahead",
            "aheadCritical",
            "bandLength",
            "width",
            "widthCritical",
            "stateCritical",
            "stateCriticalFor",
            "stateWarning",
            "stateWarningFor",
            "hours",
            "from",
            "to",
            "fixNote",
            "why",
            "version");

    private static final Map<String, String> PLAIN = Map.ofEntries(
            Map.entry("kind", "limit"),
            Map.entry("fold", "mean"),
            Map.entry("percentile", "95"),
            Map.entry("share", "100"),
            Map.entry("least", "1"),
            Map.entry("window", "sliding"),
            Map.entry("length", "15 min"),
            Map.entry("side", "above"),
            Map.entry("missedWarning", "3"),
            Map.entry("missedCritical", "10"),
            Map.entry("heads", "above"),
            Map.entry("lookback", "3 days"),
            Map.entry("ahead", "2 days"),
            Map.entry("aheadCritical", "12 h"),
            Map.entry("bandLength", "30 min"),
            Map.entry("bandShare", "80"),
            Map.entry("leaves", "outside"),
            Map.entry("weeks", "4"),
            Map.entry("width", "4"),
            Map.entry("widthCritical", "8"),
            Map.entry("stateCriticalIs", "in"),
            Map.entry("stateCriticalFor", "2 min"),
            Map.entry("stateWarningIs", "in"),
            Map.entry("stateWarningFor", "5 min"),
            Map.entry("expression", "a and b"),
            Map.entry("severity", "warning"),
            Map.entry("inside", Numbers.exact(new Clearing(Clearing.USUAL_MARGIN, Duration.ZERO).inside())),
            Map.entry("calm", "5 min"),
            Map.entry("silence", "15 min"),
            Map.entry("silenceMeans", "nothing"),
            Map.entry("grouping", "subject"),
            Map.entry("from", "06:00"),
            Map.entry("to", "22:00"),
            Map.entry("flapWithin", "1 h"),
            Map.entry("version", "0"));

    GuardForm {
        var all = new HashMap<>(PLAIN);
        fields.forEach((name, value) -> {
            if (value != null) all.put(name, value);
        });
        fields = Map.copyOf(all);
    }

    /** What a field holds; empty where it holds nothing. */
    public String get(String name) {
        return fields.getOrDefault(name, "").strip();
    }

    public boolean has(String name, String value) {
        return get(name).equals(value);
    }

    int version() {
        try {
            return Integer.parseInt(get("version"));
        } catch (NumberFormatException none) {
            return 0;
        }
    }

    /**
     * This form with what setting limits is: the limits themselves, the spans and hours over which they are held, and the fix
     * note. All else stays as it is, whatever was sent.
     */
    GuardForm tuned(Map<String, String> sent) {
        var all = new HashMap<>(fields);
        for (var name : TUNED) if (sent.get(name) != null) all.put(name, sent.get(name));
        // A box that is not ticked is not sent.
        for (var day : DayOfWeek.values()) all.put("on" + word(day), sent.getOrDefault("on" + word(day), ""));
        return new GuardForm(all);
    }

    GuardForm with(String name, String value) {
        var all = new HashMap<>(fields);
        all.put(name, value);
        return new GuardForm(all);
    }

    static GuardForm of(StoredGuard standing) {
        var fields = new HashMap<String, String>();
        fields.put("name", standing.name());
        fields.put("version", Integer.toString(standing.version()));
        fields.put("fixNote", standing.fixNote());
        fields.put("owner", standing.owner() == null ? "" : Long.toString(standing.owner()));
        put(fields, standing.watch());
        fields.put("kind", standing.rule().kind());
        put(fields, standing.rule());
        put(fields, standing.rule().terms());
        return new GuardForm(fields);
    }

    private static void put(Map<String, String> fields, Watch watch) {
        fields.put("measure", watch.measure());
        fields.putAll(ScopeForm.fields(watch.scope()));
        fields.put("label", watch.label());
        fields.put("labelValue", watch.labelValue());
    }

    private static void put(Map<String, String> fields, Guard rule) {
        switch (rule) {
            case LimitGuard it -> {
                fields.put("window", it.window() instanceof Window.SinceMidnight ? "midnight" : "sliding");
                if (it.window() instanceof Window.Sliding(var length)) fields.put("length", Spans.words(length));
                put(fields, it.amount());
                fields.put("side", word(it.limits().side()));
                put(fields, "warning", it.limits().warning());
                put(fields, "critical", it.limits().critical());
            }
            case SilenceGuard it -> {
                put(fields, "missedWarning", it.limits().warning());
                put(fields, "missedCritical", it.limits().critical());
            }
            case TrendGuard it -> {
                fields.put("target", Numbers.exact(it.target()));
                fields.put("heads", word(it.side()));
                fields.put("lookback", Spans.words(it.lookback()));
                fields.put("seasonal", it.seasonal() ? "yes" : "");
                fields.put("ahead", hours(it.limits().warning()));
                fields.put("aheadCritical", hours(it.limits().critical()));
            }
            case BandGuard it -> {
                fields.put("bandLength", Spans.words(it.window()));
                fields.put("bandShare", percent(it.share()));
                fields.put("leaves", word(it.side()));
                fields.put("weeks", Integer.toString(it.weeks()));
                put(fields, "width", it.limits().warning());
                put(fields, "widthCritical", it.limits().critical());
            }
            case StateGuard it -> {
                put(fields, "stateCritical", it.critical());
                put(fields, "stateWarning", it.warning());
            }
            case CombinationGuard it -> {
                fields.put("expression", it.expression().text());
                for (int i = 0; i < it.members().size(); i++)
                    fields.put(
                            "member" + (char) ('a' + i),
                            Long.toString(it.members().get(i)));
                fields.put("severity", it.severity() == Severity.CRITICAL ? "critical" : "warning");
                fields.put("membersSilent", it.silent() ? "yes" : "");
            }
        }
    }

    private static void put(Map<String, String> fields, String name, StateGuard.@Nullable Condition condition) {
        fields.put(name, condition == null ? "" : String.join(", ", condition.words()));
        if (condition == null) return;
        fields.put(name + "Is", word(condition.manner()));
        fields.put(name + "For", condition.span().isZero() ? "0 min" : Spans.words(condition.span()));
    }

    private static void put(Map<String, String> fields, Amount amount) {
        fields.put("fold", word(amount.fold()));
        if (amount.fold() == Amount.Fold.PERCENTILE) fields.put("percentile", percent(amount.share()));
        if (amount.fold() == Amount.Fold.EACH) fields.put("share", percent(amount.share()));
        fields.put("least", Integer.toString(amount.least()));
        switch (amount.ceiling()) {
            case null -> fields.put("ceiling", "");
            case Amount.Ceiling.Fixed(var value) -> fields.put("ceiling", Numbers.exact(value));
            case Amount.Ceiling.Measured(var measure) -> fields.put("ceiling", measure);
        }
    }

    private static void put(Map<String, String> fields, String name, @Nullable Limit limit) {
        fields.put(name, limit == null ? "" : Numbers.exact(limit.low()));
        if (limit != null && limit.side() == Side.OUTSIDE) fields.put(name + "High", Numbers.exact(limit.high()));
    }

    private static void put(Map<String, String> fields, Terms terms) {
        fields.put("inside", Numbers.exact(terms.clearing().inside()));
        fields.put(
                "calm",
                terms.clearing().time().isZero()
                        ? "0 min"
                        : Spans.words(terms.clearing().time()));
        fields.put("silence", Spans.words(terms.noData().after()));
        fields.put("silenceMeans", word(terms.noData().meaning()));
        fields.put("grouping", word(terms.grouping().by()));
        fields.put(
                "groupLabel",
                terms.grouping().by() == Grouping.By.LABEL ? terms.grouping().label() : "");
        var hours = terms.hours();
        if (hours != null) {
            for (var day : DayOfWeek.values()) if (hours.days().contains(day)) fields.put("on" + word(day), "yes");
            fields.put("hours", "some");
            fields.put("from", hours.from().toString());
            fields.put("to", hours.to().toString());
        }
        var damping = terms.damping();
        if (damping != null) {
            fields.put("flapTimes", Integer.toString(damping.times()));
            fields.put("flapWithin", Spans.words(damping.within()));
        }
    }

    private static String hours(@Nullable Limit limit) {
        return limit == null ? "" : Spans.words(Duration.ofSeconds(Math.round(limit.low() * 3600)));
    }

    private static String percent(double share) {
        return Numbers.exact(Math.round(share * 100_000) / 1000.0);
    }

    private static String word(Enum<?> one) {
        return one.name().toLowerCase(Locale.ROOT);
    }
}
