package app.morvet.rules.failures;

import app.morvet.core.sorting.Candidate;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.messages.MessageId;
import app.morvet.sources.messages.OpenDays;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** The SQL by which stored failures are sorted anew, or tried on rules. */
@Repository
class StoredFailures {
    /** A stored failure, ready to be sorted. */
    record Stored(
            MessageId id,
            long component,
            String businessKey,
            @Nullable Long family,
            @Nullable Long rule,
            boolean open,
            Candidate candidate) {}

    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final Estate estate;
    private final OpenDays openDays;

    StoredFailures(JdbcClient jdbc, JsonMapper json, Estate estate, OpenDays openDays) {
        this.openDays = openDays;
        this.jdbc = jdbc;
        this.json = json;
        this.estate = estate;
    }

    private Stored stored(ResultSet row, int number) throws SQLException {
        long component = row.getLong("component_id");
        return new Stored(
                new MessageId(Stamp.in(row, "at"), row.getLong("id")),
                component,
                row.getString("business_key"),
                row.getObject("family_id", Long.class),
                row.getObject("rule_id", Long.class),
                row.getBoolean("open"),
                new Candidate(
                        estate.component(component).key(),
                        row.getString("step"),
                        row.getString("error"),
                        json.readValue(row.getString("attributes"), new TypeReference<Map<String, String>>() {}),
                        row.getString("payload_type"),
                        row.getString("payload")));
    }

    private static final String COLUMNS =
            "id, at, component_id, business_key, family_id, rule_id, open, step, error, attributes, payload_type, "
                    + "case when length(payload) <= " + Candidate.LONGEST_READ + " then payload else '' end as payload";

    /** The latest since an instant. */
    List<Stored> latest(Instant since, int most) {
        return jdbc.sql("select " + COLUMNS
                        + " from failed_message where at >= :since order by at desc, id desc limit :most")
                .param("since", Stamp.of(since))
                .param("most", most)
                .query(this::stored)
                .list();
    }

    /** Some of a family, the latest first. */
    List<Stored> ofFamily(long family, Instant since, int most) {
        return jdbc.sql(
                        "select " + COLUMNS
                                + " from failed_message where family_id = :family and at >= :since order by at desc, id desc limit :most")
                .param("family", family)
                .param("since", Stamp.of(since))
                .param("most", most)
                .query(this::stored)
                .list();
    }

    /** A few of each other family. */
    List<Stored> ofOthers(long family, Instant since, int ofEach) {
        return jdbc.sql(
                        "select * from (select " + COLUMNS
                                + """
                        , row_number() over (partition by family_id order by at desc) as place
                          from failed_message where family_id <> :family and at >= :since) as ranked
                         where place <= :each limit 2000""")
                .param("family", family)
                .param("since", Stamp.of(since))
                .param("each", ofEach)
                .query(this::stored)
                .list();
    }

    /** Open ones after a place, oldest first. */
    List<Stored> open(MessageId after, int most) {
        return jdbc.sql(
                        "select " + COLUMNS
                                + " from failed_message where open and at >= :at and (at, id) > (:at, :id) order by at, id limit :most")
                .param("at", Stamp.of(after.at()))
                .param("id", after.id())
                .param("most", most)
                .query(this::stored)
                .list();
    }

    /** Gives messages to other rules; those that alert now are put down to be told. */
    void sorted(List<MessageId> ids, List<Long> rules, List<Boolean> open) {
        openDays.open(IntStream.range(0, ids.size())
                .filter(open::get)
                .mapToObj(i -> ids.get(i).at())
                .toList());
        jdbc.sql(
                        """
                        with told as (select * from unnest(:times::timestamptz[], :ids::bigint[], :rules::bigint[], :open::boolean[])
                                          as t(at, id, rule_id, open)),
                        changed as (update failed_message m set rule_id = t.rule_id, open = t.open from told t
                                     where m.at = t.at and m.id = t.id returning m.id, m.at, m.open)
                        insert into untold_failure (id, at, known) select id, at, true from changed where open""")
                .param(
                        "times",
                        ids.stream().map(one -> Timestamp.from(one.at())).toArray(Timestamp[]::new))
                .param("ids", ids.stream().map(MessageId::id).toArray(Long[]::new))
                .param("rules", rules.toArray(Long[]::new))
                .param("open", open.toArray(Boolean[]::new))
                .update();
    }

    /** How many each rule took since an instant. */
    Map<Long, Long> taken(Instant since) {
        var counts = new java.util.HashMap<Long, Long>();
        jdbc.sql(
                        "select rule_id, count(*) as failures from failed_message where at >= :since and rule_id is not null group by 1")
                .param("since", Stamp.of(since))
                .query(row -> {
                    counts.put(row.getLong("rule_id"), row.getLong("failures"));
                });
        return counts;
    }

    static final Duration LOOKED_BACK = Duration.ofDays(30);
}
