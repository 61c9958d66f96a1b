package app.morvet.alerts;

import app.morvet.base.Stamp;
import app.morvet.core.alert.Transition;
import app.morvet.guards.GuardsMoved;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of alerts. */
@Repository
class AlertStore {
    private final JdbcClient jdbc;

    AlertStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
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
