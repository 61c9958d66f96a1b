package app.morvet.core.states;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What something was in over a span of time: one stretch after the other, without gaps. */
public final class StateTrack {
    private static final double NARROWEST = 1.5;

    /** When it came into a word. */
    public record Change(Instant at, String word) {}

    /**
     * A time in one word.
     *
     * @param word null while it is not known
     * @param to   after {@code from}
     */
    public record Stretch(@Nullable String word, Instant from, Instant to) {}

    /**
     * A stretch as a strip has it, a hair wide at least, so that a short one is seen.
     *
     * @param x in the strip's own unit
     */
    public record Piece(@Nullable String word, double x, double width) {}

    private StateTrack() {}

    /**
     * The stretches between two instants.
     *
     * @param changes in order of time; one at or before {@code from} says in what it was there
     * @param knownTo until when the last word is known to stand; from there on nothing is
     * @throws IllegalArgumentException where the span ends before it begins
     */
    public static List<Stretch> of(List<Change> changes, Instant from, Instant to, Instant knownTo) {
        if (!from.isBefore(to)) throw new IllegalArgumentException("a track begins before it ends");
        var stretches = new ArrayList<Stretch>();
        String word = null;
        var since = from;
        for (var change : changes) {
            if (!change.at().isBefore(to)) break;
            if (change.at().isAfter(since)) {
                add(stretches, word, since, change.at());
                since = change.at();
            }
            word = change.word();
        }
        var stands = knownTo.isBefore(since) ? since : knownTo.isAfter(to) ? to : knownTo;
        add(stretches, word, since, stands);
        add(stretches, null, stands, to);
        return List.copyOf(stretches);
    }

    private static void add(List<Stretch> stretches, @Nullable String word, Instant from, Instant to) {
        if (!from.isBefore(to)) return;
        var last = stretches.isEmpty() ? null : stretches.getLast();
        boolean same = last != null && (word == null ? last.word() == null : word.equals(last.word()));
        if (same) stretches.set(stretches.size() - 1, new Stretch(word, last.from(), to));
        else stretches.add(new Stretch(word, from, to));
    }

    /** The same as a strip of a width, in any unit. */
    public static List<Piece> pieces(List<Stretch> stretches, double width) {
        if (stretches.isEmpty()) return List.of();
        var from = stretches.getFirst().from();
        double whole = Duration.between(from, stretches.getLast().to()).toMillis();
        return stretches.stream()
                .map(one -> {
                    double x = Duration.between(from, one.from()).toMillis() / whole * width;
                    double end = Duration.between(from, one.to()).toMillis() / whole * width;
                    double wide = Math.max(NARROWEST, end - x);
                    return new Piece(one.word(), Math.min(x, width - wide), wide);
                })
                .toList();
    }
}
