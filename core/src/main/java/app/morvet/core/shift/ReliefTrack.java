package app.morvet.core.shift;

import app.morvet.core.alert.Severity;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** A strip of time out of which trouble stands up: at each moment as high as the worst that was there. */
public final class ReliefTrack {
    private ReliefTrack() {}

    /**
     * A time in which something was in trouble.
     *
     * @param to null while it is
     */
    public record Stretch(Severity severity, Instant from, @Nullable Instant to) {}

    /** A time in which the worst was the same, half-open; what is not in any was steady. */
    public record Step(Severity worst, Instant from, Instant to) {}

    /**
     * The steps between two instants, in order of time, none of which meets another of the same severity.
     *
     * @param now what is in trouble is known to be so until then
     * @throws IllegalArgumentException where the span ends before it begins
     */
    public static List<Step> of(Collection<Stretch> stretches, Instant from, Instant to, Instant now) {
        if (!from.isBefore(to)) throw new IllegalArgumentException("a track begins before it ends");
        var known = now.isBefore(to) ? now : to;
        var edges = new TreeSet<Instant>();
        var cut = new ArrayList<Step>();
        for (var one : stretches) {
            var begin = one.from().isBefore(from) ? from : one.from();
            var end = one.to() == null || one.to().isAfter(known) ? known : one.to();
            if (!begin.isBefore(end)) continue;
            cut.add(new Step(one.severity(), begin, end));
            edges.add(begin);
            edges.add(end);
        }
        var steps = new ArrayList<Step>();
        Instant since = null;
        for (var edge : edges) {
            if (since != null) {
                var worst = worst(cut, since);
                if (worst != null) add(steps, new Step(worst, since, edge));
            }
            since = edge;
        }
        return List.copyOf(steps);
    }

    private static @Nullable Severity worst(List<Step> cut, Instant at) {
        Severity worst = null;
        for (var one : cut)
            if (!one.from().isAfter(at)
                    && one.to().isAfter(at)
                    && (worst == null || one.worst().worseThan(worst))) worst = one.worst();
        return worst;
    }

    private static void add(List<Step> steps, Step next) {
        var last = steps.isEmpty() ? null : steps.getLast();
        if (last != null && last.worst() == next.worst() && last.to().equals(next.from()))
            steps.set(steps.size() - 1, new Step(last.worst(), last.from(), next.to()));
        else steps.add(next);
    }
}
