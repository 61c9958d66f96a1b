package app.morvet.core.batch;

import java.util.List;

/** One night played through; its arrays are used again for the next. */
final class PlayedNight {
    final PlannedTasks plan;
    final int[] slots;
    final int[] taken;
    final int[] over;
    final double[] start;
    final double[] end;
    final int[] behind;
    final int[] open;
    final double[] readyAt;
    final int[] readyBehind;
    final Heap heap;
    final Heap[] free;

    PlayedNight(PlannedTasks plan, List<Integer> slots) {
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
