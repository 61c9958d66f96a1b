package app.morvet.rules.guards;

import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Which guards stand over a component, and what each says of it now. */
@Repository
public class GuardsOver {
    /** @param mark the worst that it says of this component */
    public record Over(long id, String name, String mark) {}

    private final JdbcClient jdbc;

    GuardsOver(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    public List<Over> over(long component) {
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
                .query((row, number) -> new Over(row.getLong("id"), row.getString("name"), row.getString("mark")))
                .list();
    }
}
