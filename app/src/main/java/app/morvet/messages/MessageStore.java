package app.morvet.messages;

import app.morvet.base.Stamp;
import app.morvet.intake.MessagesArrived;
import app.morvet.messages.FailuresRecorded.Failure;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of messages. */
@Repository
public class MessageStore {

    /** A failed message in a list: without its payload. */
    public record Line(MessageId id, Instant at, long component, String businessKey, String step, String error) {
        public String firstLine() {
            return error.lines().filter(line -> !line.isBlank()).findFirst().orElse("");
        }
    }

    /** A failed message, whole. */
    public record Whole(Line line, Map<String, String> attributes, String payloadType, String payload) {}

    /**
     * What failed on an interface in a span.
     *
     * @param first null when nothing failed
     */
    public record Span(long failures, @Nullable Instant first, @Nullable Instant last) {}

    /** @param failed of these, how many failed; {@code delivered} does not count them */
    public record Today(long delivered, long failed, @Nullable Instant lastFailed) {}

    private final JdbcClient jdbc;
    private final JsonMapper json;

    MessageStore(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    void addCarried(long feed, List<MessagesArrived.Carried> carried) {
        jdbc.sql(
                        """
                        insert into carried_count (from_at, to_at, component_id, feed_id, event_id, delivered)
                        select c.from_at, c.to_at, c.component_id, :feed, c.event_id, c.delivered
                          from unnest(:froms::timestamptz[], :tos::timestamptz[], :components::bigint[], :ids::text[], :counts::int[])
                            as c(from_at, to_at, component_id, event_id, delivered)
                            on conflict do nothing""")
                .param("feed", feed)
                .param(
                        "froms",
                        carried.stream().map(one -> Timestamp.from(one.from())).toArray(Timestamp[]::new))
                .param(
                        "tos",
                        carried.stream().map(one -> Timestamp.from(one.to())).toArray(Timestamp[]::new))
                .param(
                        "components",
                        carried.stream().map(MessagesArrived.Carried::component).toArray(Long[]::new))
                .param(
                        "ids",
                        carried.stream().map(MessagesArrived.Carried::eventId).toArray(String[]::new))
                .param(
                        "counts",
                        carried.stream().map(MessagesArrived.Carried::delivered).toArray(Integer[]::new))
                .update();
    }

    /** Stores failed messages and tells which of them are new. */
    List<Failure> addFailed(long feed, List<MessagesArrived.Failed> failed, Long[] families) {
        return jdbc.sql(
                        """
                        insert into failed_message (at, component_id, feed_id, event_id, business_key, step, error,
                                                    attributes, payload_type, payload, family_id)
                        select m.at, m.component_id, :feed, m.event_id, m.business_key, m.step, m.error,
                               m.attributes::jsonb, m.payload_type, m.payload, m.family_id
                          from unnest(:times::timestamptz[], :components::bigint[], :ids::text[], :keys::text[],
                                      :steps::text[], :errors::text[], :attributes::text[], :types::text[], :payloads::text[],
                                      :families::bigint[])
                            as m(at, component_id, event_id, business_key, step, error, attributes, payload_type, payload, family_id)
                            on conflict do nothing
                     returning component_id, at""")
                .param("feed", feed)
                .param(
                        "times",
                        failed.stream()
                                .map(one -> Timestamp.from(one.message().at()))
                                .toArray(Timestamp[]::new))
                .param(
                        "components",
                        failed.stream().map(MessagesArrived.Failed::component).toArray(Long[]::new))
                .param("ids", texts(failed, MessagesArrived.Failed::eventId))
                .param("keys", texts(failed, one -> one.message().businessKey()))
                .param("steps", texts(failed, one -> one.message().step()))
                .param("errors", texts(failed, one -> one.message().error()))
                .param(
                        "attributes",
                        texts(
                                failed,
                                one -> json.writeValueAsString(one.message().attributes())))
                .param("types", texts(failed, one -> one.message().payloadType()))
                .param("payloads", texts(failed, one -> one.message().payload()))
                .param("families", families)
                .query((row, number) -> new Failure(row.getLong("component_id"), Stamp.in(row, "at")))
                .list();
    }

    private static String[] texts(
            List<MessagesArrived.Failed> failed, java.util.function.Function<MessagesArrived.Failed, String> part) {
        return failed.stream().map(part).toArray(String[]::new);
    }

    /** Failures of all interfaces since an instant, in order of time, for warming the guards' rings. */
    public List<Failure> failuresSince(Instant since) {
        return jdbc.sql("select component_id, at from failed_message where at >= :since order by at")
                .param("since", Stamp.of(since))
                .query((row, number) -> new Failure(row.getLong("component_id"), Stamp.in(row, "at")))
                .list();
    }

    /** The times at which an interface failed, in order. */
    public List<Instant> timesOf(long component, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select at from failed_message
                         where component_id = :component and at >= :from and at <= :to
                         order by at""")
                .param("component", component)
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> Stamp.in(row, "at"))
                .list();
    }

    public Span span(long component, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select count(*) as failures, min(at) as first, max(at) as last from failed_message
                         where component_id = :component and at >= :from and at <= :to""")
                .param("component", component)
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) ->
                        new Span(row.getLong("failures"), Stamp.orNull(row, "first"), Stamp.orNull(row, "last")))
                .single();
    }

    /** By interface, since an instant. */
    Map<Long, Today> today(Instant midnight) {
        var days = new HashMap<Long, Today>();
        jdbc.sql(
                        """
                        with delivered as (select component_id, sum(delivered) as delivered
                                             from carried_count where from_at >= :midnight group by component_id),
                             failed as (select component_id, count(*) as failed, max(at) as last_failed
                                          from failed_message where at >= :midnight group by component_id)
                        select component_id as id, coalesce(delivered, 0) as delivered, coalesce(failed, 0) as failed, last_failed
                          from delivered full join failed using (component_id)""")
                .param("midnight", Stamp.of(midnight))
                .query((row, number) -> days.put(
                        row.getLong("id"),
                        new Today(row.getLong("delivered"), row.getLong("failed"), Stamp.orNull(row, "last_failed"))))
                .list();
        return days;
    }

    /**
     * Failed messages, the newest first.
     *
     * @param component of one interface, or null for all
     * @param from      not older than this
     * @param before    older than this message; {@link MessageId#NEWEST} for the first page
     */
    public List<Line> page(@Nullable Long component, Instant from, Instant to, MessageId before, int size) {
        return jdbc.sql(
                        """
                        select id, at, component_id, business_key, step, left(error, 2000) as error from failed_message
                         where at >= :from and at <= :to and (at, id) < (:beforeAt, :beforeId)
                           and (:component::bigint is null or component_id = :component::bigint)
                         order by at desc, id desc
                         limit :size""")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("beforeAt", Stamp.of(before.at()))
                .param("beforeId", before.id())
                .param("component", component)
                .param("size", size)
                .query((row, number) -> line(row))
                .list();
    }

    public List<Line> byKey(String businessKey, int size) {
        return jdbc.sql(
                        """
                        select id, at, component_id, business_key, step, left(error, 2000) as error from failed_message
                         where business_key = :key
                         order by at desc, id desc
                         limit :size""")
                .param("key", businessKey)
                .param("size", size)
                .query((row, number) -> line(row))
                .list();
    }

    public Optional<Whole> message(MessageId id) {
        return jdbc.sql(
                        """
                        select id, at, component_id, business_key, step, error, attributes, payload_type, payload
                          from failed_message
                         where at = :at and id = :id""")
                .param("at", Stamp.of(id.at()))
                .param("id", id.id())
                .query((row, number) -> whole(row))
                .optional();
    }

    /** Up to three messages of a span: the first, the middle one, and the last. */
    public List<Whole> samples(long component, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select id, at, component_id, business_key, step, error, attributes, payload_type, payload
                          from (select m.*, row_number() over (order by at, id) as place, count(*) over () as whole
                                  from failed_message m
                                 where component_id = :component and at >= :from and at <= :to) as placed
                         where place in (1, (whole + 1) / 2, whole)
                         order by at, id""")
                .param("component", component)
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> whole(row))
                .list();
    }

    private Whole whole(ResultSet row) throws SQLException {
        return new Whole(
                line(row),
                json.readValue(row.getString("attributes"), new TypeReference<Map<String, String>>() {}),
                row.getString("payload_type"),
                row.getString("payload"));
    }

    static Line line(ResultSet row) throws SQLException {
        var at = Stamp.in(row, "at");
        return new Line(
                new MessageId(at, row.getLong("id")),
                at,
                row.getLong("component_id"),
                row.getString("business_key"),
                row.getString("step"),
                row.getString("error"));
    }
}
