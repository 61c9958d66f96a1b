package app.morvet.core.duty;

import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Who of a team is on duty, when: in lines, of which the first is called first. In each line people take turns; from a day on they
 * may do so otherwise than before. On top of that somebody is away, or somebody covers: who covers is on duty whoever else would
 * be, and of two who cover the one that was said last is.
 *
 * @param zone    on whose wall turns are handed over
 * @param lines   the first line, the second and so on, each with how its turns are taken from which day on
 * @param changes in the order in which they were said
 */
public record Rota(ZoneId zone, List<List<Turns>> lines, List<Change> changes) {
    /** How lines are called, in the order in which they are. */
    public static final List<String> LINES = List.of("first line", "second line", "third line");

    public static final int MOST_LINES = LINES.size();
    private static final int MOST_PIECES = 20_000;

    /** What is otherwise than by turns, for a while. */
    public sealed interface Change {
        Instant from();

        Instant to();

        /** Somebody is away, and on duty in no line. */
        record Away(long person, Instant from, Instant to) implements Change {}

        /** Somebody is on duty in a line instead of whoever would be. */
        record Covers(long person, int line, Instant from, Instant to) implements Change {}
    }

    /**
     * A stretch of one line.
     *
     * @param person who is on duty; null where nobody is
     * @param covers whether that is somebody who covers
     * @param closed whether nobody is to be on duty, by the hours that were agreed
     */
    public record Duty(@Nullable Long person, Instant from, Instant to, boolean covers, boolean closed) {
        /** Whether somebody should be on duty and nobody is. */
        public boolean gap() {
            return person == null && !closed;
        }

        private boolean goesOnAs(Duty next) {
            return Objects.equals(person, next.person) && covers == next.covers && closed == next.closed;
        }

        private Duty until(Instant end) {
            return new Duty(person, from, end, covers, closed);
        }
    }

    /** @throws IllegalArgumentException saying what cannot be */
    public Rota {
        lines = lines.stream()
                .map(line ->
                        line.stream().sorted(Comparator.comparing(Turns::from)).toList())
                .toList();
        changes = List.copyOf(changes);
        if (lines.size() > MOST_LINES) throw new IllegalArgumentException("a rota has at most 3 lines");
        for (var change : changes) {
            if (!change.from().isBefore(change.to()))
                throw new IllegalArgumentException("somebody is away, or covers, from a time to a later one");
        }
    }

    /** Whether anybody is ever on duty. */
    public boolean isEmpty() {
        return lines.stream().allMatch(List::isEmpty);
    }

    /** Who is on duty in a line, from 0, at an instant; null for nobody. */
    public @Nullable Long on(int line, Instant at) {
        return duty(line, at).person();
    }

    /** As it is at an instant; its own span says nothing. */
    private Duty duty(int line, Instant at) {
        for (int i = changes.size() - 1; i >= 0; i--)
            if (changes.get(i) instanceof Change.Covers one && one.line() == line && holds(one, at))
                return new Duty(one.person(), at, at, true, false);
        var turns = turns(line, at);
        if (turns == null) return new Duty(null, at, at, false, false);
        if (turns.hours() != null && !turns.hours().apply(at)) return new Duty(null, at, at, false, true);
        var turn = Objects.requireNonNull(turns.turn(at, zone));
        long person = turns.person(turn.number());
        return new Duty(isAway(person, at) ? null : person, at, at, false, false);
    }

    private static boolean holds(Change one, Instant at) {
        return !at.isBefore(one.from()) && at.isBefore(one.to());
    }

    private boolean isAway(long person, Instant at) {
        return changes.stream()
                .anyMatch(one -> one instanceof Change.Away away && away.person() == person && holds(one, at));
    }

    /** The ones in force: of those that have begun the last. */
    private @Nullable Turns turns(int line, Instant at) {
        if (line >= lines.size()) return null;
        Turns found = null;
        for (var one : lines.get(line)) if (!one.start(0, zone).isAfter(at)) found = one;
        return found;
    }

    /**
     * A line over a half-open span: its stretches, one behind the other without a hole; two of the same person that meet are one.
     *
     * @throws IllegalArgumentException where the span has more than 20,000 edges
     */
    public List<Duty> duties(int line, Instant from, Instant to) {
        var edges = new TreeSet<Instant>();
        edges.add(from);
        if (line < lines.size()) for (var turns : lines.get(line)) edges(turns, from, to, edges);
        for (var change : changes) {
            edges.add(change.from());
            edges.add(change.to());
        }
        var duties = new ArrayList<Duty>();
        for (var at : edges) {
            if (at.isBefore(from) || !at.isBefore(to)) continue;
            var next = edges.higher(at);
            var end = next == null || next.isAfter(to) ? to : next;
            var here = duty(line, at);
            var last = duties.isEmpty() ? null : duties.getLast();
            if (last != null && last.goesOnAs(here)) duties.set(duties.size() - 1, last.until(end));
            else duties.add(here.until(end));
        }
        return List.copyOf(duties);
    }

    private void edges(Turns turns, Instant from, Instant to, TreeSet<Instant> edges) {
        edges.add(turns.start(0, zone));
        var turn = turns.turn(from, zone);
        for (long number = turn == null ? 0 : turn.number();
                turns.start(number, zone).isBefore(to);
                number++) {
            edges.add(turns.start(number, zone));
            if (edges.size() > MOST_PIECES)
                throw new IllegalArgumentException("this is too long a time to look at; choose a shorter one");
        }
        if (turns.hours() != null) edges.addAll(turns.hours().edges(from, to));
    }

    /** When nobody is on duty in a line though somebody should be. */
    public List<Duty> gaps(int line, Instant from, Instant to) {
        return duties(line, from, to).stream().filter(Duty::gap).toList();
    }
}
