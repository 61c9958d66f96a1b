package app.morvet.messages;

import app.morvet.base.DayPartitions;
import app.morvet.base.Stamp;
import app.morvet.core.messages.SearchWords;
import app.morvet.estate.Estate;
import java.sql.Timestamp;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Makes failed messages findable by their words, a moment after they are stored, so that a storm is taken in first. What the
 * masks hide is not put into the index: whoever may not read it must not find it either. The queue is written with the
 * messages and emptied in the transaction that indexes them.
 */
@Component
class WordIndexing implements SmartLifecycle {
    private static final int A_TIME = 500;
    private static final Duration LOOKED_AT_EVERY = Duration.ofSeconds(2);
    private static final Logger log = LoggerFactory.getLogger(WordIndexing.class);

    private record Unread(
            MessageId id,
            boolean anew,
            long component,
            String key,
            String error,
            String attributes,
            String type,
            String payload) {}

    private final JdbcClient jdbc;
    private final DayPartitions partitions;
    private final Masks masks;
    private final Estate estate;
    private final SavedSearches saved;
    private final TransactionTemplate transaction;
    private final Semaphore something = new Semaphore(0);
    private volatile boolean running;
    private Thread thread = new Thread();

    WordIndexing(
            JdbcClient jdbc,
            DayPartitions partitions,
            Masks masks,
            Estate estate,
            SavedSearches saved,
            TransactionTemplate transaction) {
        this.jdbc = jdbc;
        this.partitions = partitions;
        this.masks = masks;
        this.estate = estate;
        this.saved = saved;
        this.transaction = transaction;
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
    void on(FailuresRecorded recorded) {
        something.release();
    }

    @Override
    public synchronized void start() {
        if (running) return;
        running = true;
        thread = Thread.ofPlatform().name("word-indexing").daemon().start(this::rounds);
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

    private void rounds() {
        while (running) {
            try {
                if (something.tryAcquire(LOOKED_AT_EVERY.toMillis(), TimeUnit.MILLISECONDS)) something.drainPermits();
                for (long begun = System.nanoTime(); running && round() == A_TIME; begun = System.nanoTime())
                    giveWay(System.nanoTime() - begun);
            } catch (InterruptedException stop) {
                return;
            } catch (RuntimeException failed) {
                if (!running) return;
                log.error("indexing failed messages did not work and will be tried again", failed);
                something.drainPermits();
            }
        }
    }

    /** While messages pour in they are stored first, and made findable with a quarter of a processor. */
    private void giveWay(long took) throws InterruptedException {
        if (something.availablePermits() == 0) return;
        something.drainPermits();
        Thread.sleep(Duration.ofNanos(3 * took));
    }

    int round() {
        return java.util.Objects.requireNonNull(transaction.execute(status -> {
            var unread = take();
            if (unread.isEmpty()) return 0;
            partitions.ensure(
                    "message_words", unread.stream().map(one -> one.id().at()).toList());
            index(unread);
            saved.feed(
                    unread.stream().filter(one -> !one.anew()).map(Unread::id).toList());
            return unread.size();
        }));
    }

    private List<Unread> take() {
        return jdbc.sql(
                        """
                        with taken as (delete from unread_failure
                                        where ctid = any(array(select ctid from unread_failure limit :size for update skip locked))
                                       returning at, id, anew)
                        select m.at, m.id, t.anew, m.component_id, m.business_key, m.error, m.attributes, m.payload_type,
                               left(m.payload, :longest) as payload
                          from taken t join failed_message m on m.at = t.at and m.id = t.id""")
                .param("size", A_TIME)
                .param("longest", SearchWords.LONGEST)
                .query((row, number) -> new Unread(
                        new MessageId(Stamp.in(row, "at"), row.getLong("id")),
                        row.getBoolean("anew"),
                        row.getLong("component_id"),
                        row.getString("business_key"),
                        row.getString("error"),
                        row.getString("attributes"),
                        row.getString("payload_type"),
                        row.getString("payload")))
                .list();
    }

    private void index(List<Unread> unread) {
        jdbc.sql(
                        """
                        insert into message_words (at, id, words)
                        select at, id, to_tsvector('simple', words)
                          from unnest(:ats::timestamptz[], :ids::bigint[], :words::text[]) as t(at, id, words)
                            on conflict do nothing""")
                .param(
                        "ats",
                        unread.stream()
                                .map(one -> Timestamp.from(one.id().at()))
                                .toArray(Timestamp[]::new))
                .param("ids", unread.stream().map(one -> one.id().id()).toArray(Long[]::new))
                .param("words", unread.stream().map(this::words).toArray(String[]::new))
                .update();
    }

    private String words(Unread one) {
        var masking = masks.on(estate.component(one.component()).key());
        var attributes = masking.payload("application/json", one.attributes()).text();
        return List.of(
                        masking.text(one.key()).text(),
                        masking.text(one.error()).text(),
                        attributes,
                        masking.payload(one.type(), one.payload()).text())
                .stream()
                .map(SearchWords::of)
                .collect(Collectors.joining(" \n"));
    }
}
