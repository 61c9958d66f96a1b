package app.morvet.core.guard;

import app.morvet.core.readings.StateWords;
import java.util.Objects;
import java.util.function.LongFunction;

/**
 * A guard as the sentence that it means. The form sets fields into the same words; lists, mails and the audit record
 * show them plain.
 */
public final class GuardSentence {
    private GuardSentence() {}

    /**
     * What a sentence names beside the rule.
     *
     * @param measure  the measure in words
     * @param unit     its unit; may be empty
     * @param subjects what is watched, in words: {@code each interface of Freight Manifests}
     * @param members  gives the name of a guard by its id, for combinations
     */
    public record Naming(String measure, String unit, String subjects, LongFunction<String> members) {}

    public static String of(Guard guard, Naming naming) {
        return condition(guard, naming) + terms(guard);
    }

    private static String condition(Guard guard, Naming naming) {
        var unit = unit(guard, naming.unit());
        return switch (guard) {
            case LimitGuard it ->
                "Watch %s on %s: %s%s %s. %s"
                        .formatted(
                                naming.measure(),
                                naming.subjects(),
                                it.amount().words(),
                                ceiling(it.amount()),
                                least(it.amount(), it.window().words()),
                                it.limits().words(unit));
            case SilenceGuard it ->
                "Watch that %s is heard on %s as promised. %s"
                        .formatted(naming.measure(), naming.subjects(), missed(it.limits()));
            case TrendGuard it ->
                "Watch where %s on %s is heading, from the last %s%s. When it will be %s %s: %s"
                        .formatted(
                                naming.measure(),
                                naming.subjects(),
                                Spans.words(it.lookback()),
                                it.seasonal() ? " and its daily rhythm" : "",
                                it.side().word(),
                                Numbers.with(Numbers.exact(it.target()), naming.unit()),
                                ahead(it.limits()));
            case BandGuard it ->
                "Watch %s on %s against what is usual for the hour and weekday, learned from %d weeks: at least %s %% of readings over the last %s %s the usual range. %s"
                        .formatted(
                                naming.measure(),
                                naming.subjects(),
                                it.weeks(),
                                Numbers.exact(Math.round(it.share() * 1000) / 10.0),
                                Spans.words(it.window()),
                                it.side().word(),
                                widths(it.limits()));
            case StateGuard it -> "Watch %s on %s. %s".formatted(naming.measure(), naming.subjects(), whens(it));
            case CombinationGuard it ->
                "Watch on %s for: %s. %s when that holds%s"
                        .formatted(
                                naming.subjects(),
                                it.expression()
                                        .text(index -> "\""
                                                + naming.members()
                                                        .apply(it.members().get(index)) + "\""),
                                it.severity() == app.morvet.core.alert.Severity.CRITICAL ? "Critical" : "Warn",
                                it.silent() ? "; they keep silent by themselves" : "");
        };
    }

    /** The unit in which a guard's own value is told. */
    public static String unit(Guard guard, String ofMeasure) {
        return switch (guard) {
            case LimitGuard it ->
                it.amount().ceiling() != null
                        ? "%"
                        : switch (it.amount().fold()) {
                            case COUNT -> "";
                            case RATE -> ofMeasure.isEmpty() ? "a minute" : ofMeasure + " a minute";
                            default -> ofMeasure;
                        };
            case SilenceGuard it -> "missed";
            case TrendGuard it -> "h left";
            case BandGuard it -> "spreads";
            case StateGuard it -> ofMeasure;
            case CombinationGuard it -> "";
        };
    }

    /**
     * What a guard measures, as people read it: {@code 61.5 %}, {@code 7 h left}, {@code not heading there}, {@code stopped}.
     *
     * @param unit as {@link #unit} gives it; of a state its words
     */
    public static String value(Guard guard, double value, String unit) {
        if (Double.isNaN(value)) return "no data";
        return switch (guard) {
            case TrendGuard it ->
                Double.isInfinite(value) ? "not heading there" : value <= 0 ? "there" : hours(value) + " left";
            case CombinationGuard it -> value > 0.5 ? "holds" : "does not hold";
            case LimitGuard it -> Numbers.with(Numbers.rounded(value), unit);
            case SilenceGuard it -> Numbers.with(Numbers.rounded(value), unit);
            case BandGuard it -> Numbers.with(Numbers.rounded(value), unit);
            case StateGuard it -> StateGuard.word(value, StateWords.parse(unit));
        };
    }

    /** The limits alone: {@code warn above 85 %, critical above 95 %}. */
    public static String limits(Guard guard, String unit) {
        var words =
                switch (guard) {
                    case TrendGuard it -> ahead(it.limits());
                    case CombinationGuard it -> "a combination";
                    case LimitGuard it -> it.limits().words(unit);
                    case SilenceGuard it -> missed(it.limits());
                    case BandGuard it -> widths(it.limits());
                    case StateGuard it -> whens(it);
                };
        return Character.toLowerCase(words.charAt(0)) + words.substring(1);
    }

    private static String whens(StateGuard guard) {
        var warning = guard.warning();
        var critical = guard.critical();
        if (critical == null)
            return "Warning " + Objects.requireNonNull(warning).text();
        return "Critical " + critical.text() + (warning == null ? "" : ", warning " + warning.text());
    }

    private static String ceiling(Amount amount) {
        return switch (amount.ceiling()) {
            case null -> "";
            case Amount.Ceiling.Fixed(var value) -> " as a share of " + Numbers.exact(value);
            case Amount.Ceiling.Measured(var measure) -> " as a share of " + measure.replace('_', ' ');
        };
    }

    private static String least(Amount amount, String window) {
        return amount.least() == 1 ? window : window + ", with at least " + amount.least() + " readings";
    }

    private static String missed(Limits limits) {
        var warning = limits.warning();
        var critical = limits.critical();
        if (warning == null && critical != null)
            return "Critical when more than " + Numbers.exact(critical.low())
                    + " promised readings in a row have not come";
        return "Warn when more than %s promised readings in a row have not come%s"
                .formatted(
                        Numbers.exact(limits.mildest().low()),
                        critical == null ? "" : ", critical when more than " + Numbers.exact(critical.low()));
    }

    private static String ahead(Limits limits) {
        var warning = limits.warning();
        var critical = limits.critical();
        if (warning == null && critical != null) return "critical " + hours(critical.low()) + " ahead";
        return "warn %s ahead%s"
                .formatted(
                        hours(limits.mildest().low()),
                        critical == null ? "" : ", critical " + hours(critical.low()) + " ahead");
    }

    static String hours(double hours) {
        return Spans.words(java.time.Duration.ofSeconds(Math.round(hours * 3600)));
    }

    private static String widths(Limits limits) {
        var warning = limits.warning();
        var critical = limits.critical();
        if (warning == null && critical != null)
            return "Critical beyond " + Numbers.exact(critical.low()) + " spreads from its middle";
        return "Warn beyond %s spreads from its middle%s"
                .formatted(
                        Numbers.exact(limits.mildest().low()),
                        critical == null ? "" : ", critical beyond " + Numbers.exact(critical.low()));
    }

    /** On whatever side is bad: 85 % of a limit above, 115 % of one below. */
    private static String inside(Clearing clearing) {
        return clearing.inside() == 0 ? "at the limit" : Numbers.exact(clearing.inside()) + " % inside the limit";
    }

    private static String terms(Guard guard) {
        var terms = guard.terms();
        var words = new StringBuilder(". ");
        if (guard instanceof CombinationGuard) words.append("Clear when it no longer does");
        else if (guard instanceof StateGuard)
            words.append(terms.clearing().time().isZero() ? "Clear at once" : "Clear when that has been over");
        else words.append("Clear ").append(inside(terms.clearing()));
        if (!terms.clearing().time().isZero())
            words.append(guard instanceof CombinationGuard ? ", for " : " for ")
                    .append(Spans.words(terms.clearing().time()));
        words.append('.');
        if (terms.noData().meaning() != NoData.Meaning.NOTHING)
            words.append(" If nothing is heard for ")
                    .append(Spans.words(terms.noData().after()))
                    .append(", ")
                    .append(terms.noData().meaning().words())
                    .append('.');
        if (terms.grouping().by() != Grouping.By.SUBJECT)
            words.append(" Raise ").append(terms.grouping().words()).append('.');
        if (terms.hours() != null)
            words.append(" It applies ").append(Hours.words(terms.hours())).append('.');
        var damping = terms.damping();
        if (damping != null)
            words.append(" Raised %d times within %s, it flaps and stays up until it has been calm for as long."
                    .formatted(damping.times(), Spans.words(damping.within())));
        return words.toString();
    }
}
