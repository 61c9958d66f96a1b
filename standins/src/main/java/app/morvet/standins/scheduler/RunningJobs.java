package app.morvet.standins.scheduler;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What runs and what waits, and how it goes on: from one thing that happens to the next, a start that is due, a run that
 * ends, a slot that becomes free. What happens is put down to be told. For one thread at a time.
 */
final class RunningJobs {
    static final int SLOTS = 4;
    private static final int MOST_SLOTS = 16;
    private static final Duration PROGRESS = Duration.ofSeconds(30);
    private static final Duration RETRY = Duration.ofMinutes(3);
    private static final DateTimeFormatter DUE = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm", Locale.ENGLISH);

    /** A start that waits for its time or for a slot. */
    record Waiting(String job, Instant meant, int attempt, String trigger, Instant ready) {
        boolean of(String key, Instant night) {
            return job.equals(key) && meant.equals(night);
        }
    }

    /**
     * All that outlives a restart.
     *
     * @param start when the stand-in began; what comes before it is its past
     * @param at    up to where time has gone
     * @param done  the last night of each job that is done
     * @param slots how many may run at a time; null in what was kept before that could be said
     */
    record Memory(
            Instant start,
            Instant at,
            long count,
            List<Active> running,
            List<Waiting> waiting,
            Set<String> held,
            Map<String, Trouble> troubles,
            Map<String, Integer> failCodes,
            Map<String, Instant> done,
            @Nullable Integer slots) {
        /** Of one that begins at an instant and has a past. */
        static Memory fresh(Instant start, Duration past) {
            return new Memory(
                    start, start.minus(past), 0, List.of(), List.of(), Set.of(), Map.of(), Map.of(), Map.of(), SLOTS);
        }
    }

    /** A job as the panel shows it. */
    record Shown(String key, String name, String state, String next, boolean held, @Nullable String trouble) {}

    private final long seed;
    private final Instant start;
    private Instant at;
    private long count;
    private final List<Active> running;
    private final List<Waiting> waiting;
    private final Set<String> held;
    private final Map<String, Trouble> troubles;
    private final Map<String, Integer> failCodes;
    private final Map<String, Instant> done;
    private int slots;
    private final List<Map<String, Object>> untold = new ArrayList<>();

    RunningJobs(long seed, Memory known) {
        this.seed = seed;
        this.start = known.start();
        this.at = known.at();
        this.count = known.count();
        this.running = new ArrayList<>(known.running());
        this.waiting = new ArrayList<>(known.waiting());
        this.held = new HashSet<>(known.held());
        this.troubles = new HashMap<>(known.troubles());
        this.failCodes = new HashMap<>(known.failCodes());
        this.done = new HashMap<>(known.done());
        this.slots = known.slots() == null ? SLOTS : known.slots();
    }

    Memory memory() {
        return new Memory(
                start,
                at,
                count,
                List.copyOf(running),
                List.copyOf(waiting),
                Set.copyOf(held),
                Map.copyOf(troubles),
                Map.copyOf(failCodes),
                Map.copyOf(done),
                slots);
    }

    int slots() {
        return slots;
    }

    /** So many may run at a time from now on; what runs goes on. */
    void slots(int some) {
        if (some < 1 || some > MOST_SLOTS) throw new IllegalArgumentException("a scheduler has 1 to 16 slots");
        slots = some;
    }

    /** Up to where time has gone. */
    Instant at() {
        return at;
    }

    int running() {
        return running.size();
    }

    /** What has happened and is not told yet, in order. */
    List<Map<String, Object>> untold() {
        return List.copyOf(untold);
    }

    /** The first so many are told. */
    void told(int some) {
        untold.subList(0, some).clear();
    }

    /** Goes on to an instant. */
    void advance(Instant to) {
        while (true) {
            var due = nextDue(at, to);
            var end = running.stream()
                    .filter(one -> one.endsAt() != null)
                    .min(Comparator.comparing(Active::endsAt))
                    .orElse(null);
            var ready = running.size() >= slots
                    ? null
                    : waiting.stream()
                            .filter(one -> !held.contains(one.job()))
                            .min(Comparator.comparing(Waiting::ready))
                            .orElse(null);
            var next = to.plusNanos(1);
            if (end != null && end.endsAt().isBefore(next)) next = end.endsAt();
            if (ready != null && ready.ready().isBefore(next)) next = ready.ready();
            if (due != null && due.at().isBefore(next)) next = due.at();
            if (next.isAfter(to)) break;
            if (next.isAfter(at)) at = next;
            if (end != null && !end.endsAt().isAfter(at)) end(end, at, end.exitCode());
            else if (ready != null && !ready.ready().isAfter(at)) begin(ready);
            else if (due != null) due(due);
        }
        at = to;
    }

    /** @param at after which all due before it are handled */
    private record Due(Task task, Instant at) {}

    private final Set<String> handled = new HashSet<>();

    private @Nullable Due nextDue(Instant after, Instant to) {
        Due next = null;
        for (LocalDate day = after.atZone(Course.ZONE).toLocalDate();
                !day.isAfter(to.atZone(Course.ZONE).toLocalDate());
                day = day.plusDays(1)) {
            for (var task : Task.ALL) {
                if (task.times().isEmpty() || !task.on().test(day)) continue;
                for (var time : task.times()) {
                    var due = day.atTime(time).atZone(Course.ZONE).toInstant();
                    boolean over = due.isBefore(after) || due.equals(after) && handled.contains(name(task, due));
                    if (over || due.isAfter(to)) continue;
                    if (next == null || due.isBefore(next.at())) next = new Due(task, due);
                    break;
                }
            }
            if (next != null) return next;
        }
        return null;
    }

    private static String name(Task task, Instant due) {
        return task.key() + "@" + due.getEpochSecond();
    }

    private void due(Due due) {
        if (handled.stream().anyMatch(one -> !one.endsWith("@" + due.at().getEpochSecond()))) handled.clear();
        handled.add(name(due.task(), due.at()));
        if (due.task().key().equals("import-fuel-prices"))
            untold.add(RunsTold.file(
                    "fuel-prices-" + due.at().atZone(Course.ZONE).toLocalDate() + ".csv",
                    due.at().minusSeconds(600)));
        if (troubles.get(due.task().key()) == Trouble.DO_NOT_START) {
            troubles.remove(due.task().key());
            return;
        }
        waiting.add(new Waiting(due.task().key(), due.at(), 1, "schedule", due.at()));
    }

    private void begin(Waiting one) {
        waiting.remove(one);
        var task = Task.of(one.job());
        if (!task.after().isEmpty() && troubles.get(one.job()) == Trouble.DO_NOT_START) {
            troubles.remove(one.job());
            return;
        }
        start(task, one.meant(), one.attempt(), one.trigger());
        if (troubles.get(one.job()) == Trouble.TWICE) {
            troubles.remove(one.job());
            start(task, one.meant(), one.attempt(), one.trigger());
        }
    }

    private String start(Task task, Instant meant, int attempt, String trigger) {
        var run = task.key() + "-" + ++count;
        var course = Course.of(task, meant, attempt, seed, start);
        int code = course.exitCode();
        @Nullable Duration length = course.length();
        long records = course.records();
        switch (troubles.get(task.key())) {
            case FAIL -> {
                code = failCodes.getOrDefault(task.key(), 1);
                length = length.dividedBy(3);
            }
            case HANG -> length = null;
            case SLOW -> length = length.multipliedBy(3);
            case NOTHING -> {
                length = Duration.ofSeconds(1);
                records = 0;
            }
            case null, default -> {
                // as it usually goes
            }
        }
        if (troubles.get(task.key()) != Trouble.TWICE) troubles.remove(task.key());
        running.add(new Active(task.key(), run, meant, attempt, trigger, at, at, 0, length, code, records, at));
        untold.add(RunsTold.started(task, run, at, meant, trigger));
        return run;
    }

    private void end(Active one, Instant when, int code) {
        running.remove(one);
        var task = Task.of(one.job());
        untold.add(RunsTold.finished(task, one, when, code));
        if (code == 0) {
            done.merge(one.job(), one.meant(), (a, b) -> a.isAfter(b) ? a : b);
            for (var next : task.followers()) follow(next, one.meant(), when);
        } else if (code == 1 && one.attempt() == 1) {
            waiting.add(new Waiting(one.job(), one.meant(), 2, "retry", when.plus(RETRY)));
        } else if (start.isAfter(when.plus(Duration.ofHours(20)))) {
            // In the past somebody came in the morning and ran it again.
            waiting.add(new Waiting(
                    one.job(), one.meant(), one.attempt() + 1, "manual", when.plus(Duration.ofMinutes(95))));
        }
    }

    private void follow(Task next, Instant night, Instant when) {
        boolean already = !done.getOrDefault(next.key(), Instant.MIN).isBefore(night)
                || running.stream().anyMatch(one -> one.of(next.key(), night))
                || waiting.stream().anyMatch(one -> one.of(next.key(), night));
        boolean free = next.after().stream()
                .allMatch(other -> !done.getOrDefault(other, Instant.MIN).isBefore(night));
        if (!already && free) waiting.add(new Waiting(next.key(), night, 1, "schedule", when));
    }

    /** How far what runs is, where that was not told for a while. */
    void tellProgress() {
        for (int i = 0; i < running.size(); i++) {
            var one = running.get(i);
            if (one.told().plus(PROGRESS).isAfter(at)) continue;
            double share = one.at(at);
            untold.add(RunsTold.progress(one, at, share));
            running.set(i, one.told(at));
        }
    }

    /** Makes trouble for the run that is going on, or for the next. */
    void breakIt(String key, Trouble what, int code) {
        var task = Task.of(key);
        if (what == Trouble.FAIL) failCodes.put(key, code);
        for (int i = 0; i < running.size(); i++) {
            var one = running.get(i);
            if (!one.job().equals(key)) continue;
            var length =
                    Course.of(task, one.meant(), one.attempt(), seed, start).length();
            switch (what) {
                case FAIL -> end(one, at, code);
                case HANG -> running.set(i, one.atPace(null, at));
                case SLOW -> running.set(i, one.atPace(length.multipliedBy(3), at));
                case DO_NOT_START, TWICE, NOTHING -> troubles.put(key, what);
            }
            return;
        }
        troubles.put(key, what);
    }

    void mend(String key) {
        troubles.remove(Task.of(key).key());
        for (int i = 0; i < running.size(); i++) {
            var one = running.get(i);
            if (!one.job().equals(key)) continue;
            var usual = Course.of(Task.of(key), one.meant(), 9, seed, Instant.MIN);
            running.set(i, one.atPace(usual.length(), at));
        }
    }

    /** Ends the run that is going on as if its work were done now. */
    void finish(String key) {
        for (var one : List.copyOf(running)) if (one.job().equals(key)) end(one, at, 0);
    }

    /** What came of an order; {@code run} is the run that it made or ended, empty where there is none. */
    record Answer(String outcome, String run, String words) {}

    /** Carries out {@code rerun}, {@code hold}, {@code release} or {@code kill}. */
    Answer order(String order, Task task, String run) {
        var mine = running.stream().filter(one -> one.job().equals(task.key())).toList();
        return switch (order) {
            case "rerun" -> {
                if (!mine.isEmpty()) yield new Answer("refused", "", task.name() + " is running; kill it first");
                var night = lastNight(task);
                waiting.removeIf(one -> one.job().equals(task.key()));
                yield new Answer("done", start(task, night, 3, "manual"), "");
            }
            case "hold" -> {
                held.add(task.key());
                yield new Answer("done", "", "");
            }
            case "release" -> {
                held.remove(task.key());
                yield new Answer("done", "", "");
            }
            case "kill" -> {
                var named = mine.stream()
                        .filter(one -> run.isEmpty() || one.run().equals(run))
                        .toList();
                if (named.isEmpty()) yield new Answer("refused", "", task.name() + " does not run");
                for (var one : named) {
                    running.remove(one);
                    untold.add(RunsTold.cancelled(one, at));
                }
                yield new Answer("done", named.getFirst().run(), "");
            }
            default -> new Answer("refused", "", "unknown order " + order);
        };
    }

    /** For which start a job is run again: its own last one, or the one of the last job before it. */
    private Instant lastNight(Task task) {
        if (task.times().isEmpty())
            return task.after().stream()
                    .map(one -> done.getOrDefault(one, lastNight(Task.of(one))))
                    .max(Comparator.naturalOrder())
                    .orElse(at);
        return task.lastDue(at).orElse(at);
    }

    List<Shown> shown() {
        return Task.ALL.stream()
                .map(task -> {
                    var mine = running.stream()
                            .filter(one -> one.job().equals(task.key()))
                            .findFirst();
                    return new Shown(
                            task.key(),
                            task.name(),
                            mine.map(one -> "running, %.0f %%".formatted(100 * one.at(at)))
                                    .orElse(
                                            waiting.stream().anyMatch(one -> one.job()
                                                            .equals(task.key()))
                                                    ? "waiting"
                                                    : "idle"),
                            task.nextDue(at)
                                    .map(due -> DUE.format(due.atZone(Course.ZONE)))
                                    .orElse("after " + String.join(", ", task.after())),
                            held.contains(task.key()),
                            troubles.containsKey(task.key())
                                    ? troubles.get(task.key()).words()
                                    : null);
                })
                .toList();
    }
}
