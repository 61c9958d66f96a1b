package app.morvet.core.batch;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * Which run belongs to which expected start of a job.
 *
 * <ol>
 *   <li>A run that says which start it is for belongs to that one.
 *   <li>Any other belongs to the last start that had come when it began; up to two minutes early is taken as a clock that
 *       differs, where the starts lie twenty minutes apart or more.
 *   <li>After a run that failed or was cancelled, the next one of the same start is a further attempt at it.
 *   <li>A run too many is a catch-up for an earlier start of the last day that has no run, in order; unless somebody
 *       started it by hand.
 *   <li>What is left was not expected.
 * </ol>
 */
public final class Matching {
    /** How far ahead of its start a run may begin. */
    public static final Duration EARLY = Duration.ofMinutes(2);

    private static final Duration SAME = Duration.ofSeconds(90);
    private static final Duration CATCH_UP = Duration.ofDays(1);
    private static final int SHARE_OF_GAP = 10;

    private Matching() {}

    /**
     * @param runs   for each start, its attempts in order of time
     * @param strays runs that were not expected
     */
    public record Matched(List<List<Run>> runs, List<Run> strays) {}

    /**
     * @param starts when runs could begin, ascending
     * @param meant  the starts as a scheduler names them, one for each
     * @param runs   in any order
     */
    public static Matched of(List<Instant> starts, List<Instant> meant, List<Run> runs) {
        var attempts = new ArrayList<List<Run>>();
        var loose = new ArrayList<List<Run>>();
        for (int i = 0; i < starts.size(); i++) {
            attempts.add(new ArrayList<>());
            loose.add(new ArrayList<>());
        }
        var strays = new ArrayList<Run>();
        for (var run : runs.stream()
                .sorted(Comparator.comparing(Run::at).thenComparing(Run::id))
                .toList()) {
            int named = run.meant() == null ? -1 : named(meant, run.meant());
            if (named >= 0) attempts.get(named).add(run);
            else {
                int last = last(starts, run.at());
                if (last < 0) strays.add(run);
                else loose.get(last).add(run);
            }
        }
        for (int i = 0; i < starts.size(); i++) {
            surplus(attempts.get(i), strays);
            place(i, loose.get(i), starts, attempts, strays);
        }
        strays.sort(Comparator.comparing(Run::at).thenComparing(Run::id));
        return new Matched(attempts, strays);
    }

    /** Of runs that all say that they are for one start, those that began while another of them was still good. */
    private static void surplus(List<Run> named, List<Run> strays) {
        for (int i = 1; i < named.size(); ) {
            if (isNextAttempt(named.get(i - 1), named.get(i)) || named.get(i).trigger() == Run.Trigger.BY_HAND) i++;
            else strays.add(named.remove(i));
        }
    }

    private static boolean isNextAttempt(Run before, Run next) {
        return !before.running() && !before.done();
    }

    private static void place(
            int start, List<Run> loose, List<Instant> starts, List<List<Run>> attempts, List<Run> strays) {
        var groups = new ArrayList<List<Run>>();
        for (var run : loose) {
            var last = groups.isEmpty() ? null : groups.getLast().getLast();
            if (last != null && isNextAttempt(last, run)) groups.getLast().add(run);
            else groups.add(new ArrayList<>(List.of(run)));
        }
        if (groups.isEmpty()) return;
        var own = attempts.get(start);
        // Attempts of the start that named themselves came first; more of the same go on from there.
        if (!own.isEmpty() && isNextAttempt(own.getLast(), groups.getFirst().getFirst())) {
            own.addAll(groups.removeFirst());
        }
        var homes = new ArrayList<Integer>();
        long scheduled = groups.stream()
                .filter(group -> group.getFirst().trigger() != Run.Trigger.BY_HAND)
                .count();
        long wanted = scheduled - (own.isEmpty() ? 1 : 0);
        for (int i = start - 1; i >= 0 && homes.size() < wanted; i--) {
            if (starts.get(i).plus(CATCH_UP).isBefore(starts.get(start))) break;
            if (attempts.get(i).isEmpty()) homes.addFirst(i);
        }
        if (own.isEmpty()) homes.add(start);
        for (var group : groups) {
            boolean byHand = group.getFirst().trigger() == Run.Trigger.BY_HAND;
            if (byHand && own.isEmpty() && homes.remove((Integer) start)) own.addAll(group);
            else if (!byHand && !homes.isEmpty())
                attempts.get(homes.removeFirst()).addAll(group);
            else strays.addAll(group);
        }
    }

    private static int named(List<Instant> meant, Instant at) {
        int last = last(meant, at);
        for (int i = Math.max(0, last); i < Math.min(meant.size(), last + 2); i++)
            if (Duration.between(meant.get(i), at).abs().compareTo(SAME) <= 0) return i;
        return -1;
    }

    /** The last start that had come at an instant; -1 where none had. */
    private static int last(List<Instant> starts, Instant at) {
        int low = 0;
        int high = starts.size();
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (starts.get(middle).minus(early(starts, middle)).isAfter(at)) high = middle;
            else low = middle + 1;
        }
        return low - 1;
    }

    private static Duration early(List<Instant> starts, int index) {
        if (index == 0) return EARLY;
        var gap = Duration.between(starts.get(index - 1), starts.get(index)).dividedBy(SHARE_OF_GAP);
        return gap.compareTo(EARLY) < 0 ? gap : EARLY;
    }
}
