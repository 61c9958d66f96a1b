package app.morvet.core.callouts;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A rule at work on one case: who is told next of what happened, until somebody has it. It is reckoned from who was told, so it does
 * not matter when, where, or how often anybody looks, nor in what order things were heard.
 */
public final class Course {
    /** So long whoever was told last has to take it, before it is said that nobody does; and so often it is looked for somebody to tell. */
    public static final Duration PATIENCE = Duration.ofMinutes(15);

    /** People are told again for so long at most; after that the page alone says that nobody has it. */
    static final Duration LONGEST_AGAIN = Duration.ofHours(24);

    private Course() {}

    /**
     * Somebody who was told.
     *
     * @param step   in which step
     * @param round  0 the first time, 1 and on when all were told again
     * @param cannot whether they have said since that they cannot, or it could not be delivered to them
     */
    public record Told(int step, int round, String who, Instant at, boolean cannot) {}

    /** Who can be reached now in a step, each by a name that stays the same. */
    public interface Reach {
        List<String> of(int step);
    }

    /** Somebody is told now. */
    public record Call(int step, int round, String who) {}

    /**
     * What is to be done.
     *
     * @param calls  who is told now, all at once; after that it is asked again
     * @param look   when to look again; null where nothing will change by itself
     * @param unheard whether all who can be told were told, had their time, and nobody has it
     */
    public record Next(List<Call> calls, @Nullable Instant look, boolean unheard) {
        static Next look(@Nullable Instant at) {
            return new Next(List.of(), at, false);
        }
    }

    /**
     * @param started when it happened
     * @param told    who was told of it by this rule, in whatever order
     */
    public static Next next(
            CallOutRule rule, Instant started, Standing standing, List<Told> told, Reach reach, Instant now) {
        if (!rule.when().calls(standing)) return Next.look(null);
        if (standing.quiet(now)) return Next.look(standing.quietUntil());
        var known = new LinkedHashSet<String>();
        told.forEach(one -> known.add(one.who()));
        int next = 1
                + told.stream()
                        .filter(one -> one.round() == 0)
                        .mapToInt(Told::step)
                        .max()
                        .orElse(-1);
        // A step in which there is nobody to tell takes no time.
        for (int step = next; step < rule.steps().size(); step++) {
            var who = unknown(reach.of(step), known);
            if (who.isEmpty()) continue;
            var due = due(told, rule.steps().get(next).after(), started, now);
            if (due.isAfter(now)) return Next.look(due);
            int at = step;
            return new Next(who.stream().map(one -> new Call(at, 0, one)).toList(), null, false);
        }
        return allTold(rule, started, told, now);
    }

    private static Next allTold(CallOutRule rule, Instant started, List<Told> told, Instant now) {
        if (rule.when() == Happening.OVER) return Next.look(null);
        // Nobody is on duty, or none of them has an address: it is said at once, and looked again.
        if (told.isEmpty()) return new Next(List.of(), now.plus(PATIENCE), true);
        var again = rule.again();
        if (again != null && now.isBefore(started.plus(LONGEST_AGAIN))) {
            // People are told again; nothing is handed off again.
            var willing = willing(told).stream()
                    .filter(one -> !(rule.steps().get(one.step()).whom() instanceof Whom.Desk))
                    .toList();
            var due = last(told).plus(again);
            int round = 1 + told.stream().mapToInt(Told::round).max().orElse(0);
            if (willing.isEmpty()) return new Next(List.of(), null, true);
            if (!due.isAfter(now))
                return new Next(
                        willing.stream()
                                .map(one -> new Call(one.step(), round, one.who()))
                                .toList(),
                        null,
                        false);
            return new Next(List.of(), due, round > 1);
        }
        var plain = due(told, PATIENCE, started, now);
        return plain.isAfter(now) ? Next.look(plain) : new Next(List.of(), null, true);
    }

    private static List<String> unknown(List<String> who, Set<String> known) {
        return who.stream().filter(one -> !known.contains(one)).distinct().toList();
    }

    /** When whoever is next is told: after a wait, or at once when all who were told cannot. */
    private static Instant due(List<Told> told, Duration wait, Instant started, Instant now) {
        if (told.isEmpty()) return started.plus(wait);
        return willing(told).isEmpty() ? now : last(told).plus(wait);
    }

    /** Who was told and has not said that they cannot, each as they were told first. */
    private static List<Told> willing(List<Told> told) {
        var cannot = new LinkedHashSet<String>();
        told.stream().filter(Told::cannot).forEach(one -> cannot.add(one.who()));
        var found = new ArrayList<Told>();
        for (var one : told) if (one.round() == 0 && !cannot.contains(one.who())) found.add(one);
        found.sort(java.util.Comparator.comparingInt(Told::step).thenComparing(Told::who));
        return found;
    }

    private static Instant last(List<Told> told) {
        return told.stream().map(Told::at).max(Instant::compareTo).orElseThrow();
    }
}
