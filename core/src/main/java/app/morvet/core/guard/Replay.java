package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A guard run over stored history, with the very code that runs live. What is measured (the courses) is made once; each
 * position of a limit is then a pass over it.
 */
public final class Replay {
    private Replay() {}

    /**
     * One series and its course.
     *
     * @param group  what has one alert together
     * @param course from the start of the replay on
     */
    public record Run(long series, String group, Course course) {}

    /**
     * An alert that the guard would have raised.
     *
     * @param series  the series that raised it
     * @param end     null while it is still up when the replay ends
     * @param level   the worst it came to
     * @param worst   the worst value
     * @param flapped whether it came and went
     */
    public record Alert(
            long series,
            String group,
            Instant start,
            @Nullable Instant end,
            Severity level,
            double worst,
            boolean flapped) {}

    /**
     * What a replay comes to.
     *
     * @param alerts in order of their start
     * @param from   start of the replay
     * @param to     its end
     */
    public record Outcome(List<Alert> alerts, Instant from, Instant to) {
        /** Alerts a week, over all groups. */
        public double alertsAWeek() {
            return alerts.size() / (Duration.between(from, to).toSeconds() / (7 * 86_400.0));
        }

        /** Summed over all alerts. */
        public Duration timeInAlert() {
            return alerts.stream()
                    .map(alert -> Duration.between(alert.start(), alert.end() == null ? to : alert.end()))
                    .reduce(Duration.ZERO, Duration::plus);
        }

        public long flaps() {
            return alerts.stream().filter(Alert::flapped).count();
        }

        public long critical() {
            return alerts.stream()
                    .filter(alert -> alert.level() == Severity.CRITICAL)
                    .count();
        }
    }

    /** Runs a guard from nothing known at {@code from} up to {@code to}. */
    public static Outcome of(Guard guard, List<Run> runs, Instant from, Instant to) {
        var byGroup = new HashMap<String, List<Folding.Of<Run>>>();
        // What an alert that is still up has come to stands in the states, since no transition has told it yet.
        var reached = new HashMap<String, Double>();
        for (var run : runs) {
            var step = GuardEvaluator.judge(guard, GuardState.startingAt(from), run.course(), to);
            for (var change : step.transitions())
                byGroup.computeIfAbsent(run.group(), none -> new ArrayList<>()).add(new Folding.Of<>(run, change));
            if (step.state().level() != null)
                reached.merge(run.group(), step.state().worst(), guard.limits()::worse);
        }
        var alerts = new ArrayList<Alert>();
        byGroup.forEach((group, happened) -> {
            happened.sort(java.util.Comparator.comparing(one -> one.transition().at()));
            alerts(guard, Folding.fold(Map.of(), happened), happened, reached.getOrDefault(group, Double.NaN), alerts);
        });
        alerts.sort(java.util.Comparator.comparing(Alert::start).thenComparing(Alert::series));
        return new Outcome(List.copyOf(alerts), from, to);
    }

    private static void alerts(
            Guard guard,
            List<Folding.Of<Run>> told,
            List<Folding.Of<Run>> happened,
            double reached,
            List<Alert> alerts) {
        @Nullable Alert open = null;
        for (var one : told) {
            var change = one.transition();
            var level = change.level();
            if (open == null) {
                if (level != null)
                    open = new Alert(
                            one.member().series(),
                            one.member().group(),
                            change.at(),
                            null,
                            level,
                            change.worst(),
                            false);
            } else if (level == null) {
                alerts.add(with(guard, open, change, change.at(), happened));
                open = null;
            } else {
                open = with(guard, open, change, null, happened);
            }
        }
        if (open != null)
            alerts.add(new Alert(
                    open.series(),
                    open.group(),
                    open.start(),
                    null,
                    open.level(),
                    guard.limits().worse(open.worst(), reached),
                    open.flapped()));
    }

    private static Alert with(
            Guard guard, Alert open, Transition change, @Nullable Instant end, List<Folding.Of<Run>> happened) {
        double worst = open.worst();
        var level = open.level();
        if (change.level() != null && change.level().worseThan(level)) level = change.level();
        if (end == null) worst = guard.limits().worse(worst, change.worst());
        else
            for (var one : happened) {
                var at = one.transition().at();
                if (!at.isBefore(open.start()) && !at.isAfter(end))
                    worst = guard.limits().worse(worst, one.transition().worst());
            }
        return new Alert(
                open.series(),
                open.group(),
                open.start(),
                end,
                level,
                worst,
                open.flapped() || change.kind() == Transition.Kind.FLAPS);
    }

    /**
     * What the courses of a combination's members make of it.
     *
     * @param courses for each member those over the series of one component, none where it has none
     */
    public static Course combined(
            CombinationGuard guard, List<Guard> members, List<List<Course>> courses, Instant from, Instant to) {
        var answers = new ArrayList<GuardEvaluator.Answers>();
        for (int i = 0; i < members.size(); i++) {
            var member = members.get(i);
            answers.add(GuardEvaluator.Answers.any(courses.get(i).stream()
                    .map(course -> GuardEvaluator.judge(member, GuardState.startingAt(from), course, to)
                            .answers())
                    .toList()));
        }
        return GuardEvaluator.course(guard, answers, from, to);
    }
}
