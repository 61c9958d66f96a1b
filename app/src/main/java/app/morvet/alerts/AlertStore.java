package app.morvet.alerts;

import app.morvet.base.Stamp;
import app.morvet.core.alert.Transition;
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

    long raise(long guard, long component, Transition raised) {
        return jdbc.sql(
                        """
                        insert into alert (guard_id, component_id, raised_at, level, value, worst)
                        values (:guard, :component, :at, :level, :value, :worst) returning id""")
                .param("guard", guard)
                .param("component", component)
                .param("at", Stamp.of(raised.at()))
                .param("level", String.valueOf(raised.level()))
                .param("value", raised.value())
                .param("worst", raised.worst())
                .query(Long.class)
                .single();
    }

    /** A cleared alert keeps the level it last had. */
    long change(long guard, long component, Transition change) {
        var level = change.level();
        return jdbc.sql(
                        """
                        update alert
                           set level = coalesce(:level, level), value = :value, worst = :worst, cleared_at = :cleared
                         where guard_id = :guard and component_id = :component and cleared_at is null
                     returning id""")
                .param("guard", guard)
                .param("component", component)
                .param("level", level == null ? null : level.name())
                .param("value", change.value())
                .param("worst", change.worst())
                .param("cleared", Stamp.of(change.kind() == Transition.Kind.CLEARED ? change.at() : null))
                .query(Long.class)
                .single();
    }

    Optional<Long> count(long guard, long component, double value, double worst) {
        return jdbc.sql(
                        """
                        update alert set value = :value, worst = :worst
                         where guard_id = :guard and component_id = :component and cleared_at is null
                     returning id""")
                .param("guard", guard)
                .param("component", component)
                .param("value", value)
                .param("worst", worst)
                .query(Long.class)
                .optional();
    }
}
