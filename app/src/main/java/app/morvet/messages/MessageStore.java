package app.morvet.messages;

import app.morvet.base.Stamp;
import app.morvet.messages.FailuresRecorded.Failure;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
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

    public Span span(MessageScope scope, Instant from, Instant to) {
        return in(
                        jdbc.sql(
                                """
                        select count(*) as failures, min(at) as first, max(at) as last from failed_message
                         where at >= :from and at <= :to"""
                                        + SCOPE),
                        scope,
                        from,
                        to)
                .query((row, number) ->
                        new Span(row.getLong("failures"), Stamp.orNull(row, "first"), Stamp.orNull(row, "last")))
                .single();
    }

    /** How many failed in each stretch of a span. */
    public long[] counts(MessageScope scope, Instant from, Instant to, Duration stretch) {
        var counts = new long
                [(int) Math.max(1, Math.ceilDiv(Duration.between(from, to).toMillis(), stretch.toMillis()))];
        in(
                        jdbc.sql(
                                """
                        select floor(extract(epoch from at - :from::timestamptz) / :seconds)::int as place, count(*) as failures
                          from failed_message
                         where at >= :from and at <= :to"""
                                        + SCOPE + " group by 1"),
                        scope,
                        from,
                        to)
                .param("seconds", stretch.toSeconds())
                .query(row -> {
                    int place = row.getInt("place");
                    if (place >= 0 && place < counts.length) counts[place] = row.getLong("failures");
                });
        return counts;
    }

    private static final String SCOPE =
            """

                           and (:component::bigint is null or component_id = :component::bigint)
                           and (:family::bigint is null or family_id = :family::bigint)
                           and (:rule::bigint is null or rule_id = :rule::bigint)""";

    private static JdbcClient.StatementSpec in(
            JdbcClient.StatementSpec statement, MessageScope scope, Instant from, Instant to) {
        return statement
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("component", scope.component())
                .param("family", scope.family())
                .param("rule", scope.rule());
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
     * @param from   not older than this
     * @param before older than this message; {@link MessageId#NEWEST} for the first page
     */
    public List<Line> page(MessageScope scope, Instant from, Instant to, MessageId before, int size) {
        return in(
                        jdbc.sql(
                                """
                        select id, at, component_id, business_key, step, left(error, 2000) as error from failed_message
                         where at >= :from and at <= :to and (at, id) < (:beforeAt, :beforeId)"""
                                        + SCOPE
                                        + """

                         order by at desc, id desc
                         limit :size"""),
                        scope,
                        from,
                        to)
                .param("beforeAt", Stamp.of(before.at()))
                .param("beforeId", before.id())
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

    /** The failure family of a message. */
    public Optional<Long> familyOf(MessageId id) {
        return jdbc.sql("select family_id from failed_message where at = :at and id = :id and family_id is not null")
                .param("at", Stamp.of(id.at()))
                .param("id", id.id())
                .query(Long.class)
                .optional();
    }

    /** Up to three messages of a span: the first, the middle one, and the last. */
    public List<Whole> samples(MessageScope scope, Instant from, Instant to) {
        return in(
                        jdbc.sql(
                                """
                        with placed as (select id, at, row_number() over (order by at, id) as place, count(*) over () as whole
                                          from failed_message
                                         where at >= :from and at <= :to"""
                                        + SCOPE
                                        + """
                        )
                        select m.* from failed_message m join placed p on p.at = m.at and p.id = m.id
                         where place in (1, (whole + 1) / 2, whole)
                         order by m.at, m.id"""),
                        scope,
                        from,
                        to)
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
