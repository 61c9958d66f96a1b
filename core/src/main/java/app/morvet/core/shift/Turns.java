package app.morvet.core.shift;

import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;

/** Who took over when, and what that says of when somebody was last there. */
public final class Turns {
    /** Whoever has never taken over has been away for so long. */
    static final Duration AWAY = Duration.ofHours(12);

    private Turns() {}

    /** Somebody took over. */
    public record Taken(long person, Instant at) {}

    /**
     * Since when things are new to somebody: since another took over from them last. While nobody has done so they are still there, and
     * what is new is new since the other from whom they took over came; whoever never took over has been away for twelve hours.
     */
    public static Instant newSince(Collection<Taken> turns, long person, Instant now) {
        var before = now.minus(AWAY);
        var known = turns.stream()
                .filter(one -> !one.at().isAfter(now))
                .sorted(Comparator.comparing(Taken::at))
                .toList();
        Instant left = null;
        boolean there = false;
        for (var one : known) {
            if (one.person() == person) there = true;
            else if (there) {
                left = one.at();
                there = false;
            }
        }
        return left == null ? before : left;
    }
}
