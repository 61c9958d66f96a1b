package app.morvet.alerts;

import app.morvet.base.Stamp;
import app.morvet.batch.RunsMoved;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.failures.FailuresMoved;
import app.morvet.guards.GuardsMoved;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of alerts. */
@Repository
class AlertStore {
    private static final int LOCK = 0x6d6f7277;

    private final JdbcClient jdbc;

    AlertStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Until the end of the transaction, no other makes changes to alerts. */
    void oneAfterTheOther() {
        jdbc.sql("select 1 from (select pg_advisory_xact_lock(:lock)) as locked")
                .param("lock", LOCK)
                .query(Integer.class)
                .single();
    }

    long raise(FailuresMoved.Moved moved) {
        var raised = moved.transition();
        return jdbc.sql(
                        """
                        insert into alert (component_id, rule_id, group_key, family_id, raised_at, level, value, worst, words)
                        values (:component, :rule, :group, :family, :at, :level, :value, :worst, :words) returning id""")
                .param("rule", moved.fold().rule())
                .param("group", moved.fold().key())
                .param("component", moved.fold().component())
                .param("family", moved.fold().family())
                .param("at", Stamp.of(raised.at()))
                .param("level", String.valueOf(raised.level()))
                .param("value", raised.value())
                .param("worst", raised.worst())
                .param("words", moved.words())
                .query(Long.class)
                .single();
    }

    Optional<Long> clear(FailuresMoved.Moved moved) {
        return jdbc.sql(
                        """
                        update alert set cleared_at = :at where rule_id = :rule and group_key = :group and cleared_at is null
                     returning id""")
                .param("at", Stamp.of(moved.transition().at()))
                .param("rule", moved.fold().rule())
                .param("group", moved.fold().key())
                .query(Long.class)
                .optional();
    }

    Optional<Long> count(FailuresMoved.Counted counted) {
        return jdbc.sql(
                        """
                        update alert set value = :value, worst = :value, words = :words
                         where rule_id = :rule and group_key = :group and cleared_at is null
                     returning id""")
                .param("value", counted.failures())
                .param("words", counted.words())
                .param("rule", counted.fold().rule())
                .param("group", counted.fold().key())
                .query(Long.class)
                .optional();
    }

    long raise(RunsMoved.Moved moved) {
        var raised = moved.transition();
        return jdbc.sql(
                        """
                        insert into alert (component_id, run_guard_id, group_key, raised_at, level, value, worst, words)
                        values (:component, :guard, '', :at, :level, :value, :worst, :words) returning id""")
                .param("guard", moved.guard())
                .param("component", moved.component())
                .param("at", Stamp.of(raised.at()))
                .param("level", String.valueOf(raised.level()))
                .param("value", raised.value())
                .param("worst", raised.worst())
                .param("words", moved.words())
                .query(Long.class)
                .single();
    }

    Optional<Long> change(RunsMoved.Moved moved) {
        var change = moved.transition();
        var level = change.level();
        return jdbc.sql(
                        """
                        update alert
                           set level = coalesce(:level, level), value = :value, worst = :worst, cleared_at = :cleared, words = :words
                         where run_guard_id = :guard and component_id = :component and cleared_at is null
                     returning id""")
                .param("guard", moved.guard())
                .param("component", moved.component())
                .param("level", level == null ? null : level.name())
                .param("value", change.value())
                .param("worst", change.worst())
                .param("cleared", Stamp.of(level == null ? change.at() : null))
                .param("words", moved.words())
                .query(Long.class)
                .optional();
    }

    Optional<Long> count(RunsMoved.Counted counted) {
        return jdbc.sql(
                        """
                        update alert set value = :value, worst = :worst, words = :words
                         where run_guard_id = :guard and component_id = :component and cleared_at is null
                     returning id""")
                .param("guard", counted.guard())
                .param("component", counted.component())
                .param("value", counted.value())
                .param("worst", counted.worst())
                .param("words", counted.words())
                .query(Long.class)
                .optional();
    }

    /** An alert of a component, for its relief track. */
    record Stretch(long component, Severity level, Instant from, @Nullable Instant to) {}

    /** Alerts of some components that were up in a span. */
    List<Stretch> stretches(Collection<Long> components, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select component_id, level, raised_at, cleared_at from alert
                         where component_id = any(:components::bigint[]) and raised_at < :to and cleared_at > :from
                        union all
                        select component_id, level, raised_at, cleared_at from alert
                         where component_id = any(:components::bigint[]) and raised_at < :to and cleared_at is null""")
                .param("components", components.toArray(Long[]::new))
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> new Stretch(
                        row.getLong("component_id"),
                        Severity.valueOf(row.getString("level")),
                        Stamp.in(row, "raised_at"),
                        Stamp.orNull(row, "cleared_at")))
                .list();
    }

    long raise(GuardsMoved.Moved moved) {
        var raised = moved.transition();
        return jdbc.sql(
                        """
                        insert into alert (guard_id, group_key, component_id, series_id, raised_at, level, value, worst, words)
                        values (:guard, :group, :component, :series, :at, :level, :value, :worst, :words) returning id""")
                .param("guard", moved.guard())
                .param("group", moved.group())
                .param("component", moved.component())
                .param("series", moved.series())
                .param("at", Stamp.of(raised.at()))
                .param("level", String.valueOf(raised.level()))
                .param("value", raised.value())
                .param("worst", raised.worst())
                .param("words", moved.words())
                .query(Long.class)
                .single();
    }

    /** A cleared alert keeps the level and the words that it last had. */
    Optional<Long> change(GuardsMoved.Moved moved) {
        var change = moved.transition();
        var level = change.level();
        boolean cleared = change.kind() == Transition.Kind.CLEARED;
        return jdbc.sql(
                        """
                        update alert
                           set level = coalesce(:level, level), value = :value, worst = :worst, cleared_at = :cleared,
                               flaps = flaps or :flaps, words = case when :cleared::timestamptz is null then :words else words end
                         where guard_id = :guard and group_key = :group and cleared_at is null
                     returning id""")
                .param("guard", moved.guard())
                .param("group", moved.group())
                .param("level", level == null ? null : level.name())
                .param("value", change.value())
                .param("worst", change.worst())
                .param("cleared", Stamp.of(cleared ? change.at() : null))
                .param("flaps", change.kind() == Transition.Kind.FLAPS)
                .param("words", moved.words())
                .query(Long.class)
                .optional();
    }

    Optional<Long> count(GuardsMoved.Counted counted) {
        return jdbc.sql(
                        """
                        update alert set value = :value, worst = :worst, series_id = :series, words = :words
                         where guard_id = :guard and group_key = :group and cleared_at is null
                     returning id""")
                .param("guard", counted.guard())
                .param("group", counted.group())
                .param("series", counted.series())
                .param("value", counted.value())
                .param("worst", counted.worst())
                .param("words", counted.words())
                .query(Long.class)
                .optional();
    }

    /** The series that an alert last spoke of. */
    Optional<Long> seriesOf(long alert) {
        return jdbc.sql("select series_id from alert where id = :id and series_id is not null")
                .param("id", alert)
                .query(Long.class)
                .optional();
    }
}
