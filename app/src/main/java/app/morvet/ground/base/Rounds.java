package app.morvet.ground.base;

import app.morvet.ground.nodes.Leases;
import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;

/**
 * Work that is done in rounds on a thread of its own: whenever there is something to do, and every so often all the same. A
 * round that fails is told and tried again a moment later.
 */
public abstract class Rounds implements SmartLifecycle {
    private static final Duration AFTER_FAILURE = Duration.ofSeconds(1);

    private final Logger log = LoggerFactory.getLogger(getClass());
    private final String name;
    private final Duration lookedAtEvery;
    private final Semaphore something = new Semaphore(0);
    private final Undone undone;
    private volatile boolean running;
    private volatile long failingSince;
    /** Since when something waits that no round has begun on, and since when what the round at work does; 0 while nothing does. */
    private final AtomicLong waitingSince = new AtomicLong();

    private volatile long atWorkSince;
    private volatile String failure = "";
    private Thread thread = new Thread();

    /**
     * What people miss while rounds fail.
     *
     * @param words {@code Guards are not judged}
     * @param late  what is said while they go on, but too slowly: {@code Guards are judged late}
     * @param link  where they would see it
     */
    public record Undone(String words, String late, String link) {}

    /**
     * That rounds fail.
     *
     * @param since how long by now
     */
    public record Failing(Undone undone, Duration since, String why) {}

    /**
     * That rounds are done, and more comes in than they can do.
     *
     * @param by how long what waits longest has waited
     */
    public record Behind(Undone undone, Duration by) {}

    /** @param name of the thread */
    protected Rounds(String name, Undone undone, Duration lookedAtEvery) {
        this.name = name;
        this.undone = undone;
        this.lookedAtEvery = lookedAtEvery;
    }

    /** One round; tells whether more waits to be done at once. */
    protected abstract boolean round() throws InterruptedException;

    /** How long to wait for something to do until it is looked all the same. */
    protected Duration pause() {
        return lookedAtEvery;
    }

    /** There is something to do. */
    protected final void wake() {
        waitingSince.compareAndSet(0, System.nanoTime());
        something.release();
    }

    /** Whether something has come since this was last asked. */
    protected final boolean wokenAgain() {
        return something.drainPermits() > 0;
    }

    /**
     * Waits for what comes close behind what there is to do, so that one round does all of it.
     *
     * @param quiet until nothing has come for so long
     * @param most  but no longer than so many times that
     */
    protected final void gather(Duration quiet, int most) throws InterruptedException {
        for (int i = 0; i < most; i++) {
            Thread.sleep(quiet);
            if (!wokenAgain()) return;
            waitingSince.set(0);
        }
    }

    @Override
    public synchronized void start() {
        if (running) return;
        running = true;
        thread = Thread.ofPlatform().name(name).daemon().start(this::rounds);
    }

    @Override
    public void stop() {
        running = false;
        thread.interrupt();
        try {
            thread.join(5000);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
    }

    @Override
    public boolean isRunning() {
        return running;
    }

    /** Whether no round has been done for a while, and why. */
    public Optional<Failing> failing() {
        long since = failingSince;
        if (since == 0) return Optional.empty();
        return Optional.of(new Failing(undone, Duration.ofNanos(System.nanoTime() - since), failure));
    }

    /** How long what waits longest has waited, where something waits. */
    public Optional<Behind> behind() {
        long since = atWorkSince == 0 ? waitingSince.get() : atWorkSince;
        if (since == 0) return Optional.empty();
        return Optional.of(new Behind(undone, Duration.ofNanos(System.nanoTime() - since)));
    }

    private void rounds() {
        while (running) {
            try {
                if (something.tryAcquire(pause().toMillis(), TimeUnit.MILLISECONDS)) something.drainPermits();
                atWorkSince = waitingSince.getAndSet(0);
                boolean more = true;
                while (running && more) more = oneRound();
                atWorkSince = 0;
            } catch (InterruptedException stop) {
                return;
            }
        }
    }

    private boolean oneRound() throws InterruptedException {
        try {
            boolean more = round();
            failingSince = 0;
            return more;
        } catch (Leases.Lost lost) {
            log.warn("{} wrote nothing: {}", name, lost.getMessage());
            return true;
        } catch (RuntimeException failed) {
            if (!running) return false;
            if (failingSince == 0) failingSince = System.nanoTime();
            failure = String.valueOf(failed.getMessage());
            log.error("{} failed and will be tried again", name, failed);
            Thread.sleep(AFTER_FAILURE);
            return true;
        }
    }
}
