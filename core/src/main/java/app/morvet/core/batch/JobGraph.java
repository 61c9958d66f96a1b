package app.morvet.core.batch;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Which jobs wait for which. Free of cycles. */
public final class JobGraph {
    private final List<Job> order;
    private final Map<String, List<String>> after;

    private JobGraph(List<Job> order, Map<String, List<String>> after) {
        this.order = order;
        this.after = after;
    }

    /**
     * @param jobs each key once; a job that is waited for and is not among them is taken as done
     * @throws IllegalArgumentException where jobs wait for each other, naming the cycle
     */
    public static JobGraph of(Collection<Job> jobs) {
        var byKey = new LinkedHashMap<String, Job>();
        for (var job : jobs) byKey.put(job.key(), job);
        var after = new HashMap<String, List<String>>();
        for (var job : byKey.values())
            for (var wait : job.waits())
                after.computeIfAbsent(wait, none -> new ArrayList<>()).add(job.key());
        var order = new ArrayList<Job>(byKey.size());
        var done = new LinkedHashSet<String>();
        for (var job : byKey.values()) visit(job, byKey, done, new LinkedHashSet<>(), order);
        return new JobGraph(List.copyOf(order), after);
    }

    private static void visit(
            Job job, Map<String, Job> byKey, Set<String> done, LinkedHashSet<String> path, List<Job> order) {
        if (done.contains(job.key())) return;
        if (!path.add(job.key())) {
            var cycle = new ArrayList<>(path);
            cycle.subList(0, cycle.indexOf(job.key())).clear();
            cycle.add(job.key());
            throw new IllegalArgumentException("these jobs wait for each other: " + String.join(" waits for ", cycle));
        }
        for (var wait : job.waits()) {
            var next = byKey.get(wait);
            if (next != null) visit(next, byKey, done, path, order);
        }
        path.remove(job.key());
        done.add(job.key());
        order.add(job);
    }

    /** All jobs, each after those that it waits for. */
    public List<Job> order() {
        return order;
    }

    /** The jobs that wait for one directly, by key. */
    public List<String> waitingFor(String key) {
        return after.getOrDefault(key, List.of());
    }
}
