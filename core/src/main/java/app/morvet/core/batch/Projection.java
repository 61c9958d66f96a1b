package app.morvet.core.batch;

import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;

/**
 * How the rest of the night will go: many nights are played through with lengths drawn from what is usual, each job
 * starting when what it waits for is done and a slot is free.
 *
 * <p>A job that runs has lasted for some time already; the rest is drawn given that. Where it says how far it is, its own
 * pace counts, fully from a fifth of the way on: the rest is {@code (1 − p) · (w · e/p · d/m + (1 − w) · d)}, with {@code e}
 * elapsed, {@code p} done, {@code d} drawn from what is usual, {@code m} its median and {@code w = min(1, p / 0.2)}.
 *
 * <p>Slots are given in the order in which jobs become ready; of two at once, to the one that is listed first. The same
 * seed gives the same figures.
 */
public final class Projection {
    /**
     * What is left to do, in seconds from now.
     *
     * @param key     by which it is known
     * @param ready   before which it does not start
     * @param waits   indexes of tasks that must be done before, each less than the task's own
     * @param usual   how long it lasts
     * @param elapsed how long it has run by now; negative where it does not run
     * @param done    how far it says it is, 0 to 1; negative where it says nothing
     * @param due     by when it must be done, or NaN
     * @param pool    of which slots it takes one; -1 where it takes none
     */
    public record Task(
            String key,
            double ready,
            List<Integer> waits,
            Spread usual,
            double elapsed,
            double done,
            double due,
            int pool) {
        public Task {
            waits = List.copyOf(waits);
        }

        public boolean running() {
            return elapsed >= 0;
        }
    }

    /** When something happens, in seconds from now: one night in ten is earlier than {@code low}, one later than {@code high}. */
    public record Range(double low, double likely, double high) {}

    /**
     * What is projected of one task.
     *
     * @param makes  the share of nights in which it is done when it must be; NaN where nothing was agreed
     * @param behind the task whose end it starts at in the likely night, or -1 where it starts by itself
     * @param margin how much longer it might take in the likely night before the end of any chain (of all that wait for one
     *     another) moves, in seconds: the total float of the critical path method, slots taken into account; exact to a
     *     second where slots decide
     */
    public record Outlook(Range start, Range end, double makes, int behind, double margin) {}

    private final Outlook[] outlooks;
    private final double[] likelyStart;
    private final double[] likelyEnd;
    private final int[][] path;

    private Projection(Outlook[] outlooks, PlayedNight likely, int[][] path) {
        this.outlooks = outlooks;
        this.likelyStart = likely.start;
        this.likelyEnd = likely.end;
        this.path = path;
    }

    /**
     * @param tasks  each after those it waits for
     * @param slots  how many run at once, for each pool; empty where nothing is limited
     * @param nights how many are played, 1 or more
     * @param seed   of the draws
     * @throws IllegalArgumentException where a task waits for a later one, or names a pool without slots
     */
    public static Projection of(List<Task> tasks, List<Integer> slots, int nights, long seed) {
        check(tasks, slots);
        int n = tasks.size();
        var plan = new PlannedTasks(tasks);
        var pass = new PlayedNight(plan, slots);
        var starts = new float[n][nights];
        var ends = new float[n][nights];
        var made = new int[n];
        var lengths = new double[n];
        var random = new SplittableRandom(seed);
        var targets = targets(tasks);
        var counts = new int[targets.length][n];
        for (int night = 0; night < nights; night++) {
            for (int i = 0; i < n; i++) lengths[i] = plan.drawn(i, random.nextDouble());
            pass.play(lengths);
            for (int i = 0; i < n; i++) {
                starts[i][night] = (float) pass.start[i];
                ends[i][night] = (float) pass.end[i];
                if (pass.end[i] <= plan.due[i]) made[i]++;
            }
            for (int t = 0; t < targets.length; t++)
                for (int at = targets[t]; at >= 0; at = pass.behind[at]) counts[t][at]++;
        }
        for (int i = 0; i < n; i++) lengths[i] = plan.drawn(i, 0.5);
        pass.play(lengths);
        var margins = Margins.of(plan, new PlayedNight(plan, slots), lengths, pass);
        var outlooks = new Outlook[n];
        for (int i = 0; i < n; i++) {
            boolean agreed = !Double.isNaN(tasks.get(i).due());
            outlooks[i] = new Outlook(
                    range(starts[i], pass.start[i]),
                    range(ends[i], pass.end[i]),
                    agreed ? (double) made[i] / nights : Double.NaN,
                    pass.behind[i],
                    margins[i]);
        }
        return new Projection(outlooks, pass, path(targets, counts, n));
    }

    private static void check(List<Task> tasks, List<Integer> slots) {
        if (slots.stream().anyMatch(some -> some < 1)) throw new IllegalArgumentException("a pool has a slot or more");
        for (int i = 0; i < tasks.size(); i++) {
            if (tasks.get(i).pool() >= slots.size() && !slots.isEmpty())
                throw new IllegalArgumentException(tasks.get(i).key() + " names a pool that has no slots");
            for (int wait : tasks.get(i).waits())
                if (wait < 0 || wait >= i)
                    throw new IllegalArgumentException(
                            tasks.get(i).key() + " waits for a task that does not come before it");
        }
    }

    private static int[] targets(List<Task> tasks) {
        return java.util.stream.IntStream.range(0, tasks.size())
                .filter(i -> !Double.isNaN(tasks.get(i).due()))
                .toArray();
    }

    /** For each target, how often each task lay on the path that decided it. */
    private static int[][] path(int[] targets, int[][] counts, int n) {
        var path = new int[n][];
        for (int t = 0; t < targets.length; t++) path[targets[t]] = counts[t];
        return path;
    }

    private static Range range(float[] values, double likely) {
        Arrays.sort(values);
        return new Range(at(values, 0.1), values.length == 1 ? likely : at(values, 0.5), at(values, 0.9));
    }

    private static double at(float[] sorted, double share) {
        return sorted[(int) Math.min(sorted.length - 1, Math.round(share * (sorted.length - 1)))];
    }

    public Outlook outlook(int task) {
        return outlooks[task];
    }

    /** When each task starts in the likely night, in which all take as long as their median. */
    public double likelyStart(int task) {
        return likelyStart[task];
    }

    public double likelyEnd(int task) {
        return likelyEnd[task];
    }

    /** The tasks that decide when one is done in the likely night, the first of them first; the last is the task itself. */
    public List<Integer> decidingPath(int task) {
        var path = new java.util.ArrayList<Integer>();
        for (int at = task; at >= 0; at = outlooks[at].behind()) path.addFirst(at);
        return List.copyOf(path);
    }

    /**
     * In how many of the nights a task lay on the path that decided when a target with a due time was done.
     *
     * @return NaN for a target without one
     */
    public double decides(int task, int target, int nights) {
        var counts = path[target];
        return counts == null ? Double.NaN : (double) counts[task] / nights;
    }
}
