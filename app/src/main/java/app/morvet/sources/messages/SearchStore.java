package app.morvet.sources.messages;

import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.namedparam.NamedParameterJdbcTemplate;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/**
 * The SQL of searching. What is found is given newest first, so a search goes back in windows that grow: whoever looks for
 * something frequent has the first page from the last hours, and only what is rare is looked for in all of the span.
 */
@Repository
public class SearchStore {
    /** A failed message that was found. */
    public record Found(MessageStore.Line line, @Nullable Long rule, boolean open, boolean dealt) {}

    private static final Duration FIRST_WINDOW = Duration.ofHours(6);
    private static final int GROWS = 4;
    private static final int FETCHED = 500;
    private static final int LOOKED_AT_SINGLY = 1000;

    private final NamedParameterJdbcTemplate jdbc;
    private final NamedParameterJdbcTemplate streaming;

    SearchStore(JdbcTemplate template) {
        this.jdbc = new NamedParameterJdbcTemplate(template);
        var rows = new JdbcTemplate(java.util.Objects.requireNonNull(template.getDataSource()));
        rows.setFetchSize(FETCHED);
        this.streaming = new NamedParameterJdbcTemplate(rows);
    }

    /** The first messages of a query that are older than one, at most so many. */
    public List<Found> page(MessageQuery query, MessageId before, int size) {
        if (!query.asked().isEmpty()) {
            var latest = amongLatest(query, before, size);
            if (latest.size() == size) return latest;
        }
        var found = new ArrayList<Found>();
        var end = before.at().isBefore(query.to()) ? before.at().plusNanos(1000) : query.to();
        for (var window = FIRST_WINDOW; found.size() < size && end.isAfter(query.from()); ) {
            var start = end.minus(window).isBefore(query.from()) ? query.from() : end.minus(window);
            var part = query.over(start, end);
            found.addAll(jdbc.query(
                    select(part, "and (m.at, m.id) < (:beforeAt, :beforeId)")
                            + " order by m.at desc, m.id desc limit :size",
                    with(
                            part,
                            Map.of(
                                    "beforeAt",
                                    Stamp.of(before.at()),
                                    "beforeId",
                                    before.id(),
                                    "size",
                                    size - found.size())),
                    SearchStore::found));
            end = start;
            window = window.multipliedBy(GROWS);
        }
        return found;
    }

    /**
     * Those of the latest messages that have the words, looked at one by one: a word that is in many of them is found
     * without asking the index for all of these.
     */
    private List<Found> amongLatest(MessageQuery query, MessageId before, int size) {
        return jdbc.query(
                "select m.* from (" + select(query.withoutWords(), "and (m.at, m.id) < (:beforeAt, :beforeId)")
                        + """

                         order by m.at desc, m.id desc limit :latest) as m
                          cross join lateral (select 1 from message_words w
                                               where w.at = m.at and w.id = m.id
                                                 and w.words @@ websearch_to_tsquery('simple', :words) offset 0) as has
                         order by m.at desc, m.id desc limit :size""",
                with(
                        query,
                        Map.of(
                                "beforeAt",
                                Stamp.of(before.at()),
                                "beforeId",
                                before.id(),
                                "latest",
                                LOOKED_AT_SINGLY,
                                "size",
                                size)),
                SearchStore::found);
    }

    /** All of a query, the newest first, one by one. */
    @Transactional(readOnly = true)
    public void each(MessageQuery query, int most, Consumer<Found> consumer) {
        streaming.query(
                select(query, "") + " order by m.at desc, m.id desc limit :size",
                with(query, Map.of("size", most)),
                (ResultSet row) -> consumer.accept(found(row, 0)));
    }

    /** Only the ids of a query, the newest first. */
    public List<MessageId> ids(MessageQuery query, int most) {
        return jdbc.query(
                "select at, id from (" + select(query, "") + ") as found order by at desc, id desc limit :size",
                with(query, Map.of("size", most)),
                (row, number) -> new MessageId(Stamp.in(row, "at"), row.getLong("id")));
    }

    /** How many there are, at most {@code most}. */
    public long count(MessageQuery query, int most) {
        var count = jdbc.queryForObject(
                "select count(*) from (" + select(query, "") + " limit :size) as found",
                with(query, Map.of("size", most)),
                Long.class);
        return count == null ? 0 : count;
    }

    /** How many are stored and cannot be found by their words yet, at most {@code most}. */
    long notFindableYet(int most) {
        var count = jdbc.queryForObject(
                "select count(*) from (select 1 from unread_failure limit :most) as unread",
                Map.of("most", most),
                Long.class);
        return count == null ? 0 : count;
    }

    /** One that was found, and the interface on which it failed. */
    record Hit(long component, MessageId id) {}

    /** Those of some messages that a query finds. */
    List<Hit> among(MessageQuery query, List<MessageId> messages) {
        var values = new HashMap<String, Object>();
        values.put(
                "ats",
                messages.stream().map(one -> java.sql.Timestamp.from(one.at())).toArray(java.sql.Timestamp[]::new));
        values.put("ids", messages.stream().map(MessageId::id).toArray(Long[]::new));
        return jdbc.query(
                select(query, "and (m.at, m.id) in (select * from unnest(:ats::timestamptz[], :ids::bigint[]))"),
                with(query, values),
                (row, number) ->
                        new Hit(row.getLong("component_id"), new MessageId(Stamp.in(row, "at"), row.getLong("id"))));
    }

    private static String select(MessageQuery query, String more) {
        var sql = new StringBuilder(
                """
                select m.id, m.at, m.component_id, m.business_key, m.step, left(m.error, 2000) as error, m.rule_id, m.open,
                       m.dealing_id
                  from failed_message m
                """);
        if (!query.asked().isEmpty())
            sql.append(
                    """
                      join message_words w on w.at = m.at and w.id = m.id and w.at >= :from and w.at < :to
                                          and w.words @@ websearch_to_tsquery('simple', :words)
                    """);
        sql.append(" where m.at >= :from and m.at < :to ").append(more);
        if (query.component() != null) sql.append(" and m.component_id = :component");
        if (query.family() != null) sql.append(" and m.family_id = :family");
        if (query.rule() != null) sql.append(" and m.rule_id = :rule");
        if (!query.key().isEmpty()) sql.append(" and m.business_key = :key");
        sql.append(
                switch (query.state()) {
                    case ANY -> "";
                    case OPEN -> " and m.open";
                    case DEALT -> " and not m.open and m.dealing_id is not null";
                    case COUNTED -> " and not m.open and m.dealing_id is null";
                });
        return sql.toString();
    }

    private static Map<String, Object> with(MessageQuery query, Map<String, Object> more) {
        var values = new HashMap<>(more);
        values.put("from", Stamp.of(query.from()));
        values.put("to", Stamp.of(query.to()));
        values.put("words", query.asked());
        values.put("key", query.key());
        if (query.component() != null) values.put("component", query.component());
        if (query.family() != null) values.put("family", query.family());
        if (query.rule() != null) values.put("rule", query.rule());
        return values;
    }

    private static Found found(ResultSet row, int number) throws SQLException {
        return new Found(
                MessageStore.line(row),
                row.getObject("rule_id", Long.class),
                row.getBoolean("open"),
                row.getObject("dealing_id") != null);
    }
}
