package app.morvet.alerts;

import app.morvet.base.Stamp;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
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

    /** What raises alerts, by the column of its id. */
    enum Kind {
        GUARD("guard_id"),
        RULE("rule_id"),
        RUN_GUARD("run_guard_id");

        private final String column;

        Kind(String column) {
            this.column = column;
        }
    }

    /**
     * What folds into one alert: at most one is up for it.
     *
     * @param by    id of the guard or rule that raises it
     * @param group what the guard or rule takes together
     */
    record Fold(Kind kind, long by, String group) {}

    /** What an alert is about: a component, and the family of failed messages or the series, where it is one's. */
    record About(long component, @Nullable Long family, @Nullable Long series) {}

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

    long raise(Fold fold, About about, Transition raised, String words) {
        return jdbc.sql(
                        """
                        insert into alert (%s, group_key, component_id, family_id, series_id, raised_at, level, value, worst, words)
                        values (:by, :group, :component, :family, :series, :at, :level, :value, :worst, :words) returning id"""
                                .formatted(fold.kind().column))
                .param("by", fold.by())
                .param("group", fold.group())
                .param("component", about.component())
                .param("family", about.family())
                .param("series", about.series())
                .param("at", Stamp.of(raised.at()))
                .param("level", String.valueOf(raised.level()))
                .param("value", raised.value())
                .param("worst", raised.worst())
                .param("words", words)
                .query(Long.class)
                .single();
    }

    /** A cleared alert keeps the level and the words that it last had. */
    Optional<Long> change(Fold fold, Transition change, String words) {
        var level = change.level();
        boolean cleared = change.kind() == Transition.Kind.CLEARED;
        return jdbc.sql(
                        """
                        update alert
                           set level = coalesce(:level, level), value = :value, worst = :worst, cleared_at = :cleared,
                               flaps = flaps or :flaps, words = case when :cleared::timestamptz is null then :words else words end
                         where %s = :by and group_key = :group and cleared_at is null
                     returning id"""
                                .formatted(fold.kind().column))
                .param("by", fold.by())
                .param("group", fold.group())
                .param("level", level == null ? null : level.name())
                .param("value", change.value())
                .param("worst", change.worst())
                .param("cleared", Stamp.of(cleared ? change.at() : null))
                .param("flaps", change.kind() == Transition.Kind.FLAPS)
                .param("words", words)
                .query(Long.class)
                .optional();
    }

    /** What an alert that is up says now. */
    Optional<Long> count(Fold fold, @Nullable Long series, double value, double worst, String words) {
        return jdbc.sql(
                        """
                        update alert set value = :value, worst = :worst, series_id = coalesce(:series, series_id), words = :words
                         where %s = :by and group_key = :group and cleared_at is null
                     returning id"""
                                .formatted(fold.kind().column))
                .param("by", fold.by())
                .param("group", fold.group())
                .param("series", series)
                .param("value", value)
                .param("worst", worst)
                .param("words", words)
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

    /** The series that an alert last spoke of. */
    Optional<Long> seriesOf(long alert) {
        return jdbc.sql("select series_id from alert where id = :id and series_id is not null")
                .param("id", alert)
                .query(Long.class)
                .optional();
    }
}
