package app.morvet.work.callouts;

import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of deliveries. */
@Repository
class DeliveryStore {
    private final JdbcClient jdbc;

    DeliveryStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static Delivery delivery(ResultSet row, int number) throws SQLException {
        return new Delivery(
                row.getObject("id", UUID.class),
                of(row),
                row.getObject("team_id", Long.class),
                row.getObject("by_id", Long.class),
                Delivery.About.valueOf(row.getString("about")),
                row.getString("recipient"),
                row.getString("subject"),
                row.getString("body"),
                Delivery.State.valueOf(row.getString("state")),
                Stamp.in(row, "made_at"),
                Stamp.orNull(row, "sent_at"),
                Stamp.orNull(row, "first_try"),
                Stamp.orNull(row, "next_try"),
                row.getInt("failures"),
                row.getString("last_error"));
    }

    private static Delivery.Of of(ResultSet row) throws SQLException {
        var of = row.getObject("case_id", Long.class);
        if (of != null) return new Delivery.Of.Case(of);
        var window = row.getObject("window_id", Long.class);
        return window != null ? new Delivery.Of.Window(window) : new Delivery.Of.Vendor(row.getLong("component_id"));
    }

    void add(Delivery delivery) {
        jdbc.sql(
                        """
                        insert into delivery (id, case_id, window_id, component_id, team_id, by_id, about, recipient, subject, body, state, made_at, next_try)
                        values (:id, :case, :window, :component, :team, :by, :about, :recipient, :subject, :body, 'WAITING', :at, :next)""")
                .param("id", delivery.id())
                .param("case", delivery.caseId())
                .param("window", delivery.of() instanceof Delivery.Of.Window one ? one.id() : null)
                .param("component", delivery.of() instanceof Delivery.Of.Vendor one ? one.component() : null)
                .param("team", delivery.team())
                .param("by", delivery.by())
                .param("about", delivery.about().name())
                .param("recipient", delivery.recipient())
                .param("subject", delivery.subject())
                .param("body", delivery.body())
                .param("at", Stamp.of(delivery.madeAt()))
                .param("next", Stamp.of(delivery.nextTry()))
                .update();
    }

    Optional<Delivery> byId(UUID id) {
        return jdbc.sql("select * from delivery where id = :id")
                .param("id", id)
                .query(DeliveryStore::delivery)
                .optional();
    }

    /** The latest that was said about a case. */
    Optional<Delivery> lastOf(long caseId) {
        return jdbc.sql("select * from delivery where case_id = :case order by made_at desc limit 1")
                .param("case", caseId)
                .query(DeliveryStore::delivery)
                .optional();
    }

    List<Delivery> ofCase(long caseId) {
        return jdbc.sql("select * from delivery where case_id = :case order by made_at desc limit 50")
                .param("case", caseId)
                .query(DeliveryStore::delivery)
                .list();
    }

    List<Delivery> ofWindow(long window, int most) {
        return jdbc.sql("select * from delivery where window_id = :window order by made_at desc limit :most")
                .param("window", window)
                .param("most", most)
                .query(DeliveryStore::delivery)
                .list();
    }

    List<Delivery> ofVendor(long component, int most) {
        return jdbc.sql("select * from delivery where component_id = :component order by made_at desc limit :most")
                .param("component", component)
                .param("most", most)
                .query(DeliveryStore::delivery)
                .list();
    }

    List<Delivery> recent(boolean openOnly, int size) {
        return jdbc.sql("select * from delivery where (not :open or state <> 'SENT') order by made_at desc limit :size")
                .param("open", openOnly)
                .param("size", size)
                .query(DeliveryStore::delivery)
                .list();
    }

    /** @return how many wait after a failed try, since when the oldest of them does, and how many were given up */
    Trouble trouble() {
        return jdbc.sql(
                        """
                        select count(*) filter (where state = 'WAITING' and failures > 0) as waiting,
                               min(first_try) filter (where state = 'WAITING' and failures > 0) as since,
                               count(*) filter (where state = 'GIVEN_UP') as given_up
                          from delivery where state <> 'SENT'""")
                .query((row, number) ->
                        new Trouble(row.getLong("waiting"), Stamp.orNull(row, "since"), row.getLong("given_up")))
                .single();
    }

    record Trouble(long waiting, @Nullable Instant since, long givenUp) {}

    void sent(UUID id, Instant at) {
        jdbc.sql(
                        """
                        update delivery set state = 'SENT', sent_at = :at, first_try = coalesce(first_try, :at), next_try = null, last_error = ''
                         where id = :id""")
                .param("id", id)
                .param("at", Stamp.of(at))
                .update();
    }

    void failed(UUID id, Delivery.State state, Instant at, @Nullable Instant nextTry, String error) {
        jdbc.sql(
                        """
                        update delivery
                           set state = :state, first_try = coalesce(first_try, :at), next_try = :next,
                               failures = failures + 1, last_error = :error
                         where id = :id""")
                .param("id", id)
                .param("state", state.name())
                .param("at", Stamp.of(at))
                .param("next", Stamp.of(nextTry))
                .param("error", error)
                .update();
    }

    void again(UUID id, Instant at) {
        jdbc.sql(
                        "update delivery set state = 'WAITING', first_try = null, next_try = :at where id = :id and state <> 'SENT'")
                .param("id", id)
                .param("at", Stamp.of(at))
                .update();
    }

    void withdraw(UUID id) {
        jdbc.sql("delete from delivery where id = :id").param("id", id).update();
    }
}
