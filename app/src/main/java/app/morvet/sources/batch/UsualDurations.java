package app.morvet.sources.batch;

import app.morvet.core.batch.Job;
import app.morvet.core.batch.Spread;
import app.morvet.core.batch.UsualDuration;
import app.morvet.ground.base.Derived;
import app.morvet.ground.nodes.Notices;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/** How long each job usually runs. Learned anew every ten minutes, which is soon enough for what weeks have made usual. */
@Component
class UsualDurations implements Derived {
    static final Duration BACK = Duration.ofDays(90);
    private static final Duration LASTS = Duration.ofMinutes(10);
    /** How far back runs are read again; what is told later than that is learned from once all is read again, in a day. */
    private static final Duration AGAIN = Duration.ofDays(2);

    private static final Duration ALL_LASTS = Duration.ofDays(1);

    /** @param whole when all of them were read */
    private record Learned(
            Instant at, Instant whole, Map<Long, List<UsualDuration.Seen>> seen, Map<String, UsualDuration> byJob) {
        static final Learned NOTHING = new Learned(Instant.MIN, Instant.MIN, Map.of(), new ConcurrentHashMap<>());
    }

    private final RunStore store;
    private final Clock clock;
    private volatile Learned learned = Learned.NOTHING;

    UsualDurations(RunStore store, Notices notices, Clock clock) {
        this.store = store;
        this.clock = clock;
        notices.hearOthers(JobBook.CHANGED, this::forget);
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void on(JobBook.JobsChanged changed) {
        forget();
    }

    /** How long a job usually lasts when it starts at an instant, seen from another. */
    Spread of(StoredJob standing, Instant start, Instant now) {
        return of(standing, now)
                .on(start.atZone(standing.job().timetable().zone()).toLocalDate());
    }

    private UsualDuration of(StoredJob standing, Instant now) {
        var kept = at(now);
        var found = kept.byJob().get(standing.key());
        if (found == null) {
            found = learn(
                    standing.job(),
                    kept.seen().getOrDefault(standing.component().id(), List.of()),
                    now);
            kept.byJob().put(standing.key(), found);
        }
        return found;
    }

    private static UsualDuration learn(Job job, List<UsualDuration.Seen> seen, Instant now) {
        var before = seen.stream()
                .filter(one ->
                        one.started().plusMillis((long) (one.seconds() * 1000)).isBefore(now))
                .toList();
        return UsualDuration.of(before, job.timetable().zone(), now, job.longest());
    }

    private Learned at(Instant now) {
        var kept = learned;
        boolean fresh = !kept.at().equals(Instant.MIN)
                && !kept.at().isAfter(now)
                && kept.at().plus(lasts(now)).isAfter(now);
        if (fresh) return kept;
        boolean all = kept.at().equals(Instant.MIN)
                || kept.at().isAfter(now)
                || !kept.whole().plus(ALL_LASTS).isAfter(now)
                || kept.at().plus(AGAIN).isBefore(now);
        kept = all
                ? new Learned(now, now, store.lengths(now.minus(BACK), now.plus(LASTS)), new ConcurrentHashMap<>())
                : new Learned(now, kept.whole(), goneOn(kept.seen(), now), new ConcurrentHashMap<>());
        learned = kept;
        return kept;
    }

    /** What was read before, without what is too old by now, and with the latest read again. */
    private Map<Long, List<UsualDuration.Seen>> goneOn(Map<Long, List<UsualDuration.Seen>> before, Instant now) {
        var again = now.minus(AGAIN);
        // A run is kept under when it was first heard of, which is about when it started.
        var latest = store.lengths(again.minus(Duration.ofDays(1)), now.plus(LASTS));
        var all = new HashMap<Long, List<UsualDuration.Seen>>();
        before.forEach((job, seen) -> {
            var kept = seen.stream()
                    .filter(one ->
                            one.started().isBefore(again) && !one.started().isBefore(now.minus(BACK)))
                    .toList();
            if (!kept.isEmpty()) all.put(job, kept);
        });
        latest.forEach((job, seen) -> all.merge(
                job,
                seen.stream().filter(one -> !one.started().isBefore(again)).toList(),
                (old, more) -> Stream.concat(old.stream(), more.stream()).toList()));
        return all;
    }

    /** A past is gone through in a moment, and so a day of it will do. */
    private Duration lasts(Instant now) {
        return now.isBefore(clock.instant().minus(Duration.ofHours(1))) ? Duration.ofDays(1) : LASTS;
    }

    @Override
    public void reckon() {
        learned = Learned.NOTHING;
    }

    /** After what is agreed about a job has changed. */
    void forget() {
        learned = new Learned(learned.at(), learned.whole(), learned.seen(), new ConcurrentHashMap<>());
    }
}
