package app.morvet.rules.guards;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.Clearing;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Damping;
import app.morvet.core.guard.Expression;
import app.morvet.core.guard.Grouping;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Hours;
import app.morvet.core.guard.Limit;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.NoData;
import app.morvet.core.guard.Numbers;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.Spans;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.ScopeForm;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Reads a sentence form. What cannot be read stands as an error at its field; the rest is still read. */
final class GuardFormReader {
    /**
     * What a form means.
     *
     * @param rule   null while it means nothing; the errors say why
     * @param errors by field
     */
    record Read(Watch watch, @Nullable Guard rule, Map<String, String> errors) {}

    private final GuardForm form;
    private final ZoneId zone;
    private final Map<String, String> errors = new LinkedHashMap<>();

    private GuardFormReader(GuardForm form, ZoneId zone) {
        this.form = form;
        this.zone = zone;
    }

    static Read read(GuardForm form, ZoneId zone) {
        return new GuardFormReader(form, zone).read();
    }

    private Read read() {
        if (form.get("name").isEmpty()) errors.put("name", "Give the guard a name.");
        if (form.get("name").length() > 100) errors.put("name", "At most 100 characters.");
        if (form.get("fixNote").length() > 20_000) errors.put("fixNote", "At most 20,000 characters.");
        boolean combination = form.has("kind", "combination");
        var scope = part("tier", () -> ScopeForm.read(form::get));
        var watch = part(
                "labelValue",
                () -> new Watch(
                        combination ? "" : form.get("measure"),
                        scope == null ? Scope.ALL : scope,
                        form.get("label"),
                        form.get("labelValue")));
        if (!combination && form.get("measure").isEmpty()) errors.put("measure", "Choose what is measured.");
        var terms = terms();
        var rule = terms == null ? null : rule(terms);
        boolean whole = errors.keySet().stream().allMatch(at -> at.equals("name") || at.equals("fixNote"));
        return new Read(watch == null ? Watch.of(form.get("measure")) : watch, whole ? rule : null, errors);
    }

    private @Nullable Guard rule(Terms terms) {
        return switch (form.get("kind")) {
            case "limit" -> limit(terms);
            case "silence" -> {
                var limits = limits(Side.ABOVE, number("missedWarning"), number("missedCritical"), "missedCritical");
                yield limits == null ? null : part("missedWarning", () -> new SilenceGuard(limits, terms));
            }
            case "trend" -> trend(terms);
            case "band" -> band(terms);
            case "state" -> state(terms);
            case "combination" -> combination(terms);
            case String other -> {
                errors.put("kind", "Choose what kind of guard it is.");
                yield null;
            }
        };
    }

    private @Nullable Guard limit(Terms terms) {
        var window = form.has("window", "midnight")
                ? new Window.SinceMidnight(zone)
                : span("length", length -> new Window.Sliding(length));
        var amount = amount();
        var side = choice(Side.class, "side", Side.ABOVE);
        var limits = side == Side.OUTSIDE ? outside() : limits(side, number("warning"), number("critical"), "critical");
        return window == null || amount == null || limits == null
                ? null
                : new LimitGuard(window, amount, limits, terms);
    }

    private @Nullable Amount amount() {
        var fold = choice(Amount.Fold.class, "fold", Amount.Fold.LAST);
        var share = fold == Amount.Fold.PERCENTILE
                ? number("percentile")
                : fold == Amount.Fold.EACH ? number("share") : null;
        var least = whole("least");
        var ceiling = form.get("ceiling");
        var at = fold == Amount.Fold.PERCENTILE ? "percentile" : fold == Amount.Fold.EACH ? "share" : "least";
        return part(
                at,
                () -> new Amount(
                        fold,
                        share == null ? fold == Amount.Fold.EACH ? 1 : 0 : share / 100,
                        least == null ? 1 : least,
                        ceiling.isEmpty() ? null : ceiling(ceiling)));
    }

    private Amount.@Nullable Ceiling ceiling(String text) {
        return part(
                "ceiling",
                () -> text.matches("[-+.,0-9].*")
                        ? new Amount.Ceiling.Fixed(parsed(text))
                        : new Amount.Ceiling.Measured(text));
    }

    private @Nullable Limits outside() {
        var warning = outside("warning");
        var critical = outside("critical");
        if (errors.keySet().stream().anyMatch(at -> at.startsWith("warning") || at.startsWith("critical"))) return null;
        return part("critical", () -> new Limits(warning, critical));
    }

    private @Nullable Limit outside(String name) {
        var low = number(name);
        var high = number(name + "High");
        if (low == null && high == null) return null;
        if (low == null || high == null) {
            errors.putIfAbsent(name, "Give both the lower and the upper limit.");
            return null;
        }
        return part(name, () -> Limit.outside(low, high));
    }

    private @Nullable Limits limits(Side side, @Nullable Double warning, @Nullable Double critical, String at) {
        if (errors.containsKey("warning") || errors.containsKey(at)) return null;
        return part(at, () -> Limits.of(side, warning, critical));
    }

    private @Nullable Guard trend(Terms terms) {
        var target = number("target");
        if (target == null) errors.putIfAbsent("target", "Give the value that it heads to.");
        var lookback = span("lookback", it -> it);
        var warning = hours("ahead");
        var critical = hours("aheadCritical");
        if (warning != null && critical != null && critical >= warning)
            errors.put(
                    "aheadCritical",
                    "It warns earlier than it is critical: this must be less than "
                            + Spans.words(Duration.ofSeconds(Math.round(warning * 3600))) + ".");
        var limits =
                errors.containsKey("aheadCritical") ? null : limits(Side.BELOW, warning, critical, "aheadCritical");
        if (target == null || lookback == null || limits == null) return null;
        return part(
                "lookback",
                () -> new TrendGuard(
                        target,
                        choice(Side.class, "heads", Side.ABOVE),
                        lookback,
                        form.has("seasonal", "yes"),
                        zone,
                        limits,
                        terms));
    }

    private @Nullable Double hours(String name) {
        if (form.get(name).isEmpty()) return null;
        var span = span(name, it -> it);
        return span == null ? null : span.toSeconds() / 3600.0;
    }

    private @Nullable Guard band(Terms terms) {
        var window = span("bandLength", it -> it);
        var share = number("bandShare");
        var weeks = whole("weeks");
        var limits = limits(Side.ABOVE, number("width"), number("widthCritical"), "widthCritical");
        if (window == null || share == null || weeks == null || limits == null) {
            if (share == null) errors.putIfAbsent("bandShare", "Give a share in per cent.");
            return null;
        }
        return part(
                "bandLength",
                () -> new BandGuard(
                        window, share / 100, choice(Side.class, "leaves", Side.OUTSIDE), weeks, zone, limits, terms));
    }

    private @Nullable Guard state(Terms terms) {
        var warning = condition("stateWarning");
        var critical = condition("stateCritical");
        if (errors.keySet().stream().anyMatch(at -> at.startsWith("state"))) return null;
        return part("stateCritical", () -> new StateGuard(warning, critical, terms));
    }

    private StateGuard.@Nullable Condition condition(String name) {
        var words = Stream.of(form.get(name).split(",| or "))
                .map(String::strip)
                .filter(word -> !word.isEmpty())
                .distinct()
                .toList();
        if (words.isEmpty()) return null;
        var manner = choice(StateGuard.Manner.class, name + "Is", StateGuard.Manner.IN);
        var span = span(name + "For", it -> it);
        return span == null ? null : part(name, () -> new StateGuard.Condition(manner, words, span));
    }

    private @Nullable Guard combination(Terms terms) {
        var members = new ArrayList<Long>();
        for (char letter = 'a'; letter <= 'h'; letter++) {
            var id = form.get("member" + letter);
            if (id.isEmpty()) break;
            if (!id.matches("\\d{1,18}")) {
                errors.put("expression", "Choose the guards from the lists.");
                return null;
            }
            members.add(Long.parseLong(id));
        }
        if (members.isEmpty()) {
            errors.put("expression", "Choose the guards that are combined.");
            return null;
        }
        return part(
                "expression",
                () -> new CombinationGuard(
                        Expression.parse(form.get("expression")),
                        members,
                        form.has("severity", "critical") ? Severity.CRITICAL : Severity.WARNING,
                        form.has("membersSilent", "yes"),
                        terms));
    }

    private @Nullable Terms terms() {
        boolean wholly = form.has("kind", "combination") || form.has("kind", "state");
        var inside = number("inside");
        var calm = span("calm", it -> it);
        var margin = part("inside", () -> Clearing.inside(wholly || inside == null ? 0 : inside, Duration.ZERO));
        var clearing = calm == null || margin == null ? null : part("calm", () -> new Clearing(margin.margin(), calm));
        var meaning = choice(NoData.Meaning.class, "silenceMeans", NoData.Meaning.NOTHING);
        var noData = meaning == NoData.Meaning.NOTHING
                ? NoData.NOTHING
                : span("silence", after -> new NoData(after, meaning));
        var grouping = part(
                "groupLabel",
                () -> new Grouping(choice(Grouping.By.class, "grouping", Grouping.By.SUBJECT), form.get("groupLabel")));
        var hours = form.has("hours", "some") ? hours() : null;
        var damping = form.get("flapTimes").isEmpty() ? null : damping();
        if (clearing == null || noData == null || grouping == null) return null;
        return new Terms(clearing, noData, grouping, hours, damping);
    }

    private @Nullable Hours hours() {
        var days = EnumSet.noneOf(DayOfWeek.class);
        for (var day : DayOfWeek.values())
            if (form.has("on" + day.name().toLowerCase(Locale.ROOT), "yes")) days.add(day);
        var from = time("from");
        var to = time("to");
        return from == null || to == null ? null : part("hours", () -> new Hours(days, from, to, zone));
    }

    private @Nullable LocalTime time(String name) {
        try {
            return LocalTime.parse(form.get(name));
        } catch (DateTimeException bad) {
            errors.put("hours", "\"" + form.get(name) + "\" is not a time of day; write it such as 06:30.");
            return null;
        }
    }

    private @Nullable Damping damping() {
        var times = whole("flapTimes");
        return times == null ? null : span("flapWithin", within -> part("flapTimes", () -> new Damping(times, within)));
    }

    private <T> @Nullable T span(String name, java.util.function.Function<Duration, @Nullable T> then) {
        return part(name, () -> then.apply(Spans.read(form.get(name))));
    }

    private <T> @Nullable T part(String field, Supplier<@Nullable T> part) {
        try {
            return part.get();
        } catch (IllegalArgumentException | ArithmeticException wrong) {
            errors.putIfAbsent(field, Sentence.of(wrong));
            return null;
        }
    }

    private @Nullable Double number(String field) {
        var text = form.get(field);
        if (text.isEmpty()) return null;
        return part(field, () -> parsed(text));
    }

    private static double parsed(String text) {
        try {
            double value = Double.parseDouble(text.replace(',', '.'));
            if (Double.isFinite(value)) return value;
        } catch (NumberFormatException notOne) {
            // told below
        }
        throw new IllegalArgumentException("\"" + text + "\" is not a number");
    }

    private @Nullable Integer whole(String field) {
        var number = number(field);
        if (number == null) {
            errors.putIfAbsent(field, "Give a whole number.");
            return null;
        }
        if (number != Math.rint(number) || Math.abs(number) > 1e6) {
            errors.putIfAbsent(field, "\"" + Numbers.exact(number) + "\" is not a whole number.");
            return null;
        }
        return number.intValue();
    }

    private <E extends Enum<E>> E choice(Class<E> of, String name, E otherwise) {
        for (var one : of.getEnumConstants()) if (one.name().equalsIgnoreCase(form.get(name))) return one;
        return otherwise;
    }
}
