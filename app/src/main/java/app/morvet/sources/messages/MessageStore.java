package app.morvet.sources.messages;

import app.morvet.core.messages.FailedMessage;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;
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
     * A failed message with all that is known of it.
     *
     * @param payloadLength of the whole payload, in characters; {@link Whole#payload} may hold only its beginning
     * @param binary        the payload where it is no text, or null
     * @param rule          id of the sorting rule that took it, or null
     * @param dealing       what was done about it, or null
     * @param repeats       how often it failed again after it was sent again
     */
    public record Detail(
            Whole whole,
            String reference,
            List<FailedMessage.Step> steps,
            long payloadLength,
            byte @Nullable [] binary,
            @Nullable Long rule,
            @Nullable Long family,
            boolean open,
            @Nullable Dealing dealing,
            int repeats) {}

    /** What was done about a message. */
    public record Dealing(Instant at, String by, String kind, String reason, String note, @Nullable Long caseId) {}

    /** One more time that a message failed. */
    record Repeat(Instant at, String step, String error) {}

    /** What came with a message; {@code size} in bytes. */
    record Attached(int place, String name, String type, long size) {}

    private final JdbcClient jdbc;
    private final JsonMapper json;

    MessageStore(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    /** The times at which some interfaces failed, each's in order. */
    public Map<Long, List<Instant>> timesOf(Collection<Long> components, Instant from, Instant to) {
        var times = new HashMap<Long, List<Instant>>();
        jdbc.sql(
                        """
                        select component_id, at from failed_message
                         where component_id = any(:components::bigint[]) and at >= :from and at <= :to
                         order by component_id, at""")
                .param("components", components.toArray(Long[]::new))
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query(row -> {
                    times.computeIfAbsent(row.getLong("component_id"), none -> new ArrayList<>())
                            .add(Stamp.in(row, "at"));
                });
        return times;
    }

    public FailedSpan span(MessageScope scope, Instant from, Instant to) {
        return span("at <= :to", scope, from, to);
    }

    /** What failed from an instant on, but for what waits to be told for the first time. */
    FailedSpan told(MessageScope scope, Instant from) {
        return span(
                """
                not exists (select 1 from untold_failure u
                             where u.id = failed_message.id and u.at = failed_message.at and not u.repeat and not u.known)""",
                scope,
                from,
                from);
    }

    private FailedSpan span(String which, MessageScope scope, Instant from, Instant to) {
        return in(
                        jdbc.sql(
                                "select count(*) as failures, min(at) as first, max(at) as last from failed_message where at >= :from and "
                                        + which
                                        + SCOPE),
                        scope,
                        from,
                        to)
                .query((row, number) ->
                        new FailedSpan(row.getLong("failures"), Stamp.orNull(row, "first"), Stamp.orNull(row, "last")))
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

    /** Those of a business key in a span, the newest first. */
    public List<Line> byKey(String businessKey, Instant from, Instant to, int size) {
        return jdbc.sql(
                        """
                        select id, at, component_id, business_key, step, left(error, 2000) as error from failed_message
                         where business_key = :key and at >= :from and at <= :to
                         order by at desc, id desc
                         limit :size""")
                .param("key", businessKey)
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("size", size)
                .query((row, number) -> line(row))
                .list();
    }

    /** The failure family of a message. */
    public Optional<Long> familyOf(MessageId id) {
        return jdbc.sql("select family_id from failed_message where at = :at and id = :id and family_id is not null")
                .param("at", Stamp.of(id.at()))
                .param("id", id.id())
                .query(Long.class)
                .optional();
    }

    /** The latest of some interfaces, or of all where none is named; payloads that are very long are left out. */
    List<Whole> latest(List<Long> components, Instant from, int most) {
        return jdbc.sql(
                        """
                        select id, at, component_id, business_key, step, error, attributes, payload_type,
                               case when length(payload) <= 262144 then payload else '' end as payload
                          from failed_message
                         where at >= :from and (cardinality(:components::bigint[]) = 0 or component_id = any(:components::bigint[]))
                         order by at desc, id desc limit :most""")
                .param("components", components.toArray(Long[]::new))
                .param("from", Stamp.of(from))
                .param("most", most)
                .query((row, number) -> whole(row))
                .list();
    }

    /** Some messages without their payloads, oldest first. */
    List<Line> lines(List<MessageId> messages) {
        return jdbc.sql(
                        """
                        select m.id, m.at, component_id, business_key, step, left(error, 8192) as error
                          from unnest(:ats::timestamptz[], :ids::bigint[]) as c(at, id)
                          join failed_message m on m.at = c.at and m.id = c.id
                         order by m.at, m.id""")
                .param(
                        "ats",
                        messages.stream()
                                .map(one -> java.sql.Timestamp.from(one.at()))
                                .toArray(java.sql.Timestamp[]::new))
                .param("ids", messages.stream().map(MessageId::id).toArray(Long[]::new))
                .query((row, number) -> line(row))
                .list();
    }

    /** The messages of a span, oldest first; at most so many. */
    public List<MessageId> ids(MessageScope scope, Instant from, Instant to, int most) {
        return in(
                        jdbc.sql("select at, id from failed_message where at >= :from and at <= :to" + SCOPE
                                + " order by at, id limit :most"),
                        scope,
                        from,
                        to)
                .param("most", most)
                .query((row, number) -> new MessageId(Stamp.in(row, "at"), row.getLong("id")))
                .list();
    }

    /** @param longest how much of the payload is wanted, in characters */
    Optional<Detail> detail(MessageId id, int longest) {
        return jdbc.sql(
                        """
                        select m.id, m.at, component_id, business_key, step, error, attributes, payload_type,
                               left(payload, :longest) as payload, length(payload) as payload_length, payload_bytes,
                               message_ref, steps, rule_id, family_id, open, repeats, d.at as dealt_at, d.kind, d.reason,
                               d.note, d.case_id, p.name as dealt_by
                          from failed_message m
                          left join dealing d on d.id = m.dealing_id
                          left join person p on p.id = d.person_id
                         where m.at = :at and m.id = :id""")
                .param("longest", longest)
                .param("at", Stamp.of(id.at()))
                .param("id", id.id())
                .query((row, number) -> new Detail(
                        whole(row),
                        row.getString("message_ref"),
                        json.readValue(row.getString("steps"), new TypeReference<List<FailedMessage.Step>>() {}),
                        row.getLong("payload_length"),
                        row.getBytes("payload_bytes"),
                        row.getObject("rule_id", Long.class),
                        row.getObject("family_id", Long.class),
                        row.getBoolean("open"),
                        dealing(row),
                        row.getInt("repeats")))
                .optional();
    }

    private static @Nullable Dealing dealing(ResultSet row) throws SQLException {
        var at = Stamp.orNull(row, "dealt_at");
        if (at == null) return null;
        var by = row.getString("dealt_by");
        return new Dealing(
                at,
                by == null ? "Morvet" : by,
                row.getString("kind"),
                row.getString("reason"),
                row.getString("note"),
                row.getObject("case_id", Long.class));
    }

    List<Repeat> repeats(MessageId id) {
        return jdbc.sql(
                        "select failed_at, step, error from failed_again where at = :at and id = :id order by failed_at")
                .param("at", Stamp.of(id.at()))
                .param("id", id.id())
                .query((row, number) ->
                        new Repeat(Stamp.in(row, "failed_at"), row.getString("step"), row.getString("error")))
                .list();
    }

    List<Attached> attachments(MessageId id) {
        return jdbc.sql(
                        """
                        select place, name, type, length(content) as size from message_attachment
                         where at = :at and id = :id order by place""")
                .param("at", Stamp.of(id.at()))
                .param("id", id.id())
                .query((row, number) -> new Attached(
                        row.getInt("place"), row.getString("name"), row.getString("type"), row.getLong("size")))
                .list();
    }

    Optional<FailedMessage.Attachment> attachment(MessageId id, int place) {
        return jdbc.sql(
                        "select name, type, content from message_attachment where at = :at and id = :id and place = :place")
                .param("at", Stamp.of(id.at()))
                .param("id", id.id())
                .param("place", place)
                .query((row, number) -> new FailedMessage.Attachment(
                        row.getString("name"), row.getString("type"), row.getBytes("content")))
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

    /** Whether a message of a UTC day wants somebody still. */
    boolean anyOpen(LocalDate day) {
        return jdbc.sql("select exists (select 1 from failed_message where at >= :from and at < :to and open)")
                .params(span(day))
                .query(Boolean.class)
                .single();
    }

    /** Drops what stands beside the messages of a UTC day in tables that have no days. */
    @Transactional
    public void dropBeside(LocalDate day) {
        for (var table : List.of("failed_again", "sent_again", "untold_failure", "unread_failure"))
            jdbc.sql("delete from " + table + " where at >= :from and at < :to")
                    .params(span(day))
                    .update();
    }

    private static Map<String, Object> span(LocalDate day) {
        var from = day.atStartOfDay(ZoneOffset.UTC).toInstant();
        return Map.of("from", Stamp.of(from), "to", Stamp.of(from.plus(Duration.ofDays(1))));
    }
}
