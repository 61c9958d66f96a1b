package app.morvet.core.alert;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** A strip of time whose baseline rises to the worst state at each moment. */
public final class ReliefTrack {
    /** A state that lasted; {@code to} is null while it does. */
    public record Stretch(Severity severity, Instant from, @Nullable Instant to) {}

    /**
     * A piece of the strip in one state, as wide as a hair at least, so that a short one is seen.
     *
     * @param x     where it begins, in the strip's own unit
     * @param width how wide it is
     */
    public record Rise(Severity severity, double x, double width) {}

    private static final double NARROWEST = 1.5;
    private static final Severity[] SEVERITIES = Severity.values();

    private ReliefTrack() {}

    /**
     * @param stretches in any order; they may overlap
     * @param from      where the strip begins
     * @param to        where it ends, after it begins
     * @param width     of the strip, in any unit
     * @return from left to right, without those times at which nothing was wrong
     * @throws IllegalArgumentException where the strip ends before it begins
     */
    public static List<Rise> of(List<Stretch> stretches, Instant from, Instant to, double width) {
        if (!from.isBefore(to)) throw new IllegalArgumentException("a track begins before it ends");
        // How many stretches of each severity begin (or, negative, end) at an instant.
        var edges = new TreeMap<Instant, int[]>();
        for (var one : stretches) {
            var start = later(one.from(), from);
            var end = earlier(one.to() == null ? to : one.to(), to);
            if (!start.isBefore(end)) continue;
            edges.computeIfAbsent(start, none -> new int[SEVERITIES.length])[
                    one.severity().ordinal()]++;
            edges.computeIfAbsent(end, none -> new int[SEVERITIES.length])[
                    one.severity().ordinal()]--;
        }
        double whole = Duration.between(from, to).toMillis();
        var rises = new ArrayList<Rise>();
        var up = new int[SEVERITIES.length];
        Instant before = from;
        for (var edge : edges.entrySet()) {
            var worst = worst(up);
            double x = Duration.between(from, before).toMillis() / whole * width;
            double end = Duration.between(from, edge.getKey()).toMillis() / whole * width;
            if (worst != null) add(rises, worst, x, end, width);
            for (int i = 0; i < up.length; i++) up[i] += edge.getValue()[i];
            before = edge.getKey();
        }
        return List.copyOf(rises);
    }

    private static void add(List<Rise> rises, Severity severity, double x, double end, double width) {
        var last = rises.isEmpty() ? null : rises.getLast();
        if (last != null && last.severity() == severity && last.x() + last.width() >= x - 0.01)
            rises.set(rises.size() - 1, new Rise(severity, last.x(), Math.max(last.width(), end - last.x())));
        else if (end - x >= NARROWEST) rises.add(new Rise(severity, x, end - x));
        // One at the very end is still to be seen in whole.
        else rises.add(new Rise(severity, Math.max(0, Math.min(x, width - NARROWEST)), NARROWEST));
    }

    private static @Nullable Severity worst(int[] up) {
        Severity worst = null;
        for (var one : SEVERITIES) if (up[one.ordinal()] > 0 && (worst == null || one.worseThan(worst))) worst = one;
        return worst;
    }

    private static Instant later(Instant one, Instant other) {
        return one.isAfter(other) ? one : other;
    }

    private static Instant earlier(Instant one, Instant other) {
        return one.isBefore(other) ? one : other;
    }
}
