package app.morvet.core.cases;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.CountWindow;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;

/** What is wrong, in one line of words. */
public final class Headline {
    private Headline() {}

    /**
     * {@code 37 failed since midnight on Manifest to harbour authority, over the warning limit of 10}.
     *
     * @param guard     the guard that raised the alert
     * @param component the name of what it was raised on
     * @param level     the severity of the alert
     * @param value     the value it was last judged by
     */
    public static String of(Guard guard, String component, Severity level, double value) {
        return switch (guard) {
            case LimitGuard limit -> {
                double line = limit.limits().of(level).orElse(0.0);
                yield "%s failed %s on %s, %s the %s limit of %s"
                        .formatted(
                                Limits.number(value),
                                window(limit.window()),
                                component,
                                value > line ? "over" : "now at or under",
                                level.word(),
                                Limits.number(line));
            }
        };
    }

    /** {@code Manifest to harbour authority carries again: nothing over a limit since 07:05} is for the page to end. */
    public static String over(String component, double worst) {
        return "%s is back within its limits, at worst %s failed".formatted(component, Limits.number(worst));
    }

    private static String window(CountWindow window) {
        return window instanceof CountWindow.Sliding
                ? "in" + window.words().substring("over".length())
                : window.words();
    }
}
