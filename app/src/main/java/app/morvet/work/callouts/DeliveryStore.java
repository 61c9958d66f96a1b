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
                row.getObject("person_id", Long.class),
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
                        insert into delivery (id, case_id, window_id, component_id, team_id, person_id, by_id, about, recipient, subject, body, state, made_at, next_try)
                        values (:id, :case, :window, :component, :team, :person, :by, :about, :recipient, :subject, :body, 'WAITING', :at, :next)""")
                .param("id", delivery.id())
                .param("case", delivery.caseId())
                .param("window", delivery.of() instanceof Delivery.Of.Window one ? one.id() : null)
                .param("component", delivery.of() instanceof Delivery.Of.Vendor one ? one.component() : null)
                .param("team", delivery.team())
                .param("person", delivery.person())
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

    /** The latest that was said about a case to those whose it is. */
    Optional<Delivery> lastOf(long caseId) {
        return jdbc.sql(
                        "select * from delivery where case_id = :case and about in ('OPENED', 'OVER') order by made_at desc limit 1")
                .param("case", caseId)
                .query(DeliveryStore::delivery)
                .optional();
    }

    /** One who was told of a case. */
    record Told(@Nullable Long person, @Nullable Long team, String recipient, Instant at, boolean cannot) {}

    /**
     * Who was told of a case since it was last over, in that order.
     *
     * @param about that it is theirs to take, or that it explains trouble of theirs
     */
    List<Told> toldOf(long caseId, Delivery.About about) {
        return jdbc.sql(
                        """
                        select d.person_id, d.team_id, d.recipient, d.made_at,
                               exists (select 1 from call_out_link l where l.delivery_id = d.id and l.answer = 'CANNOT') as cannot
                          from delivery d
                         where d.case_id = :case and d.about = :about
                           and d.made_at > coalesce((select max(made_at) from delivery where case_id = :case and about = 'OVER'), '-infinity')
                         order by d.made_at""")
                .param("case", caseId)
                .param("about", about.name())
                .query((row, number) -> new Told(
                        row.getObject("person_id", Long.class),
                        row.getObject("team_id", Long.class),
                        row.getString("recipient"),
                        Stamp.in(row, "made_at"),
                        row.getBoolean("cannot")))
                .list();
    }

    void unheard(long caseId, Instant since) {
        jdbc.sql(
                        "insert into call_out_unheard (case_id, since) values (:case, :since) on conflict (case_id) do update set since = excluded.since")
                .param("case", caseId)
                .param("since", Stamp.of(since))
                .update();
    }

    void heard(long caseId) {
        jdbc.sql("delete from call_out_unheard where case_id = :case")
                .param("case", caseId)
                .update();
    }

    /** Cases that all who can be told were told of, and of which nobody took any then. */
    List<Long> unheard() {
        return jdbc.sql("select case_id from call_out_unheard order by since")
                .query(Long.class)
                .list();
    }

    void addLink(byte[] hash, UUID delivery, Instant at) {
        jdbc.sql("insert into call_out_link (hash, delivery_id, made_at) values (:hash, :delivery, :at)")
                .param("hash", hash)
                .param("delivery", delivery)
                .param("at", Stamp.of(at))
                .update();
    }

    void dropLinks(Instant before) {
        jdbc.sql("delete from call_out_link where made_at < :before")
                .param("before", Stamp.of(before))
                .update();
    }

    /** @param answer {@code TAKEN}, {@code CANNOT}, {@code QUIET}, or null while there is none */
    record Link(UUID delivery, Instant madeAt, @Nullable String answer) {}

    Optional<Link> link(byte[] hash) {
        return jdbc.sql("select * from call_out_link where hash = :hash for update")
                .param("hash", hash)
                .query((row, number) -> new Link(
                        row.getObject("delivery_id", UUID.class), Stamp.in(row, "made_at"), row.getString("answer")))
                .optional();
    }

    void answered(byte[] hash, String answer, Instant at) {
        jdbc.sql("update call_out_link set answer = :answer, answered_at = :at where hash = :hash")
                .param("hash", hash)
                .param("answer", answer)
                .param("at", Stamp.of(at))
                .update();
    }

    List<Delivery> ofCase(long caseId) {
        return latest("case_id", caseId, 50);
    }

    List<Delivery> ofWindow(long window, int most) {
        return latest("window_id", window, most);
    }

    List<Delivery> ofVendor(long component, int most) {
        return latest("component_id", component, most);
    }

    private List<Delivery> latest(String column, long id, int most) {
        return jdbc.sql("select * from delivery where " + column + " = :id order by made_at desc limit :most")
                .param("id", id)
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
