package app.morvet.work.mending;

import app.morvet.ground.base.Stamp;
import app.morvet.sources.messages.MessageId;
import app.morvet.sources.messages.MessageScope;
import app.morvet.sources.messages.OpenDays;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL by which failed messages are dealt with. */
@Repository
class DealingStore {
    /** How many of a family on an interface were dealt with. */
    record Dealt(long component, @Nullable Long family, long messages) {}

    /** What was done. */
    record Done(long id, Instant at, @Nullable Long person, @Nullable Long caseId, long messages, boolean undone) {}

    /**
     * What was picked, by interface, family and rule.
     *
     * @param open     those that nobody has dealt with
     * @param sendable those that may be sent again, {@code openSendable} of which are open
     */
    record Group(
            long component,
            @Nullable Long family,
            @Nullable Long rule,
            long messages,
            long open,
            long sendable,
            long openSendable,
            long keys,
            Instant first,
            Instant last) {}

    private final JdbcClient jdbc;

    private final MiddlewareSetup middleware;
    private final OpenDays openDays;

    DealingStore(JdbcClient jdbc, MiddlewareSetup middleware, OpenDays openDays) {
        this.openDays = openDays;
        this.jdbc = jdbc;
        this.middleware = middleware;
    }

    private static final String CHOSEN =
            "(select * from unnest(:ats::timestamptz[], :ids::bigint[]) as c(at, id)) as c";

    static Timestamp[] ats(List<MessageId> messages) {
        return messages.stream().map(one -> Timestamp.from(one.at())).toArray(Timestamp[]::new);
    }

    static Long[] ids(List<MessageId> messages) {
        return messages.stream().map(MessageId::id).toArray(Long[]::new);
    }

    /** What may be sent again: its rule says so, its middleware is connected, and it is not on its way already. */
    static final String SENDABLE =
            """
             m.message_ref <> '' and r.send_again
             and m.feed_id = any(:connected::bigint[])
             and (m.open or m.dealing_id is null
                  or not exists (select 1 from dealing d where d.id = m.dealing_id and d.kind = 'SENT_AGAIN'))
             and not exists (select 1 from sending_item i join sending_run s on s.id = i.run_id
                              where i.message_at = m.at and i.message_id = m.id and i.state in ('WAITING', 'SENT')
                                and s.state in ('RUNNING', 'PAUSED'))
            """;

    List<Group> groups(List<MessageId> messages) {
        return jdbc.sql(
                        "select m.component_id, m.family_id, m.rule_id, count(*) as messages, "
                                + "count(*) filter (where m.open) as open, count(*) filter (where " + SENDABLE
                                + ") as sendable, count(*) filter (where m.open and " + SENDABLE
                                + ") as open_sendable, count(distinct nullif(m.business_key, '')) as keys, min(m.at) as first, max(m.at) as last from "
                                + CHOSEN
                                + """
                         join failed_message m on m.at = c.at and m.id = c.id
                         left join sorting_rule r on r.id = m.rule_id
                        group by 1, 2, 3 order by messages desc""")
                .param("ats", ats(messages))
                .param("connected", middleware.feeds())
                .param("ids", ids(messages))
                .query((row, number) -> new Group(
                        row.getLong("component_id"),
                        row.getObject("family_id", Long.class),
                        row.getObject("rule_id", Long.class),
                        row.getLong("messages"),
                        row.getLong("open"),
                        row.getLong("sendable"),
                        row.getLong("open_sendable"),
                        row.getLong("keys"),
                        Stamp.in(row, "first"),
                        Stamp.in(row, "last")))
                .list();
    }

    long add(Instant at, @Nullable Long person, String kind, String reason, String note, @Nullable Long caseId) {
        return jdbc.sql(
                        """
                        insert into dealing (at, person_id, kind, reason, note, messages, case_id)
                        values (:at, :person, :kind, :reason, :note, 0, :case) returning id""")
                .param("at", Stamp.of(at))
                .param("person", person)
                .param("kind", kind)
                .param("reason", reason)
                .param("note", note)
                .param("case", caseId)
                .query(Long.class)
                .single();
    }

    List<Dealt> deal(long dealing, List<MessageId> messages) {
        return dealt(
                dealing,
                jdbc.sql("with changed as (update failed_message m set open = false, dealing_id = :dealing from "
                                + CHOSEN
                                + " where m.at = c.at and m.id = c.id and m.open returning m.component_id, m.family_id)"
                                + " select component_id, family_id, count(*) as messages from changed group by 1, 2")
                        .param("dealing", dealing)
                        .param("ats", ats(messages))
                        .param("ids", ids(messages)));
    }

    List<Dealt> deal(long dealing, MessageScope scope, Instant from, Instant to) {
        return dealt(
                dealing,
                jdbc.sql(
                                """
                                with changed as (
                                    update failed_message set open = false, dealing_id = :dealing
                                     where open and at >= :from and at <= :to
                                       and (:component::bigint is null or component_id = :component::bigint)
                                       and (:family::bigint is null or family_id = :family::bigint)
                                       and (:rule::bigint is null or rule_id = :rule::bigint)
                                    returning component_id, family_id)
                                select component_id, family_id, count(*) as messages from changed group by 1, 2""")
                        .param("dealing", dealing)
                        .param("from", Stamp.of(from))
                        .param("to", Stamp.of(to))
                        .param("component", scope.component())
                        .param("family", scope.family())
                        .param("rule", scope.rule()));
    }

    private List<Dealt> dealt(long dealing, JdbcClient.StatementSpec statement) {
        var dealt = statement
                .query((row, number) -> new Dealt(
                        row.getLong("component_id"), row.getObject("family_id", Long.class), row.getLong("messages")))
                .list();
        jdbc.sql("update dealing set messages = messages + :messages where id = :id")
                .param("messages", dealt.stream().mapToLong(Dealt::messages).sum())
                .param("id", dealing)
                .update();
        return dealt;
    }

    void forget(long dealing) {
        jdbc.sql("delete from dealing where id = :id").param("id", dealing).update();
    }

    Optional<Done> lock(long dealing) {
        return jdbc.sql("select * from dealing where id = :id for no key update")
                .param("id", dealing)
                .query((row, number) -> new Done(
                        row.getLong("id"),
                        Stamp.in(row, "at"),
                        row.getObject("person_id", Long.class),
                        row.getObject("case_id", Long.class),
                        row.getLong("messages"),
                        row.getObject("undone_at") != null))
                .optional();
    }

    List<Long> ofSettling(long caseId) {
        return jdbc.sql("select id from dealing where case_id = :case and kind = 'SETTLED' and undone_at is null")
                .param("case", caseId)
                .query(Long.class)
                .list();
    }

    /** What was dealt with is open again; it is told again where its alert has cleared meanwhile. */
    long undo(long dealing, Instant at) {
        jdbc.sql("update dealing set undone_at = :at where id = :id")
                .param("at", Stamp.of(at))
                .param("id", dealing)
                .update();
        var opened = jdbc.sql(
                        """
                        with again as (update failed_message m set open = true, dealing_id = null from sorting_rule r
                                        where m.dealing_id = :dealing and r.id = m.rule_id and r.alerts
                                       returning m.at, m.id, m.rule_id, m.component_id, m.family_id),
                        told as (insert into untold_failure (id, at, known)
                                 select id, at, true from again a
                                  where not exists (select 1 from failure_fold f
                                                     where f.rule_id = a.rule_id
                                                       and (f.fold_key = 'r' or f.component_id = a.component_id
                                                                            and f.family_id = a.family_id)))
                        select date_trunc('day', at) as day, count(*) as messages from again group by 1""")
                .param("dealing", dealing)
                .query((row, number) -> Map.entry(Stamp.in(row, "day"), row.getLong("messages")))
                .list();
        openDays.open(opened.stream().map(Map.Entry::getKey).toList());
        return opened.stream().mapToLong(Map.Entry::getValue).sum();
    }
}
