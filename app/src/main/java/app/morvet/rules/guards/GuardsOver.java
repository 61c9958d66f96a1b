package app.morvet.rules.guards;

import app.morvet.alerting.alerts.Alerts;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Which guards stand over a component, and what each says of it now. */
@Repository
public class GuardsOver {
    /** @param mark the worst that it says of this component */
    public record Over(long id, String name, String mark) {}

    private final JdbcClient jdbc;
    private final Alerts alerts;

    GuardsOver(JdbcClient jdbc, Alerts alerts) {
        this.jdbc = jdbc;
        this.alerts = alerts;
    }

    public List<Over> over(long component) {
        var held = alerts.heldUp().stream()
                .filter(one -> one.origin().kind().equals(GuardOrigins.KIND)
                        && one.about().component() == component)
                .map(one -> one.origin().id())
                .collect(Collectors.toSet());
        return jdbc.sql(
                        """
                        select g.id, g.name,
                               case when bool_or(s.level = 'CRITICAL') then 'critical' when bool_or(s.level = 'WARNING') then 'warning'
                                    when bool_or(s.level = 'NOTICE') then 'notice' when bool_or(s.known) then 'steady' else 'nodata' end as mark
                          from guard_state s join series on series.id = s.series_id join guard g on g.id = s.guard_id
                         where series.component_id = :component and not g.deleted
                         group by g.id, g.name
                         order by g.name""")
                .param("component", component)
                .query((row, number) -> new Over(
                        row.getLong("id"),
                        row.getString("name"),
                        held.contains(row.getLong("id")) ? "held" : row.getString("mark")))
                .list();
    }
}
