package app.morvet.ground.estate;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Between whom interfaces carry. */
@Repository
public class InterfaceEnds {
    /**
     * Between whom one carries.
     *
     * @param from key of the application that sends, or the name of a party outside
     * @param to   of the one that receives
     */
    public record Ends(String from, String to) {}

    private final JdbcClient jdbc;

    InterfaceEnds(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** By the interfaces' ids; those of which it is not known are left out. */
    public Map<Long, Ends> all() {
        var ends = new HashMap<Long, Ends>();
        jdbc.sql("select component_id, from_party, to_party from interface_ends")
                .query(row -> {
                    ends.put(
                            row.getLong("component_id"),
                            new Ends(row.getString("from_party"), row.getString("to_party")));
                });
        return ends;
    }

    /** Of one interface, by its id; empty where it is not known. */
    public Optional<Ends> of(long component) {
        return jdbc.sql("select from_party, to_party from interface_ends where component_id = :id")
                .param("id", component)
                .query((row, number) -> new Ends(row.getString("from_party"), row.getString("to_party")))
                .optional();
    }

    /** Says between whom an interface carries; an empty name takes it back. */
    public void set(long component, Ends ends) {
        if (ends.from().isBlank() || ends.to().isBlank()) {
            jdbc.sql("delete from interface_ends where component_id = :id")
                    .param("id", component)
                    .update();
            return;
        }
        jdbc.sql(
                        """
                        insert into interface_ends (component_id, from_party, to_party) values (:id, :from, :to)
                            on conflict (component_id) do update set from_party = excluded.from_party, to_party = excluded.to_party""")
                .param("id", component)
                .param("from", ends.from())
                .param("to", ends.to())
                .update();
    }
}
