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
    private static final double TRUSTED_FROM = 0.2;

    /** Seconds that are nothing but rounding. */
    private static final double HAIR = 1e-6;

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

    private Projection(Outlook[] outlooks, Pass likely, int[][] path) {
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
        var plan = new Plan(tasks);
        var pass = new Pass(plan, slots);
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
        var margins = margins(plan, new Pass(plan, slots), lengths, pass);
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

    /** How far each task's end could slip before the last end of any chain moves. */
    private static double[] margins(Plan plan, Pass trial, double[] lengths, Pass pass) {
        int n = plan.n;
        var chain = new int[n];
        for (int i = 0; i < n; i++) {
            chain[i] = i;
            for (int wait : plan.waits[i]) chain[root(chain, wait)] = root(chain, i);
        }
        for (int i = 0; i < n; i++) chain[i] = root(chain, i);
        var last = lastEnds(chain, pass.end);
        var latest = new double[n];
        for (int i = 0; i < n; i++) latest[i] = last[chain[i]];
        var margin = new double[n];
        for (int i = n - 1; i >= 0; i--) {
            margin[i] = Math.max(0, latest[i] - pass.end[i]);
            double start = latest[i] - (pass.end[i] - pass.start[i]);
            for (int wait : plan.waits[i]) latest[wait] = Math.min(latest[wait], start);
        }
        if (trial.slots.length > 0)
            for (int i = 0; i < n; i++)
                if (margin[i] > 0 && plan.pool[i] >= 0) margin[i] = tried(i, margin[i], trial, lengths, chain, last);
        return margin;
    }

    private static double[] lastEnds(int[] chain, double[] ends) {
        var last = new double[ends.length];
        Arrays.fill(last, Double.NEGATIVE_INFINITY);
        for (int i = 0; i < ends.length; i++) last[chain[i]] = Math.max(last[chain[i]], ends[i]);
        return last;
    }

    /** A slip takes a slot from others for longer, so it is played: what the waits alone allow, or what of it does no harm. */
    private static double tried(int i, double most, Pass trial, double[] lengths, int[] chain, double[] last) {
        if (unmoved(i, most, trial, lengths, chain, last)) return most;
        double harmless = 0;
        double harms = most;
        while (harms - harmless > 1) {
            double middle = (harmless + harms) / 2;
            if (unmoved(i, middle, trial, lengths, chain, last)) harmless = middle;
            else harms = middle;
        }
        return harmless;
    }

    private static boolean unmoved(int i, double slip, Pass trial, double[] lengths, int[] chain, double[] last) {
        double usual = lengths[i];
        lengths[i] = usual + slip;
        trial.play(lengths);
        lengths[i] = usual;
        var ends = lastEnds(chain, trial.end);
        for (int k = 0; k < ends.length; k++) if (ends[k] > last[k] + HAIR) return false;
        return true;
    }

    private static int root(int[] together, int of) {
        int at = of;
        while (together[at] != at) {
            together[at] = together[together[at]];
            at = together[at];
        }
        return at;
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

    /** The tasks as arrays. */
    private static final class Plan {
        private final int n;
        private final double[] ready;
        private final double[] due;
        private final int[][] waits;
        private final int[][] next;
        private final int[] pool;
        private final boolean[] running;
        private final Task[] tasks;

        Plan(List<Task> tasks) {
            this.n = tasks.size();
            this.tasks = tasks.toArray(Task[]::new);
            this.ready = new double[n];
            this.due = new double[n];
            this.waits = new int[n][];
            this.pool = new int[n];
            this.running = new boolean[n];
            var following = new java.util.ArrayList<List<Integer>>();
            for (int i = 0; i < n; i++) {
                var task = this.tasks[i];
                pool[i] = task.pool();
                running[i] = task.running();
                ready[i] = task.running() ? -task.elapsed() : Math.max(0, task.ready());
                due[i] = Double.isNaN(task.due()) ? Double.NEGATIVE_INFINITY : task.due();
                waits[i] = task.running()
                        ? new int[0]
                        : task.waits().stream().mapToInt(Integer::intValue).toArray();
                following.add(new java.util.ArrayList<>());
                for (int wait : waits[i]) following.get(wait).add(i);
            }
            this.next = new int[n][];
            for (int i = 0; i < n; i++)
                next[i] = following.get(i).stream().mapToInt(Integer::intValue).toArray();
        }

        /** How long a task lasts in all, for a draw between 0 and 1. */
        double drawn(int i, double u) {
            var task = tasks[i];
            if (!task.running()) return task.usual().quantile(u);
            double whole = task.usual().beyond(task.elapsed(), u);
            double p = task.done();
            if (p <= 0 || task.elapsed() <= 0) return whole;
            double drawn = task.usual().quantile(u);
            double median = Math.max(1e-9, task.usual().median());
            double trust = Math.min(1, p / TRUSTED_FROM);
            double paced = task.elapsed() / p * (drawn / median);
            return task.elapsed() + (1 - p) * (trust * paced + (1 - trust) * drawn);
        }
    }

    /** One night played through; its arrays are used again for the next. */
    private static final class Pass {
        private final Plan plan;
        private final int[] slots;
        private final int[] taken;
        private final int[] over;
        private final double[] start;
        private final double[] end;
        private final int[] behind;
        private final int[] open;
        private final double[] readyAt;
        private final int[] readyBehind;
        private final Heap heap;
        private final Heap[] free;

        Pass(Plan plan, List<Integer> slots) {
            this.plan = plan;
            this.slots = slots.stream().mapToInt(Integer::intValue).toArray();
            this.taken = new int[this.slots.length];
            this.over = new int[this.slots.length];
            this.start = new double[plan.n];
            this.end = new double[plan.n];
            this.behind = new int[plan.n];
            this.open = new int[plan.n];
            this.readyAt = new double[plan.n];
            this.readyBehind = new int[plan.n];
            this.heap = new Heap(plan.n);
            this.free = new Heap[this.slots.length];
            for (int pool = 0; pool < free.length; pool++) free[pool] = new Heap(16);
        }

        void play(double[] lengths) {
            if (slots.length == 0) unlimited(lengths);
            else limited(lengths);
        }

        private void unlimited(double[] lengths) {
            for (int i = 0; i < plan.n; i++) {
                double at = plan.ready[i];
                int by = -1;
                for (int wait : plan.waits[i]) {
                    if (end[wait] > at || by < 0 && end[wait] == at) {
                        at = end[wait];
                        by = wait;
                    }
                }
                start[i] = at;
                end[i] = at + lengths[i];
                behind[i] = by;
            }
        }

        private void limited(double[] lengths) {
            heap.clear();
            for (int pool = 0; pool < slots.length; pool++) {
                free[pool].clear();
                taken[pool] = 0;
                over[pool] = 0;
            }
            for (int i = 0; i < plan.n; i++) {
                open[i] = plan.waits[i].length;
                readyAt[i] = plan.ready[i];
                readyBehind[i] = -1;
                if (open[i] == 0) heap.push(plan.ready[i], i);
            }
            while (!heap.isEmpty()) {
                int i = heap.pop();
                takeSlot(i);
                end[i] = start[i] + lengths[i];
                if (plan.pool[i] >= 0) free[plan.pool[i]].push(end[i], i);
                for (int next : plan.next[i]) {
                    if (end[i] > readyAt[next] || readyBehind[next] < 0 && end[i] == readyAt[next]) {
                        readyAt[next] = end[i];
                        readyBehind[next] = i;
                    }
                    if (--open[next] == 0) heap.push(readyAt[next], next);
                }
            }
        }

        /** When a task that is ready starts, and what it had to wait for last. What runs already has its slot. */
        private void takeSlot(int i) {
            start[i] = readyAt[i];
            behind[i] = readyBehind[i];
            int pool = plan.pool[i];
            if (pool < 0) return;
            if (taken[pool] < slots[pool]) {
                taken[pool]++;
                return;
            }
            if (plan.running[i]) {
                over[pool]++;
                return;
            }
            while (over[pool] > 0) {
                free[pool].pop();
                over[pool]--;
            }
            double freed = free[pool].topKey();
            int had = free[pool].pop();
            if (freed > start[i]) {
                start[i] = freed;
                behind[i] = had;
            }
        }
    }
}
