package app.morvet.rules.guards;

import app.morvet.core.alert.Severity;
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
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.ground.estate.ScopeJson;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Guards and what they watch as trees of names and values: as they are kept in the store, and as they go out and come in
 * as files. One shape a kind; what is left out has a plain meaning. Durations are ISO 8601.
 */
@Component
class GuardJson {
    /** A tree that means no guard: which part, and why. */
    static final class Wrong extends IllegalArgumentException {
        private static final long serialVersionUID = 1;
        private final String part;

        Wrong(String part, String why) {
            super(part.isEmpty() ? why : part + ": " + why);
            this.part = part;
        }

        /** The name of the part that is wrong; empty where it is the whole. */
        String part() {
            return part;
        }
    }

    private final JsonMapper json;

    GuardJson(JsonMapper json) {
        this.json = json;
    }

    String write(Guard guard) {
        return tree(guard).toString();
    }

    ObjectNode tree(Guard guard) {
        var node = json.createObjectNode();
        node.put("kind", guard.kind());
        switch (guard) {
            case LimitGuard it -> {
                switch (it.window()) {
                    case Window.SinceMidnight(var zone) -> node.put("sinceMidnightIn", zone.getId());
                    case Window.Sliding(var length) -> node.put("overLast", length.toString());
                }
                put(node, it.amount());
                put(node, it.limits());
            }
            case SilenceGuard it -> put(node, it.limits());
            case TrendGuard it -> {
                node.put("target", it.target());
                node.put("heads", word(it.side()));
                node.put("seenIn", it.lookback().toString());
                if (it.seasonal()) node.put("dailyRhythm", true);
                node.put("zone", it.zone().getId());
                put(node, it.limits());
            }
            case BandGuard it -> {
                node.put("overLast", it.window().toString());
                node.put("share", it.share());
                node.put("leaves", word(it.side()));
                node.put("weeks", it.weeks());
                node.put("zone", it.zone().getId());
                put(node, it.limits());
            }
            case StateGuard it -> ConditionJson.put(node, it);
            case CombinationGuard it -> {
                node.put("expression", it.expression().text());
                var members = node.putArray("members");
                it.members().forEach(members::add);
                node.put("severity", it.severity().word());
                node.put("membersSilent", it.silent());
            }
        }
        put(node, guard.terms());
        return node;
    }

    private static void put(ObjectNode node, Amount amount) {
        node.put("fold", word(amount.fold()));
        if (amount.fold() == Amount.Fold.PERCENTILE || amount.fold() == Amount.Fold.EACH)
            node.put("share", amount.share());
        if (amount.least() > 1) node.put("least", amount.least());
        switch (amount.ceiling()) {
            case null -> {}
            case Amount.Ceiling.Fixed(var value) -> node.put("shareOf", value);
            case Amount.Ceiling.Measured(var measure) -> node.put("shareOfMeasure", measure);
        }
    }

    private static void put(ObjectNode node, Limits limits) {
        node.put("side", word(limits.side()));
        put(node, "warning", limits.warning());
        put(node, "critical", limits.critical());
    }

    private static void put(ObjectNode node, String name, @Nullable Limit limit) {
        if (limit == null) return;
        if (limit.side() == Side.OUTSIDE) node.putArray(name).add(limit.low()).add(limit.high());
        else node.put(name, limit.low());
    }

    private static void put(ObjectNode node, Terms terms) {
        node.put("clearMargin", terms.clearing().margin());
        node.put("clearTime", terms.clearing().time().toString());
        if (terms.noData().meaning() != NoData.Meaning.NOTHING)
            node.putObject("noData")
                    .put("after", terms.noData().after().toString())
                    .put("means", word(terms.noData().meaning()));
        if (terms.grouping().by() != Grouping.By.SUBJECT) {
            node.put("oneAlertFor", word(terms.grouping().by()));
            if (terms.grouping().by() == Grouping.By.LABEL)
                node.put("label", terms.grouping().label());
        }
        var hours = terms.hours();
        if (hours != null) {
            var at = node.putObject("hours");
            var days = at.putArray("days");
            for (var day : DayOfWeek.values()) if (hours.days().contains(day)) days.add(word(day));
            at.put("from", hours.from().toString())
                    .put("to", hours.to().toString())
                    .put("zone", hours.zone().getId());
        }
        var damping = terms.damping();
        if (damping != null)
            node.putObject("flaps")
                    .put("times", damping.times())
                    .put("within", damping.within().toString());
    }

    static String word(Enum<?> one) {
        return one.name().toLowerCase(Locale.ROOT);
    }

    Guard readGuard(String text) {
        return readGuard(json.readTree(text));
    }

    /** @throws Wrong when the tree means no guard */
    Guard readGuard(JsonNode node) {
        try {
            return switch (text(node, "kind")) {
                case "limit" -> new LimitGuard(window(node), amount(node), limits(node, Side.ABOVE), terms(node));
                case "silence" -> new SilenceGuard(limits(node, Side.ABOVE), terms(node));
                case "trend" ->
                    new TrendGuard(
                            number(node, "target"),
                            choice(Side.class, node, "heads", Side.ABOVE),
                            duration(node, "seenIn", null),
                            node.path("dailyRhythm").asBoolean(false),
                            zone(node, "zone"),
                            limits(node, Side.BELOW),
                            terms(node));
                case "band" ->
                    new BandGuard(
                            duration(node, "overLast", null),
                            node.has("share") ? number(node, "share") : 0.8,
                            choice(Side.class, node, "leaves", Side.OUTSIDE),
                            node.has("weeks") ? whole(node, "weeks") : 4,
                            zone(node, "zone"),
                            limits(node, Side.ABOVE),
                            terms(node));
                case "state" -> ConditionJson.read(node, terms(node));
                case "combination" ->
                    new CombinationGuard(
                            expression(node),
                            members(node),
                            choice(Severity.class, node, "severity", Severity.WARNING),
                            node.path("membersSilent").asBoolean(false),
                            terms(node));
                case String other ->
                    throw new Wrong(
                            "kind", "must be limit, silence, trend, band, state or combination, was \"" + other + "\"");
            };
        } catch (Wrong wrong) {
            throw wrong;
        } catch (IllegalArgumentException wrong) {
            throw new Wrong("", String.valueOf(wrong.getMessage()));
        }
    }

    private static Expression expression(JsonNode node) {
        try {
            return Expression.parse(text(node, "expression"));
        } catch (IllegalArgumentException wrong) {
            throw new Wrong("expression", String.valueOf(wrong.getMessage()));
        }
    }

    private static List<Long> members(JsonNode node) {
        var members = new ArrayList<Long>();
        for (var one : node.path("members")) {
            if (!one.canConvertToLong()) throw new Wrong("members", "must be ids of guards");
            members.add(one.asLong());
        }
        return members;
    }

    private static Window window(JsonNode node) {
        return node.has("overLast")
                ? new Window.Sliding(duration(node, "overLast", null))
                : new Window.SinceMidnight(zone(node, "sinceMidnightIn"));
    }

    private static Amount amount(JsonNode node) {
        var fold = choice(Amount.Fold.class, node, "fold", Amount.Fold.LAST);
        Amount.@Nullable Ceiling ceiling = node.has("shareOf")
                ? new Amount.Ceiling.Fixed(number(node, "shareOf"))
                : node.has("shareOfMeasure") ? new Amount.Ceiling.Measured(text(node, "shareOfMeasure")) : null;
        return new Amount(
                fold,
                node.has("share") ? number(node, "share") : fold == Amount.Fold.EACH ? 1 : 0,
                node.has("least") ? whole(node, "least") : 1,
                ceiling);
    }

    private static Limits limits(JsonNode node, Side otherwise) {
        var side = choice(Side.class, node, "side", otherwise);
        return new Limits(limit(node, "warning", side), limit(node, "critical", side));
    }

    private static @Nullable Limit limit(JsonNode node, String name, Side side) {
        var value = node.get(name);
        if (value == null || value.isNull()) return null;
        if (side != Side.OUTSIDE) return Limit.of(side, number(node, name));
        if (!value.isArray()
                || value.size() != 2
                || !value.get(0).isNumber()
                || !value.get(1).isNumber()) throw new Wrong(name, "must be two numbers, the lower first");
        return Limit.outside(value.get(0).asDouble(), value.get(1).asDouble());
    }

    private static Terms terms(JsonNode node) {
        return new Terms(
                new Clearing(
                        node.has("clearMargin") ? number(node, "clearMargin") : 1,
                        duration(node, "clearTime", Duration.ZERO)),
                node.has("noData")
                        ? new NoData(
                                duration(node.get("noData"), "after", null),
                                choice(NoData.Meaning.class, node.get("noData"), "means", NoData.Meaning.NOTHING))
                        : NoData.NOTHING,
                new Grouping(
                        choice(Grouping.By.class, node, "oneAlertFor", Grouping.By.SUBJECT),
                        node.has("label") ? text(node, "label") : ""),
                node.has("hours") ? hours(node.get("hours")) : null,
                node.has("flaps")
                        ? new Damping(whole(node.get("flaps"), "times"), duration(node.get("flaps"), "within", null))
                        : null);
    }

    private static Hours hours(JsonNode node) {
        var days = EnumSet.noneOf(DayOfWeek.class);
        for (var day : node.path("days")) {
            try {
                days.add(DayOfWeek.valueOf(day.asString("").toUpperCase(Locale.ROOT)));
            } catch (IllegalArgumentException unknown) {
                throw new Wrong("days", "must be days such as monday, was \"" + day.asString("") + "\"");
            }
        }
        return new Hours(days, time(node, "from"), time(node, "to"), zone(node, "zone"));
    }

    private static LocalTime time(JsonNode node, String name) {
        try {
            return LocalTime.parse(text(node, name));
        } catch (DateTimeException bad) {
            throw new Wrong(name, "must be a time of day such as 06:30");
        }
    }

    static String text(JsonNode node, String name) {
        var value = node.get(name);
        if (value == null || value.isNull()) throw new Wrong(name, "is missing");
        if (!value.isString()) throw new Wrong(name, "must be a text");
        return value.stringValue();
    }

    private static double number(JsonNode node, String name) {
        var value = node.get(name);
        if (value == null) throw new Wrong(name, "is missing");
        double number = value.isNumber() ? value.doubleValue(Double.NaN) : Double.NaN;
        if (!Double.isFinite(number)) throw new Wrong(name, "must be a number");
        return number;
    }

    private static int whole(JsonNode node, String name) {
        double value = number(node, name);
        if (value != Math.rint(value) || Math.abs(value) > 1e9) throw new Wrong(name, "must be a whole number");
        return (int) value;
    }

    static Duration duration(JsonNode node, String name, @Nullable Duration otherwise) {
        if (!node.has(name)) {
            if (otherwise != null) return otherwise;
            throw new Wrong(name, "is missing");
        }
        try {
            return Duration.parse(text(node, name));
        } catch (DateTimeException bad) {
            throw new Wrong(name, "must be a duration as in ISO 8601, such as PT15M");
        }
    }

    private static ZoneId zone(JsonNode node, String name) {
        try {
            return ZoneId.of(text(node, name));
        } catch (DateTimeException bad) {
            throw new Wrong(name, "must be a time zone such as Europe/Helsinki");
        }
    }

    static <E extends Enum<E>> E choice(Class<E> of, JsonNode node, String name, E otherwise) {
        if (!node.has(name)) return otherwise;
        var word = text(node, name);
        for (var one : of.getEnumConstants()) if (word(one).equals(word)) return one;
        var words = new ArrayList<String>();
        for (var one : of.getEnumConstants()) words.add(word(one));
        throw new Wrong(name, "must be one of " + String.join(", ", words) + ", was \"" + word + "\"");
    }

    String write(Watch watch) {
        return tree(watch).toString();
    }

    ObjectNode tree(Watch watch) {
        var node = json.createObjectNode();
        put(node, "measure", watch.measure());
        ScopeJson.put(node, watch.scope());
        put(node, "label", watch.label());
        put(node, "labelValue", watch.labelValue());
        return node;
    }

    private static void put(ObjectNode node, String name, String value) {
        if (!value.isEmpty()) node.put(name, value);
    }

    Watch readWatch(String text) {
        return readWatch(json.readTree(text));
    }

    /** @throws Wrong when the tree says nothing that can be watched */
    Watch readWatch(JsonNode node) {
        try {
            return new Watch(
                    maybe(node, "measure"), ScopeJson.read(node), maybe(node, "label"), maybe(node, "labelValue"));
        } catch (Wrong wrong) {
            throw wrong;
        } catch (IllegalArgumentException wrong) {
            throw new Wrong("", String.valueOf(wrong.getMessage()));
        }
    }

    private static String maybe(JsonNode node, String name) {
        return node.has(name) ? text(node, name) : "";
    }
}
