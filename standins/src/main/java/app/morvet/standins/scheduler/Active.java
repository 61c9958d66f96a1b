package app.morvet.standins.scheduler;

import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A run that is going on.
 *
 * @param done   how far it was at {@code since}, 0 to 1
 * @param length how long all of it takes from then on at its pace, or null while it hangs
 * @param told   when it was last told how far it is
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

    /** How far it is, 0 to 1. */
    double at(Instant now) {
        if (length == null) return done;
        return Math.min(0.99, done + (double) Duration.between(since, now).toMillis() / Math.max(1, length.toMillis()));
    }

    boolean of(String key, Instant night) {
        return job.equals(key) && meant.equals(night);
    }

    /** As it goes on at another pace from an instant. */
    Active atPace(@Nullable Duration whole, Instant now) {
        return new Active(job, run, meant, attempt, trigger, started, now, at(now), whole, exitCode, records, told);
    }

    Active told(Instant now) {
        return new Active(job, run, meant, attempt, trigger, started, since, done, length, exitCode, records, now);
    }
}
