package app.morvet.core.batch;

import java.util.List;

/** The tasks as arrays. */
final class PlannedTasks {
    private static final double TRUSTED_FROM = 0.2;
    final int n;
    final double[] ready;
    final double[] due;
    final int[][] waits;
    final int[][] next;
    final int[] pool;
    final boolean[] running;
    final Projection.Task[] tasks;

    PlannedTasks(List<Projection.Task> tasks) {
        this.n = tasks.size();
        this.tasks = tasks.toArray(Projection.Task[]::new);
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
