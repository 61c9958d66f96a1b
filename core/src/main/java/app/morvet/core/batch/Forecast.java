package app.morvet.core.batch;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A {@link Night} with how it will go on. What has failed, was cancelled or did not start is taken to be run again now, at
 * once: the best that can still be, and what it costs to wait shows as time goes by.
 */
public final class Forecast {
    private static final int MOST_DRAWS = 1_200_000;
    /** How many nights are played where there is time for it. */
    public static final int NIGHTS = 2000;

    private static final int LEAST_NIGHTS = 200;
    private static final Duration STALE = Duration.ofHours(24);

    /**
     * @param start   when it starts, as a range
     * @param end     when it is done
     * @param makes   the share of nights in which it makes its deadline; NaN without one
     * @param margin  how much longer it may take before the night's end, or what waits for it, moves
     * @param assumed whether it would have to be run again by somebody
     */
    public record Ahead(
            Occurrence occurrence, Between start, Between end, double makes, Duration margin, boolean assumed) {}

    /** One night in ten is earlier, one later. */
    public record Between(Instant low, Instant likely, Instant high) {}

    private final Night night;
    private final int nights;
    private final Projection projection;
    private final List<Ahead> ahead;
    private final Map<Integer, Integer> taskOf;
    private final List<Integer> slots;
    private final Pools pools;

    private Forecast(
            Night night,
            int nights,
            Projection projection,
            List<Ahead> ahead,
            Map<Integer, Integer> taskOf,
            List<Integer> slots,
            Pools pools) {
        this.night = night;
        this.nights = nights;
        this.projection = projection;
        this.ahead = ahead;
        this.taskOf = taskOf;
        this.slots = slots;
        this.pools = pools;
    }

    /** Which scheduler runs a job. */
    public interface Pools {
        /** The place of its slots in the list, or -1 where they are not limited. */
        int of(Job job);
    }

    /**
     * @param slots   how many run at once, for each pool
     * @param changes what somebody might do
     * @param most    nights that are played; fewer where there is very much to do in each
     * @param seed    of the draws
     * @throws IllegalArgumentException where a change names a job that the night does not have
     */
    public static Forecast of(
            Night night, List<Integer> slots, Pools pools, Collection<WhatIf> changes, int most, long seed) {
        return new Builder(night, slots, pools, changes).build(most, seed);
    }

    public Night night() {
        return night;
    }

    /** What is still to be done, in the order of the night. */
    public List<Ahead> ahead() {
        return ahead;
    }

    /** What is still to be done of an occurrence, or null. */
    public @Nullable Ahead of(Occurrence one) {
        var task = taskOf.get(one.index());
        return task == null ? null : ahead.get(task);
    }

    /** The occurrences that decide when one is done, the first of them first. */
    public List<Occurrence> decidingPath(Occurrence one) {
        var task = taskOf.get(one.index());
        if (task == null) return List.of();
        return projection.decidingPath(task).stream()
                .map(at -> ahead.get(at).occurrence())
                .toList();
    }

    /** In how many of the nights, 0 to 1, one lies on the path that decides a target with a deadline. */
    public double decides(Occurrence one, Occurrence target) {
        var task = taskOf.get(one.index());
        var end = taskOf.get(target.index());
        return task == null || end == null ? 0 : projection.decides(task, end, nights);
    }

    /** How many nights were played. */
    public int nights() {
        return nights;
    }

    /** The slots of each pool as they were taken to be. */
    public List<Integer> slots() {
        return slots;
    }

    /** The place of a job's slots in {@link #slots()}, or -1 where how many run at once is not limited. */
    public int poolOf(Job job) {
        return slots.isEmpty() ? -1 : pools.of(job);
    }

    private static final class Builder {
        private final Night night;
        private final List<Integer> slots;
        private final Pools pools;
        private final Map<String, Instant> begun;
        private final Set<Integer> again = new HashSet<>();
        private final Set<Integer> skipped = new HashSet<>();
        private final Set<Integer> started = new HashSet<>();
        private final Map<Integer, Integer> taskOf = new HashMap<>();
        private final List<Projection.Task> tasks = new ArrayList<>();
        private final List<Occurrence> chosen = new ArrayList<>();

        Builder(Night night, List<Integer> slots, Pools pools, Collection<WhatIf> changes) {
            this.night = night;
            this.pools = pools;
            this.begun = laterBegun();
            var more = new ArrayList<>(slots);
            for (var change : changes) {
                switch (change) {
                    case WhatIf.Rerun(var job) -> rerun(current(job, true));
                    case WhatIf.Skip(var job) -> skipped.add(current(job, false).index());
                    case WhatIf.StartNow(var job) ->
                        started.add(current(job, false).index());
                    case WhatIf.MoreSlots(int some) -> more.replaceAll(had -> had + some);
                }
            }
            this.slots = List.copyOf(more);
        }

        /** The one that somebody means who names a job: to run again the last that has begun, else the first that is to come. */
        private Occurrence current(String job, boolean begun) {
            Occurrence found = null;
            for (var one : night.of(job)) {
                if (begun && !one.runs().isEmpty()) found = one;
                else if (isAhead(one) && found == null) found = one;
            }
            if (found == null) throw new IllegalArgumentException("the night has no " + job);
            return found;
        }

        private boolean isAhead(Occurrence one) {
            return one.outcome().open()
                    && !settled(one, begun.getOrDefault(one.job().key(), Instant.MIN));
        }

        private void rerun(Occurrence from) {
            again.add(from.index());
            for (var one : night.occurrences())
                if (one.waits().stream().anyMatch(again::contains)) again.add(one.index());
        }

        Forecast build(int most, long seed) {
            for (var one : night.occurrences()) {
                if (skipped.contains(one.index())) continue;
                if (again.contains(one.index()) || isAhead(one)) add(one);
            }
            int nights = Math.min(most, Math.max(LEAST_NIGHTS, MOST_DRAWS / Math.max(1, tasks.size())));
            var projection = Projection.of(tasks, slots, nights, seed);
            var ahead = new ArrayList<Ahead>(tasks.size());
            for (int i = 0; i < tasks.size(); i++) {
                var one = chosen.get(i);
                var outlook = projection.outlook(i);
                ahead.add(new Ahead(
                        one,
                        between(outlook.start()),
                        between(outlook.end()),
                        outlook.makes(),
                        Duration.ofSeconds((long) outlook.margin()),
                        assumed(one)));
            }
            return new Forecast(night, nights, projection, List.copyOf(ahead), taskOf, slots, pools);
        }

        /** When the last run of each job that has begun was expected. */
        private Map<String, Instant> laterBegun() {
            var last = new HashMap<String, Instant>();
            for (var one : night.occurrences())
                if (!one.runs().isEmpty()) last.merge(one.job().key(), one.cycle(), (a, b) -> a.isAfter(b) ? a : b);
            return last;
        }

        /** What nobody will do any more: a later one has run, or it is a day old, or its run is lost. */
        private boolean settled(Occurrence one, Instant laterBegun) {
            if (one.planned().plus(STALE).isBefore(night.now())) return true;
            var last = one.last();
            if (last != null && last.running()) return Night.lost(one.job(), last, night.now());
            if (one.outcome() == Outcome.OUT_OF_TIME && last != null && last.done()) return true;
            return one.cycle().isBefore(laterBegun);
        }

        private boolean fresh(Occurrence one) {
            var last = one.last();
            return again.contains(one.index()) || last == null || !last.running();
        }

        private boolean assumed(Occurrence one) {
            return switch (one.outcome()) {
                case FAILED, DID_NOT_START, CANCELLED -> true;
                default -> false;
            };
        }

        private void add(Occurrence one) {
            boolean now = started.contains(one.index());
            double ready = now || again.contains(one.index()) ? 0 : Math.max(0, seconds(earliest(one)));
            double elapsed = -1;
            double done = -1;
            var last = one.last();
            if (!fresh(one) && last != null) {
                elapsed = Math.max(0, last.lasted(night.now()).toMillis() / 1000.0);
                var percent = last.percent();
                var at = last.percentAt();
                if (percent != null && at != null && last.started() != null) {
                    // What it said some time ago was true then; it has gone on at its pace since.
                    double then =
                            Math.max(1, Duration.between(last.started(), at).toSeconds());
                    done = Math.min(0.99, percent / 100 * Math.max(1, elapsed / then));
                }
            }
            var waits = new ArrayList<Integer>();
            if (!now)
                for (int wait : one.waits()) {
                    var task = taskOf.get(wait);
                    if (task != null) waits.add(task);
                }
            var deadline = one.deadline();
            taskOf.put(one.index(), tasks.size());
            chosen.add(one);
            tasks.add(new Projection.Task(
                    one.job().key(),
                    ready,
                    waits,
                    one.usual(),
                    elapsed,
                    done,
                    deadline == null ? Double.NaN : seconds(deadline),
                    slots.isEmpty() ? -1 : pools.of(one.job())));
        }

        /** Before which it does not start, whatever it waits for. */
        private Instant earliest(Occurrence one) {
            var released = one.released();
            if (released != null) return released;
            var own = one.job().timetable().schedules().isEmpty() ? night.now() : one.cycle();
            var notBefore = one.job().notBefore();
            // Without what it waits for, the plan holds the time of day before which it does not start.
            if (notBefore == null) return own;
            var at = Night.next(notBefore, one.cycle(), one.job().timetable().zone());
            return at.isAfter(own) ? at : own;
        }

        private double seconds(Instant at) {
            return Duration.between(night.now(), at).toMillis() / 1000.0;
        }

        private Between between(Projection.Range range) {
            return new Between(at(range.low()), at(range.likely()), at(range.high()));
        }

        private Instant at(double seconds) {
            return night.now().plusMillis((long) (seconds * 1000));
        }
    }
}
