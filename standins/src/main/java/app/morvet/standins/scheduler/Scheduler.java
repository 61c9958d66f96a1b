package app.morvet.standins.scheduler;

import app.morvet.standins.Keep;
import app.morvet.standins.StandInSettings;
import app.morvet.standins.ToMorvet;
import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * The scheduler. Goes through time from where it last told to now, from one thing that happens to the next: a start that is
 * due, a run that ends, a slot that becomes free. What Morvet does not take is offered again with the same names, so an
 * outage on either side leaves no gap and nothing is twice.
 */
@Component
class Scheduler {
    static final int SLOTS = 4;
    private static final Duration STRIDE = Duration.ofDays(2);
    private static final Duration LIVE = Duration.ofMinutes(2);
    private static final Duration PROGRESS = Duration.ofSeconds(30);
    private static final Duration RETRY = Duration.ofMinutes(3);

    /**
     * A run that is going on.
     *
     * @param done   how far it was at {@code since}, 0 to 1
     * @param length how long all of it takes from then on at its pace, or null while it hangs
     */
    record Active(
            String job,
            String run,
            Instant meant,
            int attempt,
            String trigger,
            Instant started,
            Instant since,
            double done,
            @Nullable Duration length,
            int exitCode,
            long records,
            Instant told) {
        @Nullable
        Instant endsAt() {
            return length == null ? null : since.plusMillis((long) (length.toMillis() * (1 - done)));
        }

        double at(Instant now) {
            if (length == null) return done;
            return Math.min(
                    0.99, done + (double) Duration.between(since, now).toMillis() / Math.max(1, length.toMillis()));
        }
    }

    /** A start that waits for its time or for a slot. */
    record Waiting(String job, Instant meant, int attempt, String trigger, Instant ready) {}

    /** @param at up to where time has gone; {@code done} the last night of each job that is done */
    record Memory(
            Instant start,
            Instant at,
            long count,
            List<Active> running,
            List<Waiting> waiting,
            Set<String> held,
            Map<String, Trouble> troubles,
            Map<String, Integer> failCodes,
            Map<String, Instant> done) {}

    /** A job as the panel shows it. */
    record Shown(String key, String name, String state, String next, boolean held, @Nullable String trouble) {}

    private final Keep keep;
    private final Teller teller;
    private final Clock clock;
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
    private final List<Map<String, Object>> untold = new ArrayList<>();
    private volatile boolean going = true;
    private volatile String trouble = "";

    Scheduler(Keep keep, Teller teller, Clock clock, StandInSettings settings) {
        this.keep = keep;
        this.teller = teller;
        this.clock = clock;
        this.seed = settings.seed();
        var now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
        var known = keep.read("scheduler.json", Memory.class)
                .orElseGet(() -> new Memory(
                        now,
                        now.minus(settings.batchPast()),
                        0,
                        List.of(),
                        List.of(),
                        Set.of(),
                        Map.of(),
                        Map.of(),
                        Map.of()));
        this.start = known.start();
        this.at = known.at();
        this.count = known.count();
        this.running = new ArrayList<>(known.running());
        this.waiting = new ArrayList<>(known.waiting());
        this.held = new HashSet<>(known.held());
        this.troubles = new HashMap<>(known.troubles());
        this.failCodes = new HashMap<>(known.failCodes());
        this.done = new HashMap<>(known.done());
    }

    @EventListener(ApplicationReadyEvent.class)
    void start() {
        Thread.ofPlatform().name("scheduler").daemon().start(this::carryOn);
    }

    @PreDestroy
    void stop() {
        going = false;
    }

    private void carryOn() {
        while (going) {
            try {
                boolean caughtUp = step(clock.instant().truncatedTo(ChronoUnit.MILLIS));
                trouble = "";
                if (caughtUp) Thread.sleep(500);
            } catch (ToMorvet.NotTaken notTaken) {
                trouble = String.valueOf(notTaken.getMessage());
                pause();
            } catch (InterruptedException stop) {
                return;
            }
        }
    }

    private boolean step(Instant now) throws ToMorvet.NotTaken, InterruptedException {
        boolean live;
        List<Map<String, Object>> telling;
        synchronized (this) {
            live = at.plus(LIVE).isAfter(now);
            var to = live || at.plus(STRIDE).isAfter(now) ? now : at.plus(STRIDE);
            advance(to);
            if (live) tellProgress();
            telling = List.copyOf(untold);
        }
        if (!telling.isEmpty()) teller.tell(telling);
        synchronized (this) {
            untold.subList(0, telling.size()).clear();
            if (!telling.isEmpty() || !live)
                keep.write(
                        "scheduler.json",
                        new Memory(start, at, count, running, waiting, held, troubles, failCodes, done));
        }
        return live;
    }

    private void advance(Instant to) {
        while (true) {
            var due = nextDue(at, to);
            var end = running.stream()
                    .filter(one -> one.endsAt() != null)
                    .min(Comparator.comparing(Active::endsAt))
                    .orElse(null);
            var ready = running.size() >= SLOTS
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
            untold.add(teller.file(
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
        untold.add(teller.started(task, run, at, meant, trigger));
        return run;
    }

    private void end(Active one, Instant when, int code) {
        running.remove(one);
        var task = Task.of(one.job());
        untold.add(teller.finished(task, one, when, code));
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
                || running.stream()
                        .anyMatch(one ->
                                one.job().equals(next.key()) && one.meant().equals(night))
                || waiting.stream()
                        .anyMatch(one ->
                                one.job().equals(next.key()) && one.meant().equals(night));
        boolean free = next.after().stream()
                .allMatch(other -> !done.getOrDefault(other, Instant.MIN).isBefore(night));
        if (!already && free) waiting.add(new Waiting(next.key(), night, 1, "schedule", when));
    }

    private void tellProgress() {
        for (int i = 0; i < running.size(); i++) {
            var one = running.get(i);
            if (one.told().plus(PROGRESS).isAfter(at)) continue;
            double share = one.at(at);
            untold.add(teller.progress(one, at, share));
            running.set(
                    i,
                    new Active(
                            one.job(),
                            one.run(),
                            one.meant(),
                            one.attempt(),
                            one.trigger(),
                            one.started(),
                            one.since(),
                            one.done(),
                            one.length(),
                            one.exitCode(),
                            one.records(),
                            at));
        }
    }

    /** Makes trouble for the run that is going on, or for the next. */
    synchronized void breakIt(String key, Trouble what, int code) {
        var task = Task.of(key);
        if (what == Trouble.FAIL) failCodes.put(key, code);
        for (int i = 0; i < running.size(); i++) {
            var one = running.get(i);
            if (!one.job().equals(key)) continue;
            double share = one.at(at);
            var length =
                    Course.of(task, one.meant(), one.attempt(), seed, start).length();
            switch (what) {
                case FAIL -> end(one, at, code);
                case HANG -> running.set(i, changed(one, share, null));
                case SLOW -> running.set(i, changed(one, share, length.multipliedBy(3)));
                case DO_NOT_START, TWICE, NOTHING -> troubles.put(key, what);
            }
            return;
        }
        troubles.put(key, what);
    }

    private Active changed(Active one, double share, @Nullable Duration length) {
        return new Active(
                one.job(),
                one.run(),
                one.meant(),
                one.attempt(),
                one.trigger(),
                one.started(),
                at,
                share,
                length,
                one.exitCode(),
                one.records(),
                one.told());
    }

    synchronized void mend(String key) {
        troubles.remove(Task.of(key).key());
        for (int i = 0; i < running.size(); i++) {
            var one = running.get(i);
            if (one.job().equals(key))
                running.set(
                        i,
                        changed(
                                one,
                                one.at(at),
                                Course.of(Task.of(key), one.meant(), 9, seed, Instant.MIN)
                                        .length()));
        }
    }

    /** Ends the run that is going on as if its work were done now. */
    synchronized void finish(String key) {
        for (var one : List.copyOf(running)) if (one.job().equals(key)) end(one, at, 0);
    }

    /** What came of an order; {@code run} is the run that it made or ended, empty where there is none. */
    record Answer(String outcome, String run, String words) {}

    private final Map<String, Answer> answered = new HashMap<>();

    /** The same key twice does it once and answers the same. */
    synchronized Answer order(String order, String key, String run, String idempotencyKey) {
        var known = answered.get(idempotencyKey);
        if (known != null) return known;
        var answer = carryOut(order, Task.of(key), run);
        answered.put(idempotencyKey, answer);
        return answer;
    }

    private Answer carryOut(String order, Task task, String run) {
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
                    untold.add(teller.cancelled(one, at));
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
        Instant last = null;
        for (var day = at.atZone(Course.ZONE).toLocalDate().minusDays(40);
                !day.isAfter(at.atZone(Course.ZONE).toLocalDate());
                day = day.plusDays(1)) {
            if (!task.on().test(day)) continue;
            for (var time : task.times()) {
                var due = day.atTime(time).atZone(Course.ZONE).toInstant();
                if (!due.isAfter(at)) last = due;
            }
        }
        return last == null ? at : last;
    }

    synchronized List<Shown> shown() {
        return Task.ALL.stream()
                .map(task -> {
                    var mine = running.stream()
                            .filter(one -> one.job().equals(task.key()))
                            .findFirst();
                    var due = nextDueOf(task);
                    return new Shown(
                            task.key(),
                            task.name(),
                            mine.map(one -> "running, %.0f %%".formatted(100 * one.at(at)))
                                    .orElse(
                                            waiting.stream().anyMatch(one -> one.job()
                                                            .equals(task.key()))
                                                    ? "waiting"
                                                    : "idle"),
                            due == null ? "after " + String.join(", ", task.after()) : due,
                            held.contains(task.key()),
                            troubles.containsKey(task.key())
                                    ? troubles.get(task.key()).words()
                                    : null);
                })
                .toList();
    }

    private @Nullable String nextDueOf(Task task) {
        for (int i = 0; i < 40; i++) {
            var day = at.atZone(Course.ZONE).toLocalDate().plusDays(i);
            if (!task.on().test(day)) continue;
            for (var time : task.times())
                if (day.atTime(time).atZone(Course.ZONE).toInstant().isAfter(at)) return day + " " + time;
        }
        return null;
    }

    synchronized Map<String, Object> status() {
        var status = new TreeMap<String, Object>();
        status.put("toldTo", at.toString());
        status.put("caughtUp", at.plus(LIVE).isAfter(clock.instant()));
        status.put("trouble", trouble);
        status.put("running", running.size());
        status.put("slots", SLOTS);
        return status;
    }

    private static void pause() {
        try {
            Thread.sleep(1000);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
    }
}
