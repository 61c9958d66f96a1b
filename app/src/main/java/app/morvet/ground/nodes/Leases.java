package app.morvet.ground.nodes;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.concurrent.CopyOnWriteArrayList;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.SmartLifecycle;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Who of all nodes does what only one may do at a time. Such work is cut into parts, and a part is done by the node that holds
 * its lease. Leases last some seconds and are renewed; those of a node that has died run out and are taken by others. Nodes
 * hold like many parts: one that has joined is given its share by those that hold more.
 *
 * <p>A node that stood still may believe that it still holds what another has taken meanwhile. So each taking gives a part a
 * higher epoch, and whoever writes under a lease {@linkplain Held#sure makes sure} of it in the transaction that writes.
 * All times are those of the database's clock.
 */
@Component
public class Leases implements SmartLifecycle {
    private static final Logger log = LoggerFactory.getLogger(Leases.class);
    static final Duration LAST = Duration.ofSeconds(8);
    private static final Duration RENEWED_EVERY = Duration.ofSeconds(2);
    private static final Duration DEALT_EVERY = Duration.ofSeconds(1);

    /** Another node has taken what this one held: what it was about to write must not be written. */
    public static final class Lost extends RuntimeException {
        private static final long serialVersionUID = 1;

        Lost(String name, Collection<Integer> parts) {
            super("another node holds some of the parts " + parts + " of " + name + " by now");
        }
    }

    private final LeaseStore store;
    private final String node;
    private final List<Share> shares = new CopyOnWriteArrayList<>();
    private volatile int nodes = 1;
    private volatile boolean running;
    private Thread thread = new Thread();

    @Autowired
    Leases(JdbcClient jdbc, Notices notices) {
        this(jdbc, notices.node());
    }

    Leases(JdbcClient jdbc, String node) {
        this.store = new LeaseStore(jdbc, node);
        this.node = node;
    }

    /** How many nodes there are. */
    public int nodes() {
        return nodes;
    }

    /**
     * This node's share of some work.
     *
     * @param name  of the work
     * @param parts into how many it is cut; the same on all nodes
     */
    public Share share(String name, int parts) {
        var share = new Share(name, parts);
        shares.add(share);
        return share;
    }

    /** What this node does of some work. */
    public final class Share {
        private final String name;
        private final int parts;
        private volatile Map<Integer, Long> epochs = Map.of();
        private volatile Runnable worker = () -> {};
        private long dealtAt;
        private boolean made;

        private Share(String name, int parts) {
            this.name = name;
            this.parts = parts;
        }

        /** Who does the work is woken while it holds more or less than is fair, and should ask what it holds now. */
        public void toBeDealt(Runnable worker) {
            this.worker = worker;
        }

        private int fair() {
            return Math.ceilDiv(parts, nodes);
        }

        /**
         * What is held now. To be asked by the one thread that does the work, when it has nothing under way: what is held beyond a
         * fair share is given back here, and what is free is taken.
         */
        public synchronized Held held() {
            if (running && (dealtAt == 0 || System.nanoTime() - dealtAt > DEALT_EVERY.toNanos())) deal();
            return new Held(this, epochs);
        }

        /** Into which part something falls, by a number that tells it from others. */
        public int partOf(long key) {
            // The multiplier of Fibonacci hashing (Knuth 1973, 6.4): neighbours fall far apart.
            return (int) Math.floorMod((key * 0x9E3779B97F4A7C15L) >>> 16, (long) parts);
        }

        /** All of it, for who works while no node does, as when a past is gone through. */
        public Held all() {
            return new Held(this, null);
        }

        private void deal() {
            dealtAt = System.nanoTime();
            if (!made) store.make(name, parts);
            made = true;
            int fair = fair();
            if (epochs.size() == fair) return;
            var now = new TreeMap<>(epochs);
            while (now.size() > fair) {
                var one = now.pollLastEntry();
                store.giveBack(name, one.getKey(), one.getValue());
            }
            if (now.size() < fair) now.putAll(store.take(name, fair - now.size()));
            epochs = Map.copyOf(now);
        }

        /** Without waiting for the next time at which shares are looked at. */
        synchronized void dealAgain() {
            dealtAt = 0;
            held();
        }

        /** Lets others have it at once, as at the end. */
        private synchronized void giveBack() {
            epochs.forEach((part, epoch) -> store.giveBack(name, part, epoch));
            epochs = Map.of();
            dealtAt = 0;
        }

        /** What is held of it still is known again when it is renewed. */
        private synchronized void lost(Collection<Integer> some) {
            var left = new HashMap<>(epochs);
            left.keySet().removeAll(some);
            epochs = Map.copyOf(left);
        }

        private synchronized void renew() {
            var still = store.renew(name);
            if (!still.equals(epochs)) {
                log.warn("of {} other nodes hold parts by now: {} were held, {} are", name, epochs, still);
                epochs = still;
            }
            if (epochs.size() != fair()) worker.run();
        }
    }

    /** The keeper, beside whoever works: says that this node lives, and keeps what it holds. */
    void renew() {
        nodes = store.live();
        shares.forEach(Share::renew);
    }

    @Override
    public synchronized void start() {
        if (running) return;
        renew();
        running = true;
        thread = Thread.ofPlatform().name("leases").daemon().start(this::keep);
    }

    private void keep() {
        while (running) {
            try {
                Thread.sleep(RENEWED_EVERY);
                renew();
            } catch (InterruptedException stop) {
                return;
            } catch (RuntimeException failed) {
                // What is held runs out meanwhile; who works under it is told so when it writes.
                log.warn("{} could not renew its leases and will try again: {}", node, failed.getMessage());
            }
        }
    }

    @Override
    public synchronized void stop() {
        running = false;
        thread.interrupt();
        try {
            shares.forEach(Share::giveBack);
            store.gone();
        } catch (RuntimeException away) {
            log.warn("leases could not be given back; they run out by themselves: {}", away.getMessage());
        }
    }

    @Override
    public boolean isRunning() {
        return running;
    }

    /** Begins before and ends after all that works under leases. */
    @Override
    public int getPhase() {
        return DEFAULT_PHASE - 1;
    }

    /** Parts that a node held at a moment. */
    public final class Held {
        private final Share share;
        private final @Nullable Map<Integer, Long> epochs;

        private Held(Share share, @Nullable Map<Integer, Long> epochs) {
            this.share = share;
            this.epochs = epochs;
        }

        /** As {@link Share#partOf}. */
        public int partOf(long key) {
            return share.partOf(key);
        }

        public boolean has(int part) {
            return epochs == null || epochs.containsKey(part);
        }

        public boolean none() {
            return epochs != null && epochs.isEmpty();
        }

        /**
         * Makes sure, in the running transaction, that some parts are held still; until its end no other node takes them.
         *
         * @throws Lost where another node has taken one
         */
        public void sure(Collection<Integer> some) {
            if (epochs == null || some.isEmpty()) return;
            var wanted = new ArrayList<Long>();
            for (int part : some) {
                var epoch = epochs.get(part);
                if (epoch == null) throw new Lost(share.name, List.of(part));
                wanted.add(epoch);
            }
            if (store.stillHeld(share.name, List.copyOf(some), wanted) == some.size()) return;
            share.lost(some);
            throw new Lost(share.name, some);
        }

        /** The same of all that is held. */
        public void sure() {
            if (epochs != null) sure(epochs.keySet());
        }

        /** Whether it is the same hold: of the same parts, without another having had them in between. */
        @Override
        public boolean equals(@Nullable Object other) {
            return other instanceof Held held && held.share == share && Objects.equals(held.epochs, epochs);
        }

        @Override
        public int hashCode() {
            return Objects.hash(share.name, epochs);
        }
    }
}
