package app.morvet.core.callouts;

import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Who is told next of something that nobody has yet: one after the other, the next when the one before has not taken it within a
 * time, or at once when they say that they cannot. Nobody is told twice. It is reckoned from who was told, so it does not matter
 * when, where, or how often anybody looks.
 */
public final class Ladder {
    private Ladder() {}

    /** Who was told, and whether they have said since that they cannot. */
    public record Told(String who, Instant at, boolean cannot) {}

    /** @param who is told, and not before {@code at} */
    public record Next(String who, Instant at) {}

    /**
     * @param rungs    who can be told, in order, each once
     * @param told     who was told of it, in whatever order
     * @param patience how long whoever was told last has to take it
     * @param now      when whoever is first is told
     * @return empty where all were told
     */
    public static Optional<Next> next(List<String> rungs, List<Told> told, Duration patience, Instant now) {
        var known = new HashSet<String>();
        told.forEach(one -> known.add(one.who()));
        return rungs.stream()
                .filter(who -> !known.contains(who))
                .findFirst()
                .map(who -> new Next(who, due(told, patience, now)));
    }

    private static Instant due(List<Told> told, Duration patience, Instant now) {
        var last = last(told);
        return last == null || last.cannot() ? now : last.at().plus(patience);
    }

    private static @Nullable Told last(List<Told> told) {
        Told last = null;
        for (var one : told) if (last == null || !one.at().isBefore(last.at())) last = one;
        return last;
    }

    /**
     * From when on it is plain that nobody takes it: all were told, and whoever was told last has had their time, or cannot.
     *
     * @return empty while somebody is still to be told
     */
    public static Optional<Instant> nobodySince(List<String> rungs, List<Told> told, Duration patience, Instant now) {
        if (told.isEmpty() && !rungs.isEmpty()
                || next(rungs, told, patience, now).isPresent()) return Optional.empty();
        return Optional.of(due(told, patience, now));
    }
}
