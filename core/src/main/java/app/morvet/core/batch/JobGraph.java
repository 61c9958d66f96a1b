package app.morvet.core.batch;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
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
        return new JobGraph(ordered(byKey), after);
    }

    /** Walks from each job to those that it waits for, and takes it once all of them are taken. */
    private static List<Job> ordered(Map<String, Job> byKey) {
        var order = new ArrayList<Job>(byKey.size());
        var taken = new HashSet<String>();
        // The jobs on the way, each with those of its waits that are still to be looked at.
        var path = new LinkedHashMap<String, Iterator<String>>();
        for (var start : byKey.values()) {
            if (!taken.contains(start.key()))
                path.put(start.key(), start.waits().iterator());
            while (!path.isEmpty()) {
                var job = path.lastEntry();
                if (!job.getValue().hasNext()) {
                    path.pollLastEntry();
                    taken.add(job.getKey());
                    order.add(byKey.get(job.getKey()));
                    continue;
                }
                var next = byKey.get(job.getValue().next());
                if (next == null || taken.contains(next.key())) continue;
                if (path.containsKey(next.key())) throw cycle(path.keySet(), next.key());
                path.put(next.key(), next.waits().iterator());
            }
        }
        return List.copyOf(order);
    }

    private static IllegalArgumentException cycle(Collection<String> path, String back) {
        var cycle = new ArrayList<>(path);
        cycle.subList(0, cycle.indexOf(back)).clear();
        cycle.add(back);
        return new IllegalArgumentException("these jobs wait for each other: " + String.join(" waits for ", cycle));
    }

    /** All jobs, each after those that it waits for. */
    public List<Job> order() {
        return order;
    }

    /** Some jobs and all that wait for them, directly or through others, by key. */
    public Set<String> behind(Collection<String> keys) {
        var found = new LinkedHashSet<>(keys);
        var left = new ArrayDeque<>(found);
        while (!left.isEmpty()) for (var next : waitingFor(left.poll())) if (found.add(next)) left.add(next);
        return found;
    }

    /** The jobs that wait for one directly, by key. */
    public List<String> waitingFor(String key) {
        return after.getOrDefault(key, List.of());
    }
}
