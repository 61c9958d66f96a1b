package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.core.alert.About;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Topic;
import app.morvet.core.cases.Home;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of cases. */
@Repository
class CaseStore {
    /**
     * One line of a case's log.
     *
     * @param person null when Morvet itself wrote it
     * @param before how the case was, while the entry can be undone; null otherwise
     */
    record Entry(
            long id,
            long caseId,
            Instant at,
            @Nullable Long person,
            String kind,
            String words,
            @Nullable Before before) {}

    /** What an undone act puts back, as long as the case still has the version that the act gave it. */
    record Before(WorkCase.Progress standing, int versionAfter) {}

    private final JdbcClient jdbc;
    private final JsonMapper json;

    CaseStore(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    Optional<WorkCase> byId(long id) {
        return jdbc.sql("select * from work_case where id = :id")
                .param("id", id)
                .query(CaseRows::workCase)
                .optional();
    }

    List<WorkCase> byIds(Collection<Long> ids) {
        return jdbc.sql("select * from work_case where id = any(:ids::bigint[])")
                .param("ids", ids.toArray(Long[]::new))
                .query(CaseRows::workCase)
                .list();
    }

    /**
     * Locks it, so that what a round counts and what a person does come one after the other. What is only written into its log does
     * not wait for that: a round holds many cases at once, and one mail tells of many, in another order.
     */
    WorkCase lock(long id) {
        return jdbc.sql("select * from work_case where id = :id for no key update")
                .param("id", id)
                .query(CaseRows::workCase)
                .single();
    }

    /** All open cases; as many as there is open work. */
    List<WorkCase> open() {
        return jdbc.sql("select * from work_case where state <> 'SETTLED'")
                .query(CaseRows::workCase)
                .list();
    }

    /** The latest first. */
    List<WorkCase> latest(int most) {
        return jdbc.sql("select * from work_case order by id desc limit :most")
                .param("most", most)
                .query(CaseRows::workCase)
                .list();
    }

    /** How much open work there is that is not quiet: what is still going on, by severity, and what was returned. */
    record OpenCounts(long critical, long warning, long returned) {}

    OpenCounts countOpen(Instant now) {
        return jdbc.sql(
                        """
                        select count(*) filter (where severity = 'CRITICAL' and over_since is null) as critical,
                               count(*) filter (where severity = 'WARNING' and over_since is null) as warning,
                               count(*) filter (where returned) as returned
                          from work_case
                         where state <> 'SETTLED' and (quiet_until is null or quiet_until <= :now)""")
                .param("now", Stamp.of(now))
                .query((row, number) ->
                        new OpenCounts(row.getLong("critical"), row.getLong("warning"), row.getLong("returned")))
                .single();
    }

    /** Locked; whatever somebody holds comes the next time. */
    List<WorkCase> quietEnded(Instant now) {
        var ended = "select * from work_case where state <> 'SETTLED' and quiet_until <= :now";
        return jdbc.sql(ended + " for no key update skip locked")
                .param("now", Stamp.of(now))
                .query(CaseRows::workCase)
                .list();
    }

    /** The cases that an alert may belong to: the open ones, and the one that was settled last. */
    List<Home.Known> known(About about) {
        var topic = about.topic();
        return jdbc.sql(
                        """
                        (select * from work_case
                          where state <> 'SETTLED' and (component_id = :cause or :everywhere and topic = :topic))
                        union all
                        (select * from work_case
                          where state = 'SETTLED' and joined_to is null and topic is not distinct from :topic
                            and (:everywhere or component_id = :cause)
                          order by settled_at desc limit 1)""")
                .param("cause", about.cause())
                .param("topic", topic == null ? null : topic.text(), java.sql.Types.VARCHAR)
                .param("everywhere", topic != null && topic.everywhere())
                .query((row, number) -> new Home.Known(
                        row.getLong("id"),
                        row.getLong("component_id"),
                        Topic.parse(row.getString("topic")),
                        Stamp.in(row, "topic_since"),
                        Stamp.orNull(row, "settled_at")))
                .list();
    }

    /** The open case about a topic on a component. */
    Optional<WorkCase> openAbout(long component, Topic topic) {
        return jdbc.sql(
                        """
                        select * from work_case
                         where state <> 'SETTLED' and component_id = :component and topic = :topic
                         order by id limit 1 for no key update""")
                .param("component", component)
                .param("topic", topic.text())
                .query(CaseRows::workCase)
                .optional();
    }

    /** A case about all trouble of a sort turns out to be about one, raised first at that time. */
    void becomes(long id, Topic topic, Instant since) {
        jdbc.sql("update work_case set topic = :topic, topic_since = :since where id = :id")
                .param("id", id)
                .param("topic", topic.text())
                .param("since", Stamp.of(since))
                .update();
    }

    /** An alert of the case's own topic was raised at a time, which may lie before that of others. */
    void raisedSince(long id, Instant since) {
        jdbc.sql("update work_case set topic_since = least(topic_since, :since) where id = :id")
                .param("id", id)
                .param("since", Stamp.of(since))
                .update();
    }

    /** Settled cases, the latest first, after a place in that order. */
    List<WorkCase> settled(Instant before, long beforeId, int size) {
        return jdbc.sql(
                        """
                        select * from work_case
                         where state = 'SETTLED' and (settled_at, id) < (:before, :beforeId)
                         order by settled_at desc, id desc
                         limit :size""")
                .param("before", Stamp.of(before))
                .param("beforeId", beforeId)
                .param("size", size)
                .query(CaseRows::workCase)
                .list();
    }

    long add(
            long component,
            @Nullable Topic topic,
            Severity severity,
            String headline,
            Instant openedAt,
            Instant respondBy,
            Instant firstSeen) {
        return jdbc.sql(
                        """
                        insert into work_case (state, component_id, topic, topic_since, severity, headline, opened_at, respond_by,
                                               first_seen, last_seen)
                        values ('NEW', :component, :topic, :opened, :severity, :headline, :opened, :respondBy, :first, :opened)
                        returning id""")
                .param("component", component)
                .param("topic", topic == null ? null : topic.text(), java.sql.Types.VARCHAR)
                .param("severity", severity.name())
                .param("headline", headline)
                .param("opened", Stamp.of(openedAt))
                .param("respondBy", Stamp.of(respondBy))
                .param("first", Stamp.of(firstSeen))
                .query(Long.class)
                .single();
    }

    void respondBy(long id, Instant by) {
        jdbc.sql("update work_case set respond_by = :by where id = :id")
                .param("id", id)
                .param("by", Stamp.of(by))
                .update();
    }

    /** What machines know of a case. Leaves its version alone. */
    void measure(
            long id,
            Severity severity,
            String headline,
            Instant respondBy,
            Instant firstSeen,
            Instant lastSeen,
            long failures,
            @Nullable Instant overSince) {
        jdbc.sql(
                        """
                        update work_case
                           set severity = :severity, headline = :headline, respond_by = :respondBy, first_seen = :first,
                               last_seen = :last, failures = :failures, over_since = :over
                         where id = :id""")
                .param("id", id)
                .param("severity", severity.name())
                .param("headline", headline)
                .param("respondBy", Stamp.of(respondBy))
                .param("first", Stamp.of(firstSeen))
                .param("last", Stamp.of(lastSeen))
                .param("failures", failures)
                .param("over", Stamp.of(overSince))
                .update();
    }

    /**
     * Changes where the work on a case stands, while its version is still the one that was seen.
     *
     * @return whether it was
     */
    boolean change(WorkCase seen, WorkCase.Progress next) {
        var reason = next.settleReason();
        return jdbc.sql(
                                """
                        update work_case
                           set state = :state, taken_by = :taken, quiet_until = :quiet, returned = :returned,
                               return_reason = :reason, settled_at = :settled, settle_reason = :settleReason,
                               version = version + 1
                         where id = :id and version = :version""")
                        .param("id", seen.id())
                        .param("version", seen.version())
                        .param("state", next.state().name())
                        .param("taken", next.takenBy())
                        .param("quiet", Stamp.of(next.quietUntil()))
                        .param("returned", next.returned())
                        .param("reason", next.returnReason())
                        .param("settled", Stamp.of(next.settledAt()))
                        .param("settleReason", reason == null ? null : reason.name())
                        .update()
                == 1;
    }

    List<Long> alerts(long caseId) {
        return jdbc.sql("select alert_id from case_alert where case_id = :case order by alert_id")
                .param("case", caseId)
                .query(Long.class)
                .list();
    }

    /** That an alert belongs to a case, and its lowest value since that was settled while it was up. */
    record Belongs(long caseId, @Nullable Double atSettling) {}

    Optional<Belongs> belongs(long alert) {
        return jdbc.sql("select case_id, at_settling from case_alert where alert_id = :alert")
                .param("alert", alert)
                .query((row, number) -> new Belongs(row.getLong("case_id"), row.getObject("at_settling", Double.class)))
                .optional();
    }

    /** The cases to which some alerts belong, by alert. */
    Map<Long, Long> casesOf(Collection<Long> alerts) {
        var found = new HashMap<Long, Long>();
        jdbc.sql("select alert_id, case_id from case_alert where alert_id = any(:alerts::bigint[])")
                .param("alerts", alerts.toArray(Long[]::new))
                .query(row -> {
                    found.put(row.getLong("alert_id"), row.getLong("case_id"));
                });
        return found;
    }

    /** The open cases to which some alerts belong, by alert. */
    Map<Long, Long> openCasesOf(Collection<Long> alerts) {
        var found = new HashMap<Long, Long>();
        if (alerts.isEmpty()) return found;
        jdbc.sql(
                        """
                        select a.alert_id, a.case_id from case_alert a join work_case c on c.id = a.case_id
                         where a.alert_id = any(:alerts::bigint[]) and c.state <> 'SETTLED'""")
                .param("alerts", alerts.toArray(Long[]::new))
                .query(row -> {
                    found.put(row.getLong("alert_id"), row.getLong("case_id"));
                });
        return found;
    }

    /** An alert belongs to a case; it leaves the one to which it belonged. */
    void put(long alert, long caseId) {
        jdbc.sql(
                        """
                        insert into case_alert (alert_id, case_id) values (:alert, :case)
                            on conflict (alert_id) do update set case_id = excluded.case_id, at_settling = null""")
                .param("alert", alert)
                .param("case", caseId)
                .update();
    }

    /** An alert whose case was settled measures another value. */
    void fell(long alert, double value) {
        jdbc.sql("update case_alert set at_settling = least(at_settling, :value) where alert_id = :alert")
                .param("alert", alert)
                .param("value", value)
                .update();
    }

    /** Remembers where alerts stood when their case was settled. */
    void markSettling(Collection<Alert> alerts) {
        jdbc.sql(
                        """
                        update case_alert set at_settling = given.value
                          from unnest(:ids::bigint[], :values::float8[]) as given(id, value)
                         where alert_id = given.id""")
                .param("ids", alerts.stream().map(Alert::id).toArray(Long[]::new))
                .param("values", alerts.stream().map(Alert::value).toArray(Double[]::new))
                .update();
    }

    void forgetSettling(long caseId) {
        jdbc.sql("update case_alert set at_settling = null where case_id = :case")
                .param("case", caseId)
                .update();
    }

    long addEntry(long caseId, Instant at, @Nullable Long person, String kind, String words, @Nullable Before before) {
        return jdbc.sql(
                        """
                        insert into case_entry (case_id, at, person_id, kind, words, undo)
                        values (:case, :at, :person, :kind, :words, :undo::jsonb) returning id""")
                .param("case", caseId)
                .param("at", Stamp.of(at))
                .param("person", person)
                .param("kind", kind)
                .param("words", words)
                .param("undo", before == null ? null : json.writeValueAsString(before))
                .query(Long.class)
                .single();
    }

    List<Entry> entries(long caseId) {
        return jdbc.sql("select * from case_entry where case_id = :case order by at desc, id desc limit 200")
                .param("case", caseId)
                .query((row, number) -> entry(row))
                .list();
    }

    Optional<Entry> entry(long id) {
        return jdbc.sql("select * from case_entry where id = :id")
                .param("id", id)
                .query((row, number) -> entry(row))
                .optional();
    }

    private Entry entry(ResultSet row) throws SQLException {
        var undo = row.getString("undo");
        return new Entry(
                row.getLong("id"),
                row.getLong("case_id"),
                Stamp.in(row, "at"),
                row.getObject("person_id", Long.class),
                row.getString("kind"),
                row.getString("words"),
                undo == null ? null : json.readValue(undo, Before.class));
    }

    /** An action is undone once. */
    void forgetUndo(long entry) {
        jdbc.sql("update case_entry set undo = null where id = :id")
                .param("id", entry)
                .update();
    }
}
