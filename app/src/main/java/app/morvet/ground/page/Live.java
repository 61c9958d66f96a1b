package app.morvet.ground.page;

import java.io.IOException;
import java.sql.SQLException;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.Condition;
import java.util.concurrent.locks.ReentrantLock;
import javax.sql.DataSource;
import org.postgresql.PGConnection;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.http.MediaType;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * The one stream that tells open pages what has changed. A change is told by PostgreSQL's NOTIFY inside the transaction
 * that makes it: it goes out when that commits and never when it rolls back, and every node hears it.
 */
@Controller
public class Live {
    private static final Logger log = LoggerFactory.getLogger(Live.class);
    private static final String CHANNEL = "morvet_live";
    private static final int BEAT_MILLIS = 15_000;

    private final JdbcClient jdbc;
    private final DataSource dataSource;
    private final Set<Reader> readers = ConcurrentHashMap.newKeySet();
    private volatile boolean closing;

    Live(JdbcClient jdbc, DataSource dataSource) {
        this.jdbc = jdbc;
        this.dataSource = dataSource;
    }

    /** Says that what a topic names has changed: {@code cases}, {@code messages}, {@code handoffs}, {@code now}. */
    public void changed(String topic) {
        jdbc.sql("select pg_notify(:channel, :topic)")
                .param("channel", CHANNEL)
                .param("topic", topic)
                .query((row, number) -> topic)
                .list();
    }

    @GetMapping(path = "/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter stream() {
        var reader = new Reader();
        readers.add(reader);
        reader.listens();
        return reader.emitter;
    }

    /**
     * An open page. What it is to be told waits at its own place, each topic once, so that a page that takes nothing in keeps
     * no other waiting.
     */
    private final class Reader {
        private final SseEmitter emitter = new SseEmitter(0L);
        private final ReentrantLock lock = new ReentrantLock();
        private final Condition something = lock.newCondition();
        private final Set<String> waiting = new LinkedHashSet<>();
        private volatile boolean gone;

        void listens() {
            emitter.onCompletion(this::leave);
            emitter.onError(why -> leave());
            emitter.onTimeout(this::leave);
            Thread.ofVirtual().name("live-reader").start(this::write);
        }

        void tell(String topic) {
            lock.lock();
            try {
                waiting.add(topic);
                something.signal();
            } finally {
                lock.unlock();
            }
        }

        private void write() {
            try {
                emitter.send(SseEmitter.event().name("hello").data("here"));
                while (!gone)
                    for (var topic : take())
                        emitter.send(SseEmitter.event().name("changed").data(topic));
            } catch (IOException | IllegalStateException | InterruptedException over) {
                leave();
            }
        }

        private List<String> take() throws InterruptedException {
            lock.lock();
            try {
                while (waiting.isEmpty() && !gone) something.await();
                var topics = List.copyOf(waiting);
                waiting.clear();
                return topics;
            } finally {
                lock.unlock();
            }
        }

        private void leave() {
            readers.remove(this);
            gone = true;
            lock.lock();
            try {
                something.signal();
            } finally {
                lock.unlock();
            }
        }
    }

    @EventListener(ApplicationReadyEvent.class)
    void listen() {
        Thread.ofVirtual().name("live").start(this::listenForEver);
    }

    private void listenForEver() {
        while (!closing) {
            try (var connection = dataSource.getConnection();
                    var statement = connection.createStatement()) {
                statement.execute("listen " + CHANNEL);
                var postgres = connection.unwrap(PGConnection.class);
                while (!closing) {
                    var notices = postgres.getNotifications(BEAT_MILLIS);
                    var topics = new TreeSet<String>();
                    for (var notice : notices) topics.add(notice.getParameter());
                    // Beats keep proxies from closing the stream and find readers that have gone.
                    if (topics.isEmpty()) tell("beat");
                    topics.forEach(this::tell);
                }
            } catch (SQLException lost) {
                if (closing) return;
                log.warn("the live stream lost its database connection, trying again: {}", lost.getMessage());
                pause();
            }
        }
    }

    private void tell(String topic) {
        readers.forEach(reader -> reader.tell(topic));
    }

    private static void pause() {
        try {
            Thread.sleep(2000);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
    }

    /** Before the server begins to shut down: it would wait half a minute for streams that never end by themselves. */
    @EventListener(ContextClosedEvent.class)
    void close() {
        closing = true;
        readers.forEach(reader -> reader.emitter.complete());
    }
}
