package app.morvet.work.callouts;

import app.morvet.core.callouts.Way;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of deliveries; of their tries see {@link DeliveryTries}. */
@Repository
class DeliveryStore {
    private final JdbcClient jdbc;

    DeliveryStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static Delivery delivery(ResultSet row, int number) throws SQLException {
        var course = row.getObject("course_id", Long.class);
        var connection = row.getObject("connection_id", Long.class);
        return new Delivery(
                row.getObject("id", UUID.class),
                of(row),
                new Delivery.To(
                        row.getObject("team_id", Long.class),
                        row.getObject("person_id", Long.class),
                        new Delivery.Hop(Way.valueOf(row.getString("way")), row.getString("recipient"), connection),
                        further((String[]) row.getArray("further").getArray())),
                row.getObject("by_id", Long.class),
                Delivery.About.valueOf(row.getString("about")),
                course == null
                        ? null
                        : new Delivery.Turn(course, row.getInt("step"), row.getInt("round"), row.getString("who")),
                row.getString("subject"),
                row.getString("body"),
                row.getString("html"),
                row.getString("brief"),
                Delivery.State.valueOf(row.getString("state")),
                Stamp.in(row, "made_at"),
                Stamp.orNull(row, "sent_at"),
                Stamp.orNull(row, "first_try"),
                Stamp.orNull(row, "next_try"),
                row.getInt("failures"),
                row.getString("last_error"),
                row.getString("outside_id"));
    }

    private static Delivery.Of of(ResultSet row) throws SQLException {
        var of = row.getObject("case_id", Long.class);
        if (of != null) return new Delivery.Of.Case(of);
        var window = row.getObject("window_id", Long.class);
        if (window != null) return new Delivery.Of.Window(window);
        var handover = row.getObject("handover_id", Long.class);
        if (handover != null) return new Delivery.Of.Handover(handover);
        var rule = row.getObject("rule_id", Long.class);
        return rule != null ? new Delivery.Of.Rule(rule) : new Delivery.Of.Vendor(row.getLong("component_id"));
    }

    /** {@code TEXT 4 +358 00 555 0101}: the way, the connection or 0, the address. */
    private static List<Delivery.Hop> further(String[] kept) {
        var hops = new ArrayList<Delivery.Hop>();
        for (var one : kept) {
            var parts = one.split(" ", 3);
            long connection = Long.parseLong(parts[1]);
            hops.add(new Delivery.Hop(Way.valueOf(parts[0]), parts[2], connection == 0 ? null : connection));
        }
        return hops;
    }

    private static String[] kept(List<Delivery.Hop> further) {
        return further.stream()
                .map(one ->
                        "%s %d %s".formatted(one.way(), one.connection() == null ? 0 : one.connection(), one.address()))
                .toArray(String[]::new);
    }

    void add(Delivery delivery) {
        var turn = delivery.turn();
        jdbc.sql(
                        """
                        insert into delivery (id, case_id, window_id, component_id, rule_id, handover_id, team_id, person_id, by_id, about,
                                              course_id, step, round, who, way, recipient, connection_id, further,
                                              subject, body, html, brief, state, made_at, next_try)
                        values (:id, :case, :window, :component, :rule, :handover, :team, :person, :by, :about,
                                :course, :step, :round, :who, :way, :recipient, :connection, :further,
                                :subject, :body, :html, :brief, 'WAITING', :at, :next)""")
                .param("id", delivery.id())
                .param("case", delivery.caseId())
                .param("window", delivery.of() instanceof Delivery.Of.Window one ? one.id() : null)
                .param("component", delivery.of() instanceof Delivery.Of.Vendor one ? one.component() : null)
                .param("rule", delivery.of() instanceof Delivery.Of.Rule one ? one.id() : null)
                .param("handover", delivery.of() instanceof Delivery.Of.Handover one ? one.id() : null)
                .param("team", delivery.to().team())
                .param("person", delivery.to().person())
                .param("by", delivery.by())
                .param("about", delivery.about().name())
                .param("course", turn == null ? null : turn.course())
                .param("step", turn == null ? null : turn.step())
                .param("round", turn == null ? null : turn.round())
                .param("who", turn == null ? null : turn.who())
                .param("way", delivery.to().hop().way().name())
                .param("recipient", delivery.recipient())
                .param("connection", delivery.to().hop().connection())
                .param("further", kept(delivery.to().further()))
                .param("subject", delivery.subject())
                .param("body", delivery.body())
                .param("html", delivery.html())
                .param("brief", delivery.brief())
                .param("at", Stamp.of(delivery.madeAt()))
                .param("next", Stamp.of(delivery.nextTry()))
                .update();
    }

    /** When somebody was told last at once by a way, in a span before an instant, that something is theirs to take. */
    Optional<Instant> firstOfBurst(Delivery.Hop hop, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select max(made_at) as at from delivery
                         where recipient = :recipient and way = :way and not burst and about in ('OPENED', 'LATE', 'RETURNED', 'NOT_ACCEPTED')
                           and made_at > :from and made_at <= :to""")
                .param("recipient", hop.address())
                .param("way", hop.way().name())
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> Optional.ofNullable(Stamp.orNull(row, "at")))
                .single();
    }

    /** It goes with what else the same person is told until then. */
    void waits(UUID id, Instant until) {
        jdbc.sql("update delivery set burst = true, next_try = :until where id = :id")
                .param("id", id)
                .param("until", Stamp.of(until))
                .update();
    }

    /** What waits to go to somebody in one message and is due, the first first; empty where one is not of such. */
    List<Delivery> burst(Delivery one, Instant now) {
        return jdbc.sql(
                        """
                        select * from delivery
                         where burst and state = 'WAITING' and recipient = :recipient and way = :way and next_try <= :now
                           and exists (select 1 from delivery where id = :id and burst)
                         order by made_at, id limit 100""")
                .param("id", one.id())
                .param("recipient", one.recipient())
                .param("way", one.to().hop().way().name())
                .param("now", Stamp.of(now))
                .query(DeliveryStore::delivery)
                .list();
    }

    Optional<Delivery> byId(UUID id) {
        return jdbc.sql("select * from delivery where id = :id")
                .param("id", id)
                .query(DeliveryStore::delivery)
                .optional();
    }

    /** The same, and nobody changes it until the end of the running transaction. */
    Optional<Delivery> lock(UUID id) {
        return jdbc.sql("select * from delivery where id = :id for no key update")
                .param("id", id)
                .query(DeliveryStore::delivery)
                .optional();
    }

    /** The case that something outside calls by a name of its own. */
    Optional<Long> caseCalled(long connection, String outsideId) {
        return jdbc.sql(
                        """
                        select case_id from delivery
                         where connection_id = :connection and outside_id = :id and outside_id <> '' and case_id is not null
                         order by made_at desc limit 1""")
                .param("connection", connection)
                .param("id", outsideId)
                .query(Long.class)
                .optional();
    }

    /** One who was told of a case. */
    record Told(Delivery.Turn turn, Instant at, boolean cannot) {}

    /** Who was told by some courses, in the order in which they were. */
    List<Told> toldBy(List<Long> courses) {
        if (courses.isEmpty()) return List.of();
        return jdbc.sql(
                        """
                        select d.course_id, d.step, d.round, d.who, d.made_at,
                               d.state = 'GIVEN_UP'
                                 or exists (select 1 from call_out_link l where l.delivery_id = d.id and l.answer = 'CANNOT') as cannot
                          from delivery d
                         where d.course_id in (:courses) and d.about in ('OPENED', 'LATE', 'RETURNED', 'NOT_ACCEPTED')
                         order by d.made_at""")
                .param("courses", courses)
                .query((row, number) -> new Told(
                        new Delivery.Turn(
                                row.getLong("course_id"),
                                row.getInt("step"),
                                row.getInt("round"),
                                row.getString("who")),
                        Stamp.in(row, "made_at"),
                        row.getBoolean("cannot")))
                .list();
    }

    /** All that was said of a case since an instant, the first first. */
    List<Delivery> since(long caseId, Instant since) {
        return jdbc.sql("select * from delivery where case_id = :case and made_at >= :since order by made_at")
                .param("case", caseId)
                .param("since", Stamp.of(since))
                .query(DeliveryStore::delivery)
                .list();
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

    List<Delivery> ofRule(long rule, int most) {
        return latest("rule_id", rule, most);
    }

    private List<Delivery> latest(String column, long id, int most) {
        return jdbc.sql("select * from delivery where " + column + " = :id order by made_at desc limit :most")
                .param("id", id)
                .param("most", most)
                .query(DeliveryStore::delivery)
                .list();
    }

    /**
     * The latest first.
     *
     * @param person to whom; null is to anybody
     * @param words  that stand in the subject or in the address; empty is any
     */
    List<Delivery> find(boolean openOnly, @Nullable Long person, String words, int skip, int size) {
        return jdbc.sql(
                        """
                        select * from delivery
                         where (not :open or state <> 'SENT')
                           and (:person::bigint is null or person_id = :person)
                           and (:words = '' or subject ilike :pattern or recipient ilike :pattern)
                         order by made_at desc, id limit :size offset :skip""")
                .param("open", openOnly)
                .param("person", person)
                .param("words", words)
                .param(
                        "pattern",
                        "%" + words.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%")
                .param("size", size)
                .param("skip", skip)
                .query(DeliveryStore::delivery)
                .list();
    }

    /** What waits to be sent and was made before an instant, the first first. */
    List<Delivery> waiting(Instant before, int most) {
        return jdbc.sql(
                        "select * from delivery where state = 'WAITING' and made_at < :before order by made_at limit :most")
                .param("before", Stamp.of(before))
                .param("most", most)
                .query(DeliveryStore::delivery)
                .list();
    }

    /** How often each was told since an instant, by person. */
    List<Often> often(Instant since) {
        return jdbc.sql(
                        """
                        select person_id, count(*) as times from delivery
                         where person_id is not null and made_at >= :since and about in ('OPENED', 'LATE', 'RETURNED', 'NOT_ACCEPTED', 'UNHEARD')
                         group by person_id order by times desc, person_id""")
                .param("since", Stamp.of(since))
                .query((row, number) -> new Often(row.getLong("person_id"), row.getLong("times")))
                .list();
    }

    record Often(long person, long times) {}

    /** How many were given up, by way. */
    Map<Way, Long> givenUp() {
        var found = new EnumMap<Way, Long>(Way.class);
        jdbc.sql("select way, count(*) as n from delivery where state = 'GIVEN_UP' group by way")
                .query(row -> {
                    found.put(Way.valueOf(row.getString("way")), row.getLong("n"));
                });
        return found;
    }

    /** @param outsideId what it is called where it was sent; empty where it has no name there */
    void sent(UUID id, String outsideId, Instant at) {
        jdbc.sql(
                        """
                        update delivery set state = 'SENT', sent_at = :at, first_try = coalesce(first_try, :at), next_try = null,
                               last_error = '', outside_id = :outside
                         where id = :id""")
                .param("id", id)
                .param("outside", outsideId)
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

    /** It goes by another way from now on. */
    void turned(UUID id, Delivery.To to, Instant at, String error) {
        jdbc.sql(
                        """
                        update delivery
                           set way = :way, recipient = :recipient, connection_id = :connection, further = :further,
                               first_try = null, failures = 0, next_try = :at, last_error = :error
                         where id = :id""")
                .param("id", id)
                .param("way", to.hop().way().name())
                .param("recipient", to.hop().address())
                .param("connection", to.hop().connection())
                .param("further", kept(to.further()))
                .param("at", Stamp.of(at))
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
