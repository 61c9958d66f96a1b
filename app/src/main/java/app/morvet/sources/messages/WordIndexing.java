package app.morvet.sources.messages;

import app.morvet.core.messages.Masking;
import app.morvet.core.messages.PayloadView;
import app.morvet.core.messages.SearchWords;
import app.morvet.ground.base.Rounds;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import java.sql.Timestamp;
import java.time.Duration;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
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
class WordIndexing extends Rounds {
    private static final int A_TIME = 500;
    private static final int MOST_WORDS = 250_000;
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
    private final Masks masks;
    private final Estate estate;
    private final SavedSearches saved;
    private final Live live;
    private final TransactionTemplate transaction;
    private int size = A_TIME;

    WordIndexing(
            JdbcClient jdbc,
            Masks masks,
            Estate estate,
            SavedSearches saved,
            Live live,
            TransactionTemplate transaction) {
        super(
                "word-indexing",
                new Undone(
                        "New failures cannot be found by their words",
                        "New failures are found by their words late",
                        "/messages"),
                LOOKED_AT_EVERY);
        this.jdbc = jdbc;
        this.masks = masks;
        this.estate = estate;
        this.saved = saved;
        this.live = live;
        this.transaction = transaction;
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
    void on(FailuresRecorded recorded) {
        wake();
    }

    @Override
    protected boolean round() throws InterruptedException {
        long begun = System.nanoTime();
        int asked = size;
        int done;
        try {
            done = Objects.requireNonNull(transaction.execute(status -> indexSome(asked)));
            size = Math.min(A_TIME, asked * 2);
        } catch (DataAccessException failed) {
            // One that cannot be indexed must not keep all others waiting: it is looked for, and left out.
            if (asked == 1) leaveOut(failed);
            size = Math.max(1, asked / 10);
            return true;
        }
        // While messages pour in they are stored first, and made findable with a quarter of a processor.
        if (wokenAgain()) Thread.sleep(Duration.ofNanos(3 * (System.nanoTime() - begun)));
        return done == asked;
    }

    private int indexSome(int most) {
        var unread = take(most);
        if (unread.isEmpty()) return 0;
        index(unread);
        saved.feed(unread.stream().filter(one -> !one.anew()).map(Unread::id).toList());
        if (unread.size() < most) live.changed("messages");
        return unread.size();
    }

    private void leaveOut(DataAccessException why) {
        var gone = jdbc.sql(
                        "delete from unread_failure where ctid = (select ctid from unread_failure limit 1) returning at, id")
                .query((row, number) -> new MessageId(Stamp.in(row, "at"), row.getLong("id")))
                .list();
        log.error("failed message {} cannot be found by its words", gone, why);
    }

    private List<Unread> take(int most) {
        return jdbc.sql(
                        """
                        with taken as (delete from unread_failure
                                        where ctid = any(array(select ctid from unread_failure limit :size for update skip locked))
                                       returning at, id, anew)
                        select m.at, m.id, t.anew, m.component_id, m.business_key, m.error, m.attributes, m.payload_type,
                               left(m.payload, :longest) as payload
                          from taken t join failed_message m on m.at = t.at and m.id = t.id""")
                .param("size", most)
                .param("longest", SearchWords.LONGEST + PayloadView.MARGIN)
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
                        findable(masking, one))
                .stream()
                .map(SearchWords::of)
                .collect(Collectors.collectingAndThen(Collectors.joining(" \n"), WordIndexing::cut));
    }

    /** Of a payload that was cut its last part is left out: a value that stands across the cut is not seen to be masked. */
    private static String findable(Masking masking, Unread one) {
        var shown = masking.payload(one.type(), one.payload()).text();
        return one.payload().length() < SearchWords.LONGEST + PayloadView.MARGIN
                ? shown
                : shown.substring(0, Math.max(0, shown.length() - PayloadView.MARGIN));
    }

    /** PostgreSQL keeps a mebibyte of words for a row at most, and a character has up to three bytes. */
    private static String cut(String words) {
        return words.length() <= MOST_WORDS ? words : words.substring(0, MOST_WORDS);
    }
}
