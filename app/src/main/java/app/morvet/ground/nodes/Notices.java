package app.morvet.ground.nodes;

import java.sql.SQLException;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Consumer;
import javax.sql.DataSource;
import org.postgresql.PGConnection;
import org.postgresql.PGNotification;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * What nodes tell each other: that something of a kind has changed. Told by PostgreSQL's NOTIFY inside the transaction that makes
 * the change, it goes out when that commits and never when it rolls back. A notice carries no data; who hears it looks into
 * the store. While the connection is away notices are missed, so whoever keeps something hears afterwards that all may
 * have changed.
 *
 * <p>All hear on one thread, in the order in which they asked to: what they do must be short.
 */
@Component
public class Notices {
    private static final Logger log = LoggerFactory.getLogger(Notices.class);
    private static final String CHANNEL = "morvet";
    private static final int BEAT_MILLIS = 15_000;

    private record Hearer(boolean ownToo, Consumer<String> hears) {}

    /** A notice, as it travels: {@code <node> <kind> <what>}. */
    private record Notice(String node, String kind, String what) {
        static Notice of(PGNotification from) {
            var part = from.getParameter().split(" ", 3);
            return new Notice(part[0], part[1], part[2]);
        }
    }

    private final JdbcClient jdbc;
    private final DataSource dataSource;
    private final String node;
    private final Map<String, List<Hearer>> hearers = new ConcurrentHashMap<>();
    private final List<Runnable> lost = new CopyOnWriteArrayList<>();
    private final List<Runnable> beats = new CopyOnWriteArrayList<>();
    private volatile boolean closing;

    /** @param name of this node; the machine's where none is given */
    Notices(JdbcClient jdbc, DataSource dataSource, @Value("${morvet.node:${HOSTNAME:node}}") String name) {
        this.node = name.replaceAll("\\W+", "-") + "/" + UUID.randomUUID();
        this.jdbc = jdbc;
        this.dataSource = dataSource;
    }

    /** By what this node is told from others, and from itself before it was last started: {@code node1/…}. */
    public String node() {
        return node;
    }

    /** Tells all nodes that something of a kind has changed, once the running transaction is committed. */
    public void tell(String kind) {
        tell(kind, "");
    }

    /** @param what of that kind has changed: a word, not its data */
    public void tell(String kind, String what) {
        if (isToldAlready(new Notice(node, kind, what))) return;
        jdbc.sql("select pg_notify(:channel, :notice)")
                .param("channel", CHANNEL)
                .param("notice", node + " " + kind + " " + what)
                .query((row, number) -> kind)
                .list();
    }

    /** PostgreSQL passes on what is said twice in a transaction once; so it need not be asked again, by rounds that move hundreds of alerts. */
    private boolean isToldAlready(Notice notice) {
        if (!TransactionSynchronizationManager.isActualTransactionActive()
                || !TransactionSynchronizationManager.isSynchronizationActive()) return false;
        var told = (Told) TransactionSynchronizationManager.getResource(this);
        if (told == null) {
            told = new Told();
            TransactionSynchronizationManager.bindResource(this, told);
            TransactionSynchronizationManager.registerSynchronization(told);
        }
        return !told.notices.add(notice);
    }

    /** What one transaction has told. */
    private final class Told implements TransactionSynchronization {
        private final Set<Notice> notices = new HashSet<>();

        @Override
        public void suspend() {
            TransactionSynchronizationManager.unbindResource(Notices.this);
        }

        @Override
        public void resume() {
            TransactionSynchronizationManager.bindResource(Notices.this, this);
        }

        @Override
        public void afterCompletion(int status) {
            TransactionSynchronizationManager.unbindResourceIfPossible(Notices.this);
        }
    }

    /** Hears what any node tells, this one too, and what was lost with the connection as a change of the empty name. */
    public void hear(String kind, Consumer<String> hears) {
        hearers.computeIfAbsent(kind, none -> new CopyOnWriteArrayList<>()).add(new Hearer(true, hears));
        lost.add(() -> hears.accept(""));
    }

    /** Hears what other nodes tell; also when notices may have been lost. */
    public void hearOthers(String kind, Runnable hears) {
        hearOthers(kind, what -> hears.run());
    }

    /** The same, and what of that kind has changed; what was lost with the connection as a change of the empty name. */
    public void hearOthers(String kind, Consumer<String> hears) {
        hearers.computeIfAbsent(kind, none -> new CopyOnWriteArrayList<>()).add(new Hearer(false, hears));
        lost.add(() -> hears.accept(""));
    }

    /** Is done when the connection is there again after it was lost, as with a restart of the database. */
    public void connectedAgain(Runnable what) {
        lost.add(what);
    }

    /** Is done every quarter minute in which nothing was told. */
    public void beat(Runnable beat) {
        beats.add(beat);
    }

    @EventListener(ApplicationReadyEvent.class)
    void listen() {
        Thread.ofVirtual().name("notices").start(this::listenForEver);
    }

    private void listenForEver() {
        boolean first = true;
        while (!closing) {
            try (var connection = dataSource.getConnection();
                    var statement = connection.createStatement()) {
                statement.execute("listen " + CHANNEL);
                if (!first) lost.forEach(Notices::done);
                first = false;
                var postgres = connection.unwrap(PGConnection.class);
                while (!closing) pass(postgres.getNotifications(BEAT_MILLIS));
            } catch (SQLException away) {
                if (closing) return;
                log.warn("the connection for notices was lost, trying again: {}", away.getMessage());
                pause();
            }
        }
    }

    private void pass(PGNotification[] told) {
        if (told.length == 0) beats.forEach(Notices::done);
        var seen = new HashSet<Notice>();
        for (var one : told) {
            var notice = Notice.of(one);
            if (seen.add(notice)) pass(notice);
        }
    }

    private void pass(Notice notice) {
        for (var hearer : hearers.getOrDefault(notice.kind(), List.of()))
            if (hearer.ownToo() || !notice.node().equals(node))
                done(() -> hearer.hears().accept(notice.what()));
    }

    private static void done(Runnable what) {
        try {
            what.run();
        } catch (RuntimeException failed) {
            log.error("something that hears of changes failed", failed);
        }
    }

    private static void pause() {
        try {
            Thread.sleep(2000);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
    }

    @EventListener(ContextClosedEvent.class)
    void close() {
        closing = true;
    }
}
