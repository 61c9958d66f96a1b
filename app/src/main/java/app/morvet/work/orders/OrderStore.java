package app.morvet.work.orders;

import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of orders. */
@Repository
class OrderStore {
    private final JdbcClient jdbc;

    OrderStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static Order order(ResultSet row, int number) throws SQLException {
        return new Order(
                row.getLong("id"),
                row.getLong("component_id"),
                row.getString("run_ref"),
                Order.Kind.valueOf(row.getString("kind")),
                Stamp.in(row, "at"),
                row.getLong("by_id"),
                Order.State.valueOf(row.getString("state")),
                row.getString("words"),
                row.getInt("tries"),
                Stamp.orNull(row, "done_at"));
    }

    long add(long component, String run, Order.Kind kind, Instant at, long by) {
        return jdbc.sql(
                        """
                        insert into scheduler_order (component_id, run_ref, kind, at, by_id, state, words)
                        values (:component, :run, :kind, :at, :by, 'WAITING', '') returning id""")
                .param("component", component)
                .param("run", run)
                .param("kind", kind.name())
                .param("at", Stamp.of(at))
                .param("by", by)
                .query(Long.class)
                .single();
    }

    Optional<Order> byId(long id) {
        return jdbc.sql("select * from scheduler_order where id = :id")
                .param("id", id)
                .query(OrderStore::order)
                .optional();
    }

    List<Order> latest(long component, int most) {
        return jdbc.sql("select * from scheduler_order where component_id = :component order by id desc limit :most")
                .param("component", component)
                .param("most", most)
                .query(OrderStore::order)
                .list();
    }

    /** Notes a try that came to nothing yet, or what came of it. */
    void tried(long id, Order.State state, String words, Instant at) {
        jdbc.sql(
                        """
                        update scheduler_order
                           set state = :state, words = :words, tries = tries + 1,
                               done_at = case when :state = 'WAITING' then null else :at::timestamptz end
                         where id = :id""")
                .param("id", id)
                .param("state", state.name())
                .param("words", words)
                .param("at", Stamp.of(at))
                .update();
    }
}
