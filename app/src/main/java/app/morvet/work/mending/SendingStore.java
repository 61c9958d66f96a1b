package app.morvet.work.mending;

import app.morvet.ground.base.Stamp;
import app.morvet.sources.messages.MessageId;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of sending again. */
@Repository
class SendingStore {
    enum RunState {
        RUNNING("on its way"),
        PAUSED("paused"),
        STOPPED("stopped"),
        DONE("done");

        private final String words;

        RunState(String words) {
            this.words = words;
        }

        String words() {
            return words;
        }
    }

    enum ItemState {
        WAITING("waiting"),
        SENT("sent, no answer yet"),
        DELIVERED("delivered"),
        FAILED("failed again"),
        HELD_BACK("held back"),
        REFUSED("refused"),
        NOT_SENT("not sent");

        private final String words;

        ItemState(String words) {
            this.words = words;
        }

        String words() {
            return words;
        }
    }

    record Run(
            long id,
            Instant madeAt,
            long person,
            String about,
            int perMinute,
            RunState state,
            @Nullable Instant endedAt,
            String trouble,
            int tries,
            long dealing) {}

    record Item(
            long run,
            int place,
            MessageId message,
            long component,
            long feed,
            String reference,
            String businessKey,
            ItemState state,
            String words,
            @Nullable Instant triedAt) {}

    /** A message that may be sent again. */
    record Sendable(MessageId message, long component, long feed, String reference, String businessKey) {}

    /** How the messages of a run stand. */
    record Counts(long waiting, long delivered, long failed, long heldBack, long refused, long notSent) {
        long all() {
            return waiting + delivered + failed + heldBack + refused + notSent;
        }
    }

    private final JdbcClient jdbc;
    private final MiddlewareSetup middleware;

    SendingStore(JdbcClient jdbc, MiddlewareSetup middleware) {
        this.jdbc = jdbc;
        this.middleware = middleware;
    }

    private static Run run(ResultSet row, int number) throws SQLException {
        return new Run(
                row.getLong("id"),
                Stamp.in(row, "made_at"),
                row.getLong("person_id"),
                row.getString("about"),
                row.getInt("per_minute"),
                RunState.valueOf(row.getString("state")),
                Stamp.orNull(row, "ended_at"),
                row.getString("trouble"),
                row.getInt("tries"),
                row.getLong("dealing_id"));
    }

    private static Item item(ResultSet row, int number) throws SQLException {
        return new Item(
                row.getLong("run_id"),
                row.getInt("place"),
                new MessageId(Stamp.in(row, "message_at"), row.getLong("message_id")),
                row.getLong("component_id"),
                row.getLong("feed_id"),
                row.getString("message_ref"),
                row.getString("business_key"),
                ItemState.valueOf(row.getString("state")),
                row.getString("words"),
                Stamp.orNull(row, "tried_at"));
    }

    /**
     * Those of some messages that may be sent again; locked, so that two people do not send the same.
     *
     * @param dealtToo whether those as well that are dealt with or only counted
     */
    List<Sendable> sendable(List<MessageId> messages, boolean dealtToo) {
        return jdbc.sql(
                        """
                        select m.at, m.id, m.component_id, m.feed_id, m.message_ref, m.business_key
                          from (select * from unnest(:ats::timestamptz[], :ids::bigint[]) as c(at, id)) as c
                          join failed_message m on m.at = c.at and m.id = c.id
                          join sorting_rule r on r.id = m.rule_id
                         where
                        """
                                + DealingStore.SENDABLE + " and (m.open or :dealtToo) for update of m")
                .param("dealtToo", dealtToo)
                .param("ats", DealingStore.ats(messages))
                .param("ids", DealingStore.ids(messages))
                .param("connected", middleware.feeds())
                .query((row, number) -> new Sendable(
                        new MessageId(Stamp.in(row, "at"), row.getLong("id")),
                        row.getLong("component_id"),
                        row.getLong("feed_id"),
                        row.getString("message_ref"),
                        row.getString("business_key")))
                .list();
    }

    long add(Instant at, long person, String about, int perMinute, long dealing, List<Sendable> inOrder) {
        long id = jdbc.sql(
                        """
                        insert into sending_run (made_at, person_id, about, per_minute, state, dealing_id)
                        values (:at, :person, :about, :rate, 'RUNNING', :dealing) returning id""")
                .param("at", Stamp.of(at))
                .param("person", person)
                .param("about", about)
                .param("rate", perMinute)
                .param("dealing", dealing)
                .query(Long.class)
                .single();
        jdbc.sql(
                        """
                        insert into sending_item (run_id, place, message_at, message_id, component_id, feed_id, message_ref,
                                                  business_key, state)
                        select :run, place, at, id, component, feed, ref, key, 'WAITING'
                          from unnest(:ats::timestamptz[], :ids::bigint[], :components::bigint[], :feeds::bigint[],
                                      :refs::text[], :keys::text[])
                               with ordinality as t(at, id, component, feed, ref, key, place)""")
                .param("run", id)
                .param(
                        "ats",
                        DealingStore.ats(inOrder.stream().map(Sendable::message).toList()))
                .param(
                        "ids",
                        DealingStore.ids(inOrder.stream().map(Sendable::message).toList()))
                .param("components", inOrder.stream().map(Sendable::component).toArray(Long[]::new))
                .param("feeds", inOrder.stream().map(Sendable::feed).toArray(Long[]::new))
                .param("refs", inOrder.stream().map(Sendable::reference).toArray(String[]::new))
                .param("keys", inOrder.stream().map(Sendable::businessKey).toArray(String[]::new))
                .update();
        return id;
    }

    Optional<Run> byId(long id) {
        return jdbc.sql("select * from sending_run where id = :id")
                .param("id", id)
                .query(SendingStore::run)
                .optional();
    }

    Run lock(long id) {
        return jdbc.sql("select * from sending_run where id = :id for no key update")
                .param("id", id)
                .query(SendingStore::run)
                .single();
    }

    List<Run> latest(int size) {
        return jdbc.sql("select * from sending_run order by id desc limit :size")
                .param("size", size)
                .query(SendingStore::run)
                .list();
    }

    void state(long id, RunState state, @Nullable Instant ended) {
        jdbc.sql("update sending_run set state = :state, ended_at = :ended, tries = 0 where id = :id")
                .param("state", state.name())
                .param("ended", Stamp.of(ended))
                .param("id", id)
                .update();
    }

    /** The middleware did not answer, or does again: {@code trouble} is empty then. */
    void trouble(long id, String trouble, int tries) {
        jdbc.sql("update sending_run set trouble = :trouble, tries = :tries where id = :id")
                .param("trouble", trouble)
                .param("tries", tries)
                .param("id", id)
                .update();
    }

    /** The next to be sent: one that was sent but not answered when a node died, or the first that waits. */
    Optional<Item> next(long run) {
        return jdbc.sql(
                        """
                        select * from sending_item where run_id = :run and state in ('SENT', 'WAITING')
                         order by state, place limit 1""")
                .param("run", run)
                .query(SendingStore::item)
                .optional();
    }

    /** Business keys of which one has not arrived in this run. */
    List<String> notArrived(long run) {
        return jdbc.sql(
                        """
                        select distinct business_key from sending_item
                         where run_id = :run and state in ('FAILED', 'REFUSED', 'HELD_BACK')""")
                .param("run", run)
                .query(String.class)
                .list();
    }

    /** It is on its way: should it fail again, it is known. */
    void sent(Item item, Instant at) {
        jdbc.sql(
                        """
                        insert into sent_again (feed_id, message_ref, at, id) values (:feed, :ref, :at, :id)
                            on conflict (feed_id, message_ref) do update set at = excluded.at, id = excluded.id""")
                .param("feed", item.feed())
                .param("ref", item.reference())
                .param("at", Stamp.of(item.message().at()))
                .param("id", item.message().id())
                .update();
        outcome(item, ItemState.SENT, "", at);
    }

    void outcome(Item item, ItemState state, String words, @Nullable Instant at) {
        jdbc.sql(
                        """
                        update sending_item set state = :state, words = :words, tried_at = coalesce(:at, tried_at)
                         where run_id = :run and place = :place""")
                .param("state", state.name())
                .param("words", words)
                .param("at", Stamp.of(at))
                .param("run", item.run())
                .param("place", item.place())
                .update();
    }

    /** It was delivered, so it wants nobody any more. */
    void delivered(MessageId message, long dealing) {
        jdbc.sql("update failed_message set open = false, dealing_id = :dealing where at = :at and id = :id")
                .param("dealing", dealing)
                .param("at", Stamp.of(message.at()))
                .param("id", message.id())
                .update();
        jdbc.sql("update dealing set messages = messages + 1 where id = :dealing")
                .param("dealing", dealing)
                .update();
    }

    void notSent(long run) {
        jdbc.sql("update sending_item set state = 'NOT_SENT' where run_id = :run and state = 'WAITING'")
                .param("run", run)
                .update();
    }

    /** How the messages of some runs stand, by run. */
    Map<Long, Counts> counts(List<Long> runs) {
        var counts = new HashMap<Long, Counts>();
        jdbc.sql(
                        """
                        select run_id, count(*) filter (where state in ('WAITING', 'SENT')) as waiting,
                               count(*) filter (where state = 'DELIVERED') as delivered,
                               count(*) filter (where state = 'FAILED') as failed,
                               count(*) filter (where state = 'HELD_BACK') as held_back,
                               count(*) filter (where state = 'REFUSED') as refused,
                               count(*) filter (where state = 'NOT_SENT') as not_sent
                          from sending_item where run_id = any(:runs::bigint[]) group by run_id""")
                .param("runs", runs.toArray(Long[]::new))
                .query(row -> {
                    counts.put(
                            row.getLong("run_id"),
                            new Counts(
                                    row.getLong("waiting"),
                                    row.getLong("delivered"),
                                    row.getLong("failed"),
                                    row.getLong("held_back"),
                                    row.getLong("refused"),
                                    row.getLong("not_sent")));
                });
        return counts;
    }

    /** What came of it, trouble first, then in the order of sending. */
    List<Item> items(long run, int after, int size) {
        return jdbc.sql(
                        """
                        select * from (select *, row_number() over (order by array_position(
                                           array['FAILED', 'REFUSED', 'HELD_BACK', 'SENT', 'DELIVERED', 'WAITING', 'NOT_SENT'],
                                           state), place) as shown
                                         from sending_item where run_id = :run) as ranked
                         where shown > :after order by shown limit :size""")
                .param("run", run)
                .param("after", after)
                .param("size", size)
                .query(SendingStore::item)
                .list();
    }
}
