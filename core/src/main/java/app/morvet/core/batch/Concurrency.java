package app.morvet.core.batch;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;

/** How many jobs run at once over a time, and when that is more than there are slots. */
public final class Concurrency {
    /** From when on so many run at once. */
    public record Step(Instant at, int running) {}

    /** A time in which there are too few slots, half-open. */
    public record Shortage(Instant from, Instant to, int most) {}

    /** A stretch in which one runs, half-open. */
    public record Stretch(Instant from, Instant to) {}

    private Concurrency() {}

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
                found.add(new Shortage(since, step.at(), most));
                since = null;
                most = 0;
            }
        }
        return List.copyOf(found);
    }
}
