package app.morvet.cases;

import app.morvet.alerts.AlertSource;
import app.morvet.base.Stamp;
import app.morvet.core.alert.Severity;
import app.morvet.core.cases.CaseState;
import app.morvet.core.cases.SettleReason;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
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
    record Before(WorkCase.Standing standing, int versionAfter) {}

    private final JdbcClient jdbc;
    private final JsonMapper json;

    CaseStore(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    private static WorkCase workCase(ResultSet row, int number) throws SQLException {
        var reason = row.getString("settle_reason");
        return new WorkCase(
                row.getLong("id"),
                row.getLong("component_id"),
                row.getObject("family_id", Long.class),
                row.getObject("rule_id", Long.class),
                Severity.valueOf(row.getString("severity")),
                row.getString("headline"),
                Stamp.in(row, "opened_at"),
                Stamp.in(row, "first_seen"),
                Stamp.in(row, "last_seen"),
                row.getLong("failures"),
                Stamp.orNull(row, "over_since"),
                new WorkCase.Standing(
                        CaseState.valueOf(row.getString("state")),
                        row.getObject("taken_by", Long.class),
                        Stamp.orNull(row, "quiet_until"),
                        row.getBoolean("returned"),
                        row.getString("return_reason"),
                        Stamp.orNull(row, "settled_at"),
                        reason == null ? null : SettleReason.valueOf(reason)),
                row.getInt("version"));
    }

    private static CaseAlert caseAlert(ResultSet row, int number) throws SQLException {
        return new CaseAlert(
                row.getLong("alert_id"),
                row.getLong("case_id"),
                source(row),
                row.getObject("component_id", Long.class),
                Severity.valueOf(row.getString("level")),
                row.getDouble("value"),
                row.getDouble("worst"),
                Stamp.in(row, "raised_at"),
                Stamp.orNull(row, "cleared_at"),
                row.getObject("at_settling", Double.class),
                row.getBoolean("flaps"),
                row.getString("words"),
                row.getString("worst_words"));
    }

    private static AlertSource source(ResultSet row) throws SQLException {
        var guard = row.getObject("guard_id", Long.class);
        var overRuns = row.getObject("run_guard_id", Long.class);
        if (overRuns != null) return new AlertSource.OfRunGuard(overRuns, row.getLong("component_id"));
        return guard != null
                ? new AlertSource.OfGuard(guard)
                : new AlertSource.OfRule(row.getLong("rule_id"), row.getLong("family_id"), false);
    }

    Optional<WorkCase> byId(long id) {
        return jdbc.sql("select * from work_case where id = :id")
                .param("id", id)
                .query(CaseStore::workCase)
                .optional();
    }

    /** Locks it, so that what a round counts and what a person does come one after the other. */
    WorkCase lock(long id) {
        return jdbc.sql("select * from work_case where id = :id for update")
                .param("id", id)
                .query(CaseStore::workCase)
                .single();
    }

    /** All open cases; as many as there is open work. */
    List<WorkCase> open() {
        return jdbc.sql("select * from work_case where state <> 'SETTLED'")
                .query(CaseStore::workCase)
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

    List<WorkCase> quietEnded(Instant now) {
        return jdbc.sql("select * from work_case where state <> 'SETTLED' and quiet_until <= :now for update")
                .param("now", Stamp.of(now))
                .query(CaseStore::workCase)
                .list();
    }

    /**
     * The open case of a component that an alert joins: one about all of it before one about a family of its failures, and
     * of those the one with the most.
     */
    Optional<WorkCase> openOn(long component) {
        return jdbc.sql(
                        """
                        select * from work_case where component_id = :component and state <> 'SETTLED'
                         order by family_id is not null or rule_id is not null, failures desc, id limit 1 for update""")
                .param("component", component)
                .query(CaseStore::workCase)
                .optional();
    }

    /** The open case about a family on a component, or about a rule on all of them. */
    Optional<WorkCase> openAbout(@Nullable Long component, @Nullable Long family, @Nullable Long rule) {
        return jdbc.sql(
                        """
                        select * from work_case
                         where state <> 'SETTLED' and rule_id is not distinct from :rule::bigint
                           and (:rule::bigint is not null or component_id = :component::bigint and family_id = :family::bigint)
                         order by id limit 1 for update""")
                .param("component", component)
                .param("family", family)
                .param("rule", rule)
                .query(CaseStore::workCase)
                .optional();
    }

    Optional<WorkCase> lastSettledAbout(@Nullable Long component, @Nullable Long family, @Nullable Long rule) {
        return jdbc.sql(
                        """
                        select * from work_case
                         where state = 'SETTLED' and rule_id is not distinct from :rule::bigint
                           and (:rule::bigint is not null or component_id = :component::bigint and family_id = :family::bigint)
                         order by settled_at desc limit 1 for update""")
                .param("component", component)
                .param("family", family)
                .param("rule", rule)
                .query(CaseStore::workCase)
                .optional();
    }

    /** A case about all of a component's failures turns out to be about one family. */
    void isAbout(long id, long family) {
        jdbc.sql("update work_case set family_id = :family where id = :id")
                .param("id", id)
                .param("family", family)
                .update();
    }

    Optional<WorkCase> lastSettledOn(long component) {
        return jdbc.sql(
                        """
                        select * from work_case
                         where component_id = :component and state = 'SETTLED' and family_id is null and rule_id is null
                         order by settled_at desc limit 1 for update""")
                .param("component", component)
                .query(CaseStore::workCase)
                .optional();
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
                .query(CaseStore::workCase)
                .list();
    }

    long add(
            long component,
            @Nullable Long family,
            @Nullable Long rule,
            Severity severity,
            String headline,
            Instant openedAt,
            Instant firstSeen) {
        return jdbc.sql(
                        """
                        insert into work_case (state, component_id, family_id, rule_id, severity, headline, opened_at, first_seen, last_seen)
                        values ('NEW', :component, :family, :rule, :severity, :headline, :opened, :first, :opened) returning id""")
                .param("component", component)
                .param("family", family)
                .param("rule", rule)
                .param("severity", severity.name())
                .param("headline", headline)
                .param("opened", Stamp.of(openedAt))
                .param("first", Stamp.of(firstSeen))
                .query(Long.class)
                .single();
    }

    /** What machines know of a case. Leaves its version alone. */
    void measure(
            long id,
            Severity severity,
            String headline,
            Instant firstSeen,
            Instant lastSeen,
            long failures,
            @Nullable Instant overSince) {
        jdbc.sql(
                        """
                        update work_case
                           set severity = :severity, headline = :headline, first_seen = :first, last_seen = :last,
                               failures = :failures, over_since = :over
                         where id = :id""")
                .param("id", id)
                .param("severity", severity.name())
                .param("headline", headline)
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
    boolean change(WorkCase seen, WorkCase.Standing next) {
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

    List<CaseAlert> alerts(long caseId) {
        return jdbc.sql("select * from case_alert where case_id = :case order by raised_at desc, alert_id desc")
                .param("case", caseId)
                .query(CaseStore::caseAlert)
                .list();
    }

    Optional<CaseAlert> alert(long alert) {
        return jdbc.sql("select * from case_alert where alert_id = :alert")
                .param("alert", alert)
                .query(CaseStore::caseAlert)
                .optional();
    }

    void addAlert(
            long alert,
            long caseId,
            AlertSource source,
            long component,
            Severity level,
            double value,
            double worst,
            Instant raisedAt,
            String words) {
        jdbc.sql(
                        """
                        insert into case_alert (alert_id, case_id, guard_id, rule_id, run_guard_id, family_id, component_id, level, value, worst, raised_at, words, worst_words)
                        values (:alert, :case, :guard, :rule, :overRuns, :family, :component, :level, :value, :worst, :raised, :words, :words)""")
                .param("alert", alert)
                .param("case", caseId)
                .param("guard", source instanceof AlertSource.OfGuard(long guard) ? guard : null)
                .param("rule", source instanceof AlertSource.OfRule of ? of.rule() : null)
                .param("overRuns", source instanceof AlertSource.OfRunGuard of ? of.guard() : null)
                .param("family", source instanceof AlertSource.OfRule of ? of.family() : null)
                .param("component", component)
                .param("level", level.name())
                .param("value", value)
                .param("worst", worst)
                .param("raised", Stamp.of(raisedAt))
                .param("words", words)
                .update();
    }

    /**
     * @param words      what is wrong; null to leave what was said last
     * @param worstWords what was wrong at the worst; null to leave what was said of it
     */
    void changeAlert(
            long alert,
            Severity level,
            double value,
            double worst,
            @Nullable Instant clearedAt,
            boolean flaps,
            @Nullable String words,
            @Nullable String worstWords) {
        jdbc.sql(
                        """
                        update case_alert
                           set level = :level, value = :value, worst = :worst, cleared_at = :cleared,
                               at_settling = least(at_settling, :value), flaps = flaps or :flaps,
                               words = coalesce(:words, words), worst_words = coalesce(:worstWords, worst_words)
                         where alert_id = :alert""")
                .param("alert", alert)
                .param("level", level.name())
                .param("value", value)
                .param("worst", worst)
                .param("cleared", Stamp.of(clearedAt))
                .param("flaps", flaps)
                .param("words", words)
                .param("worstWords", worstWords)
                .update();
    }

    /** A settled case on a component, with what it was settled as. */
    record Settled(long id, long component, Instant from, Instant to, SettleReason reason) {}

    /** Settled cases of some components that ran in a span. */
    List<Settled> settledOn(java.util.Collection<Long> components, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select id, component_id, first_seen, coalesce(over_since, settled_at) as over_at, settle_reason
                          from work_case
                         where state = 'SETTLED' and component_id = any(:components::bigint[])
                           and opened_at < :to and coalesce(over_since, settled_at) >= :from
                         order by opened_at""")
                .param("components", components.toArray(Long[]::new))
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> new Settled(
                        row.getLong("id"),
                        row.getLong("component_id"),
                        Stamp.in(row, "first_seen"),
                        Stamp.in(row, "over_at"),
                        SettleReason.valueOf(row.getString("settle_reason"))))
                .list();
    }

    /** Remembers, or forgets, where the alerts of a case stood when it was settled. */
    void markSettling(long caseId, boolean settled) {
        jdbc.sql(
                        "update case_alert set at_settling = case when :settled then value end where case_id = :case and cleared_at is null")
                .param("case", caseId)
                .param("settled", settled)
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

    List<WorkCase> search(String words, int size) {
        return jdbc.sql(
                        """
                        select * from work_case
                         where headline ilike '%' || :words || '%' or id::text = :number
                         order by state = 'SETTLED', opened_at desc
                         limit :size""")
                .param("words", words.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_"))
                .param("number", words)
                .param("size", size)
                .query(CaseStore::workCase)
                .list();
    }
}
