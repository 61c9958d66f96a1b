package app.morvet.ground.page;

import app.morvet.ground.nodes.Notices;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.locks.Condition;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Consumer;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.http.MediaType;
import org.springframework.session.SessionRepository;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * The one stream that tells open pages what has changed, on whatever node it was changed.
 */
@Controller
public class Live {
    private static final String KIND = "page";
    private static final String BEAT = "beat";
    private static final Duration LOOKED_EVERY = Duration.ofSeconds(10);

    /** In the place of a topic: anything may have changed. */
    static final String ALL = "*";

    /** How far the clocks of two nodes may be apart, and how long a notice may be under way between them. */
    private static final Duration APART = Duration.ofSeconds(5);

    private final Notices notices;
    private final SessionRepository<?> sessions;
    private final Assets assets;
    private final Clock clock = Clock.systemUTC();
    private final long begun = clock.millis();
    private final Set<Reader> readers = ConcurrentHashMap.newKeySet();
    /** When each topic was told last. */
    private final Map<String, Long> told = new ConcurrentHashMap<>();

    private final List<Consumer<String>> hearers = new CopyOnWriteArrayList<>();

    Live(Notices notices, SessionRepository<?> sessions, Assets assets) {
        this.notices = notices;
        this.sessions = sessions;
        this.assets = assets;
        notices.hear(KIND, topic -> heard(topic.isEmpty() ? ALL : topic));
        // Beats keep proxies from closing the stream and find readers that have gone.
        notices.beat(() -> tell(BEAT));
    }

    /** Says that what a topic names has changed: {@code cases}, {@code messages}, {@code handoffs}, {@code now}. */
    public void changed(String topic) {
        hearers.forEach(one -> one.accept(topic));
        notices.tell(KIND, topic);
    }

    /**
     * What is kept of some topics is to be forgotten: where one is changed, within the transaction, and where another node tells of it.
     */
    public void hear(Set<String> topics, Runnable forget) {
        hearers.add(topic -> {
            if (topic.equals(ALL) || topics.contains(topic)) forget.run();
        });
    }

    /** By what a page says when it was drawn and by which node; taken before anything that it shows is read. */
    String mark() {
        return notices.node() + "/" + clock.millis();
    }

    /**
     * What has changed between the drawing of a page and its listening. Without it a page that is drawn a moment before a change
     * would show what was before until the next.
     *
     * @param since the mark of the page
     */
    @GetMapping("/live/missed")
    @ResponseBody
    List<String> missed(@RequestParam(defaultValue = "") String since) {
        int cut = since.lastIndexOf('/');
        long from = since.substring(cut + 1).matches("\\d{1,15}") ? Long.parseLong(since.substring(cut + 1)) : 0;
        if (cut < 0 || !since.substring(0, cut).equals(notices.node())) from -= APART.toMillis();
        if (from < begun || told.getOrDefault(ALL, 0L) >= from) return List.of(ALL);
        long after = from;
        return told.entrySet().stream()
                .filter(one -> one.getValue() >= after)
                .map(Map.Entry::getKey)
                .toList();
    }

    @GetMapping(path = "/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter stream(HttpSession session) throws IOException {
        var reader = new Reader(session.getId());
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
        private final String session;
        private long looked = System.nanoTime();
        private volatile boolean gone;

        Reader(String session) {
            this.session = session;
        }

        void listens() throws IOException {
            emitter.onCompletion(this::leave);
            emitter.onError(why -> leave());
            emitter.onTimeout(this::leave);
            // The thread of the request writes the headers; were this left to the other, both might write them at once.
            emitter.send(SseEmitter.event().name("hello").data(assets.path()));
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
                while (!gone)
                    for (var topic : take()) {
                        if (isOver()) {
                            emitter.complete();
                            return;
                        }
                        emitter.send(SseEmitter.event().name("changed").data(topic));
                    }
            } catch (IOException | IllegalStateException | InterruptedException over) {
                leave();
            }
        }

        /** The stream ends with its session; it is looked at with every beat at most. */
        private boolean isOver() {
            if (System.nanoTime() - looked < LOOKED_EVERY.toNanos()) return false;
            looked = System.nanoTime();
            return sessions.findById(session) == null;
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

    private void heard(String topic) {
        // A page that was drawn before this has its mark from before this.
        told.put(topic, clock.millis());
        hearers.forEach(one -> one.accept(topic));
        tell(topic);
    }

    private void tell(String topic) {
        readers.forEach(reader -> reader.tell(topic));
    }

    /** Before the server begins to shut down: it would wait half a minute for streams that never end by themselves. */
    @EventListener(ContextClosedEvent.class)
    void close() {
        readers.forEach(reader -> reader.emitter.complete());
    }
}
