package app.morvet.core.alert;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** A strip of time out of which trouble stands up: at each moment as high as the worst that was there. */
public final class ReliefTrack {
    /** A time in which something was in trouble; {@code to} is null while it is. */
    public record Stretch(Severity severity, Instant from, @Nullable Instant to) {}

    /** A time in which the worst was the same, half-open; what is not in any was steady. */
    public record Step(Severity worst, Instant from, Instant to) {}

    /**
     * A step as a strip has it, a hair wide at least, so that a short one is seen.
     *
     * @param x     where it begins, in the strip's own unit
     * @param width how wide it is
     */
    public record Rise(Severity severity, double x, double width) {}

    private static final double NARROWEST = 1.5;
    private static final Severity[] SEVERITIES = Severity.values();

    private ReliefTrack() {}

    /**
     * The steps between two instants, in order of time, none of which meets another of the same severity.
     *
     * @param stretches in any order; they may overlap
     * @param now       what is in trouble is known to be so until then
     * @throws IllegalArgumentException where the span ends before it begins
     */
    public static List<Step> steps(Collection<Stretch> stretches, Instant from, Instant to, Instant now) {
        if (!from.isBefore(to)) throw new IllegalArgumentException("a track begins before it ends");
        var known = earlier(now, to);
        // How many stretches of each severity begin (or, negative, end) at an instant.
        var edges = new TreeMap<Instant, int[]>();
        for (var one : stretches) {
            var start = later(one.from(), from);
            var end = earlier(one.to() == null ? known : one.to(), known);
            if (!start.isBefore(end)) continue;
            int which = one.severity().ordinal();
            edges.computeIfAbsent(start, none -> new int[SEVERITIES.length])[which]++;
            edges.computeIfAbsent(end, none -> new int[SEVERITIES.length])[which]--;
        }
        var steps = new ArrayList<Step>();
        var up = new int[SEVERITIES.length];
        Instant before = from;
        for (var edge : edges.entrySet()) {
            var worst = worst(up);
            if (worst != null) add(steps, new Step(worst, before, edge.getKey()));
            for (int i = 0; i < up.length; i++) up[i] += edge.getValue()[i];
            before = edge.getKey();
        }
        return List.copyOf(steps);
    }

    private static void add(List<Step> steps, Step next) {
        var last = steps.isEmpty() ? null : steps.getLast();
        if (last != null && last.worst() == next.worst() && last.to().equals(next.from()))
            steps.set(steps.size() - 1, new Step(last.worst(), last.from(), next.to()));
        else steps.add(next);
    }

    private static @Nullable Severity worst(int[] up) {
        Severity worst = null;
        for (var one : SEVERITIES) if (up[one.ordinal()] > 0 && (worst == null || one.worseThan(worst))) worst = one;
        return worst;
    }

    /**
     * The same as a strip of a width, in any unit; what is still in trouble reaches to its end.
     *
     * @throws IllegalArgumentException where the strip ends before it begins
     */
    public static List<Rise> of(Collection<Stretch> stretches, Instant from, Instant to, double width) {
        double whole = Duration.between(from, to).toMillis();
        return steps(stretches, from, to, to).stream()
                .map(one -> {
                    double x = Duration.between(from, one.from()).toMillis() / whole * width;
                    double end = Duration.between(from, one.to()).toMillis() / whole * width;
                    double wide = Math.max(NARROWEST, end - x);
                    // One at the very end is still to be seen in whole.
                    return new Rise(one.worst(), Math.max(0, Math.min(x, width - wide)), wide);
                })
                .toList();
    }

    private static Instant later(Instant one, Instant other) {
        return one.isAfter(other) ? one : other;
    }

    private static Instant earlier(Instant one, Instant other) {
        return one.isBefore(other) ? one : other;
    }
}
