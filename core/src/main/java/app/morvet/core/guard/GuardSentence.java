package app.morvet.core.guard;

import java.util.function.UnaryOperator;

/**
 * A guard as the sentence that it means. The form sets fields into the same words; lists, mails and the audit record
 * show them plain.
 */
public final class GuardSentence {
    private GuardSentence() {}

    /**
     * @param names gives the name that people know for the key of an application or an interface
     */
    public static String of(Guard guard, Watched watched, UnaryOperator<String> names) {
        return switch (guard) {
            case LimitGuard limit ->
                "Watch failed messages on %s, counted %s. %s. Clear at %s %% of the limit or less%s."
                        .formatted(
                                subjects(watched, names),
                                limit.window().words(),
                                limits(limit.limits()),
                                Limits.number(Math.round(limit.clearing().margin() * 1000) / 10.0),
                                limit.clearing().time().isZero()
                                        ? ""
                                        : ", held for "
                                                + Spans.words(limit.clearing().time()));
        };
    }

    public static String subjects(Watched watched, UnaryOperator<String> names) {
        return switch (watched) {
            case Watched.EveryInterface() -> "each interface of the estate";
            case Watched.InterfacesOf(var application) -> "each interface of " + names.apply(application);
            case Watched.OneInterface(var component) -> names.apply(component);
        };
    }

    private static String limits(Limits limits) {
        var warning = limits.warning();
        var critical = limits.critical();
        if (critical == null) return "Warn above " + Limits.number(warning == null ? 0 : warning);
        if (warning == null) return "Critical above " + Limits.number(critical);
        return "Warn above " + Limits.number(warning) + ", critical above " + Limits.number(critical);
    }
}
