package app.morvet.standins.scheduler;

import app.morvet.standins.Keep;
import app.morvet.standins.StandInSettings;
import app.morvet.standins.ToMorvet;
import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * The scheduler. Goes through time from where it last told to now. What Morvet does not take is offered again with the same
 * names, so an outage on either side leaves no gap and nothing is twice.
 */
@Component
class Scheduler {
    private static final String MEMORY = "scheduler.json";
    private static final Duration STRIDE = Duration.ofDays(2);
    private static final Duration LIVE = Duration.ofMinutes(2);

    private final Keep keep;
    private final ToMorvet morvet;
    private final StandInSettings settings;
    private final Clock clock;
    private final RunningJobs jobs;
    private final Map<String, RunningJobs.Answer> answered = new HashMap<>();
    private volatile boolean going = true;
    private volatile String trouble = "";

    Scheduler(Keep keep, ToMorvet morvet, StandInSettings settings, Clock clock) {
        this.keep = keep;
        this.morvet = morvet;
        this.settings = settings;
        this.clock = clock;
        var now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
        this.jobs = new RunningJobs(
                settings.seed(),
                keep.read(MEMORY, RunningJobs.Memory.class)
                        .orElseGet(() -> RunningJobs.Memory.fresh(now, settings.batchPast())));
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
            live = jobs.at().plus(LIVE).isAfter(now);
            var stride = jobs.at().plus(STRIDE);
            jobs.advance(live || stride.isAfter(now) ? now : stride);
            if (live) jobs.tellProgress();
            telling = jobs.untold();
        }
        if (!telling.isEmpty()) morvet.tell(telling, settings.key() + "-batch");
        synchronized (this) {
            jobs.told(telling.size());
            if (!telling.isEmpty() || !live) keep.write(MEMORY, jobs.memory());
        }
        return live;
    }

    synchronized void breakIt(String key, Trouble what, int code) {
        jobs.breakIt(key, what, code);
    }

    synchronized void mend(String key) {
        jobs.mend(key);
    }

    synchronized void finish(String key) {
        jobs.finish(key);
    }

    /** The same key twice does it once and answers the same. */
    synchronized RunningJobs.Answer order(String order, String key, String run, String idempotencyKey) {
        return answered.computeIfAbsent(idempotencyKey, fresh -> jobs.order(order, Task.of(key), run));
    }

    synchronized void slots(int some) {
        jobs.slots(some);
        keep.write(MEMORY, jobs.memory());
    }

    synchronized List<RunningJobs.Shown> shown() {
        return jobs.shown();
    }

    synchronized Map<String, Object> status() {
        var status = new TreeMap<String, Object>();
        status.put("toldTo", jobs.at().toString());
        status.put("caughtUp", jobs.at().plus(LIVE).isAfter(clock.instant()));
        status.put("trouble", trouble);
        status.put("running", jobs.running());
        status.put("slots", jobs.slots());
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
