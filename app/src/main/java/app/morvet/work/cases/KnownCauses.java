package app.morvet.work.cases;

import app.morvet.ground.access.People;
import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** What people said brings about trouble of what, for the next time; what the estate says of itself is not among it. */
@Repository
public class KnownCauses {
    private final JdbcClient jdbc;
    private final People people;

    KnownCauses(JdbcClient jdbc, People people) {
        this.jdbc = jdbc;
        this.people = people;
    }

    /** That trouble of one component is often because of another. */
    public record Known(long component, long cause, String saidBy, Instant saidAt) {}

    void remember(long component, long cause, long person, Instant at) {
        jdbc.sql(
                        """
                        insert into known_cause (component_id, cause_id, person_id, said_at)
                        values (:component, :cause, :person, :at) on conflict do nothing""")
                .param("component", component)
                .param("cause", cause)
                .param("person", person)
                .param("at", Stamp.of(at))
                .update();
    }

    /** Whether it was remembered until now. */
    public boolean forget(long component, long cause) {
        return jdbc.sql("delete from known_cause where component_id = :component and cause_id = :cause")
                        .param("component", component)
                        .param("cause", cause)
                        .update()
                > 0;
    }

    /** The components that explain trouble of one, with who said so. */
    Map<Long, String> causesOf(long component) {
        var found = new LinkedHashMap<Long, String>();
        for (var one : of(component)) if (one.component() == component) found.put(one.cause(), one.saidBy());
        return found;
    }

    List<Long> effectsOf(long component) {
        return of(component).stream()
                .filter(one -> one.cause() == component)
                .map(Known::component)
                .toList();
    }

    /** All in which a component stands, as what is brought about or as what brings it about. */
    public List<Known> of(long component) {
        var names = people.names();
        return jdbc.sql(
                        """
                        select * from known_cause
                         where component_id = :component or cause_id = :component order by said_at""")
                .param("component", component)
                .query((row, number) -> new Known(
                        row.getLong("component_id"),
                        row.getLong("cause_id"),
                        names.getOrDefault(row.getLong("person_id"), "somebody"),
                        Stamp.in(row, "said_at")))
                .list();
    }
}
