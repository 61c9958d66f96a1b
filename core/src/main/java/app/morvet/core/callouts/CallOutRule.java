package app.morvet.core.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Hours;
import app.morvet.core.guard.Spans;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Who is told of what, in which steps if nobody takes it.
 *
 * @param from     how bad a case is at least
 * @param scope    what it is about
 * @param hours    when; null is always
 * @param steps    one after the other, until somebody has it
 * @param again    after the last step all are told again so often, until somebody has it; null is never
 * @param over     whether all who were told hear that it is over
 * @param goesOn   whether the rules after this one are asked as well
 * @param digest   when it is told, gathered with all else that the rule takes until then; null is at once
 */
public record CallOutRule(
        String name,
        Happening when,
        Severity from,
        Scope scope,
        @Nullable Hours hours,
        List<Step> steps,
        @Nullable Duration again,
        boolean over,
        boolean goesOn,
        @Nullable Digest digest) {
    public static final int MOST_STEPS = 8;
    private static final String ALSO = " Ask the rules after this one as well.";
    private static final Duration SHORTEST_AGAIN = Duration.ofMinutes(5);

    public CallOutRule {
        if (name.isBlank() || name.length() > 100)
            throw new IllegalArgumentException("a rule has a name of at most 100 letters");
        steps = List.copyOf(steps);
        if (steps.isEmpty()) throw new IllegalArgumentException("a rule has a step at least: say who is told");
        if (steps.size() > MOST_STEPS) throw new IllegalArgumentException("a rule has 8 steps at most");
        if (!when.isOfCase()) checkNews(scope, when, steps, again, over, digest);
        else if (digest == null) {
            for (var step : steps.subList(1, steps.size()))
                if (step.after().isZero())
                    throw new IllegalArgumentException("say how long whoever is told before has to take it");
        } else if (again != null
                || steps.stream().anyMatch(step -> !step.after().isZero()))
            throw new IllegalArgumentException(
                    "a digest tells all at one time: nobody has a time to take anything, and none is told again");
        if (digest != null && steps.stream().anyMatch(step -> step.whom() instanceof Whom.Desk))
            throw new IllegalArgumentException("a digest tells people; it hands nothing off");
        if (again != null && again.compareTo(SHORTEST_AGAIN) < 0)
            throw new IllegalArgumentException("people are told again every 5 min at most");
        if (when == Happening.OVER && digest == null && (steps.size() > 1 || again != null))
            throw new IllegalArgumentException("what is over is told once: there is nothing left to take");
    }

    /** What is no case has nobody to take it: all are told at once, and once. */
    private static void checkNews(
            Scope scope,
            Happening when,
            List<Step> steps,
            @Nullable Duration again,
            boolean over,
            @Nullable Digest digest) {
        if (again != null
                || over
                || steps.stream().anyMatch(step -> !step.after().isZero()))
            throw new IllegalArgumentException(
                    "what is no case is told at once and once: nobody has a time to take anything");
        if (digest != null) throw new IllegalArgumentException("what is no case is told at once, and not gathered");
        if (steps.stream().anyMatch(step -> step.whom() instanceof Whom.Desk))
            throw new IllegalArgumentException("what is no case is handed off to nobody");
        if (when.about() == Happening.About.ALL && !scope.equals(Scope.ALL))
            throw new IllegalArgumentException("this is about no part of the estate, so it cannot be of one");
        if (when.about() == Happening.About.ALL
                && steps.stream().anyMatch(step -> step.whom().isOwner()))
            throw new IllegalArgumentException("this is nobody's own: say which team, who or which role is told");
    }

    /** One that tells at once. */
    public CallOutRule(
            String name,
            Happening when,
            Severity from,
            Scope scope,
            @Nullable Hours hours,
            List<Step> steps,
            @Nullable Duration again,
            boolean over,
            boolean goesOn) {
        this(name, when, from, scope, hours, steps, again, over, goesOn, null);
    }

    /**
     * Something that happened to a case.
     *
     * @param severity how bad it is
     * @param before   the worst that it has been since it was last over; null where it is new
     * @param about    what it is about
     */
    public record Occasion(
            Happening what, Severity severity, @Nullable Severity before, Collection<Scope.Facts> about, Instant at) {}

    /** Whether people are told of it by this rule. */
    public boolean takes(Occasion one) {
        if (!when.isOfCase())
            return one.what() == when
                    && (when.about() == Happening.About.ALL
                            || one.about().stream().anyMatch(scope::takes))
                    && (hours == null || hours.apply(one.at()));
        return one.what() == when
                && atLeast(one.severity())
                // What was told when it came to be so bad is not told again because it comes to be so again.
                && (when != Happening.OPENED || one.before() == null || !atLeast(one.before()))
                && one.about().stream().anyMatch(scope::takes)
                && (hours == null || hours.apply(one.at()));
    }

    private boolean atLeast(Severity severity) {
        return severity.compareTo(from) >= 0;
    }

    /** Which of some rules, in their order, take something that happened: the first, and those after it as long as they go on. */
    public static <R> List<R> taking(List<R> rules, Function<R, CallOutRule> rule, Occasion one) {
        var taking = new ArrayList<R>();
        for (var it : rules) {
            if (!rule.apply(it).takes(one)) continue;
            taking.add(it);
            if (!rule.apply(it).goesOn()) break;
        }
        return taking;
    }

    /**
     * {@code When a critical case of each tier 1 component opens, tell the first line of its team by text message, else by mail; if
     * nobody has it after 15 min, the second line of its team by mail. Tell all who were told when it is over.}
     *
     * @param keys gives the name that people know for the key of an application or a component
     */
    public String sentence(UnaryOperator<String> keys, Whom.Names names) {
        var text = new StringBuilder(opening(keys));
        if (!when.isOfCase()) {
            text.append("tell ")
                    .append(steps.stream().map(step -> step.words(names)).collect(Collectors.joining(", and ")))
                    .append('.');
            return goesOn ? text.append(ALSO).toString() : text.toString();
        }

        if (!(steps.getFirst().whom() instanceof Whom.Desk)) text.append("tell ");
        if (digest != null) {
            text.append(digest.words()).append(" in one message, ");
            text.append(steps.stream().map(step -> step.words(names)).collect(Collectors.joining(", and ")));
        }
        for (int place = 0; place < steps.size() && digest == null; place++) {
            var step = steps.get(place);
            if (place > 0)
                text.append("; if nobody has it after ")
                        .append(Spans.words(step.after()))
                        .append(", ");
            text.append(step.words(names));
            if (place == 0 && !step.after().isZero())
                text.append(", unless somebody has it within ").append(Spans.words(step.after()));
        }
        text.append('.');
        if (again != null)
            text.append(" Tell them all again every ")
                    .append(Spans.words(again))
                    .append(" until somebody has it.");
        if (over && digest == null) text.append(" Tell all who were told when it is over.");
        if (goesOn) text.append(ALSO);
        return text.toString();
    }

    private String opening(UnaryOperator<String> keys) {
        var at = hours == null ? "" : " " + Hours.words(hours);
        return switch (when.about()) {
            case ALL -> "When %s%s, ".formatted(when.words(), at);
            case COMPONENTS -> "When %s %s%s, ".formatted(scope.words(keys), when.words(), at);
            case CASE ->
                "When a %s of %s %s%s, "
                        .formatted(
                                from == Severity.CRITICAL
                                        ? "critical case"
                                        : "case that is " + from.word() + " or worse",
                                scope.words(keys),
                                when.words(),
                                at);
        };
    }
}
