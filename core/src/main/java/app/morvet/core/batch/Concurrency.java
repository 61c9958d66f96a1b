package app.morvet.core.batch;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.TreeMap;

/** How many jobs run at once over a time, and when that is more than there are slots. */
public final class Concurrency {
    /** From when on so many run at once. */
    public record Step(Instant at, int running) {}

    /**
     * A time in which there are too few slots, half-open.
     *
     * @param most  that want to run at once
     * @param slots that there are
     */
    public record Shortage(Instant from, Instant to, int most, int slots) {}

    /** A stretch in which one runs, half-open. */
    public record Stretch(Instant from, Instant to) {}

    private Concurrency() {}

    /** How many jobs run at once, as they ran and as they are likely to; where slots are limited, those that take one. */
    public static List<Step> of(Forecast forecast) {
        boolean limited = !forecast.slots().isEmpty();
        var stretches = new ArrayList<Stretch>();
        for (var one : forecast.night().occurrences()) {
            if (limited && forecast.poolOf(one.job()) < 0) continue;
            for (var run : one.runs()) if (run.ended() != null) stretches.add(new Stretch(run.at(), run.ended()));
            var ahead = forecast.of(one);
            var last = one.last();
            boolean runs = last != null && last.running();
            // One that is played through as skipped has run until now all the same.
            if (ahead == null) {
                if (runs) stretches.add(new Stretch(last.at(), forecast.night().now()));
                continue;
            }
            var from = runs ? last.at() : ahead.start().likely();
            stretches.add(new Stretch(from, ahead.end().likely()));
        }
        return of(stretches);
    }

    /**
     * When more jobs want to run than there are slots for them, if none waited for a slot: each from when it is planned, or
     * likely to be ready, for as long as is usual.
     *
     * @param until jobs that are planned after this do not count
     * @return in order of time; those of different pools may overlap
     */
    public static List<Shortage> shortages(Forecast forecast, Instant until) {
        var wanted = new TreeMap<Integer, List<Stretch>>();
        for (var ahead : forecast.ahead()) {
            int pool = forecast.poolOf(ahead.occurrence().job());
            if (pool < 0 || ahead.occurrence().planned().isAfter(until)) continue;
            wanted.computeIfAbsent(pool, none -> new ArrayList<>())
                    .add(wanted(ahead, forecast.night().now()));
        }
        var found = new ArrayList<Shortage>();
        wanted.forEach((pool, stretches) ->
                found.addAll(beyond(of(stretches), forecast.slots().get(pool))));
        found.sort(Comparator.comparing(Shortage::from));
        return List.copyOf(found);
    }

    private static Stretch wanted(Forecast.Ahead ahead, Instant now) {
        var one = ahead.occurrence();
        var last = one.last();
        if (last != null && last.running()) return new Stretch(now, ahead.end().likely());
        var from = one.planned().isAfter(now) ? one.planned() : ahead.start().likely();
        return new Stretch(from, from.plusSeconds((long) one.usual().median()));
    }

    /** The count from each change on, beginning with the first start; the last step is 0. */
    public static List<Step> of(List<Stretch> stretches) {
        var changes = new TreeMap<Instant, Integer>();
        for (var one : stretches) {
            if (!one.from().isBefore(one.to())) continue;
            changes.merge(one.from(), 1, Integer::sum);
            changes.merge(one.to(), -1, Integer::sum);
        }
        var steps = new ArrayList<Step>();
        int running = 0;
        for (var change : changes.entrySet()) {
            if (change.getValue() == 0) continue;
            running += change.getValue();
            steps.add(new Step(change.getKey(), running));
        }
        return List.copyOf(steps);
    }

    /** When more would run than {@code slots}. */
    public static List<Shortage> beyond(List<Step> steps, int slots) {
        var found = new ArrayList<Shortage>();
        Instant since = null;
        int most = 0;
        for (var step : steps) {
            if (step.running() > slots) {
                if (since == null) since = step.at();
                most = Math.max(most, step.running());
            } else if (since != null) {
                found.add(new Shortage(since, step.at(), most, slots));
                since = null;
                most = 0;
            }
        }
        return List.copyOf(found);
    }
}
