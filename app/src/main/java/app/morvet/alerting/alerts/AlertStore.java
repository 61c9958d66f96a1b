package app.morvet.alerting.alerts;

import app.morvet.core.alert.About;
import app.morvet.core.alert.Move;
import app.morvet.core.alert.Origin;
import app.morvet.core.alert.Raised;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Topic;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of alerts. */
@Repository
class AlertStore {
    private static final int LOCK = 0x6d6f7277;
    /** From the least bad on, as columns name them. */
    private static final String[] LEVELS =
            Arrays.stream(Severity.values()).map(Severity::name).toArray(String[]::new);

    private final JdbcClient jdbc;

    AlertStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static Alert alert(ResultSet row, int number) throws SQLException {
        return new Alert(
                row.getLong("id"),
                origin(row),
                about(row),
                row.getObject("subject_id", Long.class),
                Severity.valueOf(row.getString("level")),
                row.getDouble("value"),
                row.getDouble("worst"),
                Stamp.in(row, "raised_at"),
                Stamp.orNull(row, "cleared_at"),
                row.getBoolean("flaps"),
                row.getBoolean("held"),
                row.getString("words"),
                row.getString("worst_words"));
    }

    private static Origin origin(ResultSet row) throws SQLException {
        return new Origin(row.getString("origin_kind"), row.getLong("origin_id"));
    }

    private static About about(ResultSet row) throws SQLException {
        return new About(row.getLong("component_id"), row.getLong("cause_id"), Topic.parse(row.getString("topic")));
    }

    /** Until the end of the transaction, no other makes changes to alerts. */
    void lock() {
        jdbc.sql("select 1 from (select pg_advisory_xact_lock(:lock)) as locked")
                .param("lock", LOCK)
                .query(Integer.class)
                .single();
    }

    Alert raise(Move raised, boolean held) {
        var about = raised.about();
        var topic = about.topic();
        var change = raised.transition();
        return jdbc.sql(
                        """
                        insert into alert (origin_kind, origin_id, fold_key, component_id, cause_id, topic, subject_id, raised_at,
                                           level, value, worst, words, worst_words, occasion, held)
                        values (:kind, :origin, :key, :component, :cause, :topic, :subject, :at,
                                :level, :value, :worst, :words, :words, :occasion, :held)
                        returning *""")
                .param("kind", raised.origin().kind())
                .param("origin", raised.origin().id())
                .param("key", raised.key())
                .param("component", about.component())
                .param("cause", about.cause())
                .param("topic", topic == null ? null : topic.text())
                .param("subject", raised.subject())
                .param("at", Stamp.of(change.at()))
                .param("level", String.valueOf(change.level()))
                .param("value", change.value())
                .param("worst", change.worst())
                .param("words", raised.words())
                .param("occasion", raised.occasion())
                .param("held", held)
                .query(AlertStore::alert)
                .single();
    }

    /** The one alert of a fold that is up. */
    Optional<Alert> up(Origin origin, String key) {
        return jdbc.sql(
                        """
                        select * from alert
                         where origin_kind = :kind and origin_id = :origin and fold_key = :key and cleared_at is null""")
                .param("kind", origin.kind())
                .param("origin", origin.id())
                .param("key", key)
                .query(AlertStore::alert)
                .optional();
    }

    Alert change(Alert before, Alert after) {
        jdbc.sql(
                        """
                        update alert
                           set subject_id = :subject, level = :level, value = :value, worst = :worst, cleared_at = :cleared,
                               flaps = :flaps, words = :words, worst_words = :worstWords
                         where id = :id""")
                .param("id", before.id())
                .param("subject", after.subject())
                .param("level", after.level().name())
                .param("value", after.value())
                .param("worst", after.worst())
                .param("cleared", Stamp.of(after.clearedAt()))
                .param("flaps", after.flaps())
                .param("words", after.words())
                .param("worstWords", after.worstWords())
                .update();
        return after;
    }

    /** It is held no longer. */
    Alert release(Alert held) {
        return jdbc.sql("update alert set held = false where id = :id returning *")
                .param("id", held.id())
                .query(AlertStore::alert)
                .single();
    }

    List<Alert> raisedIn(Instant from, Instant to, int most) {
        return jdbc.sql(
                        "select * from alert where raised_at >= :from and raised_at < :to order by raised_at limit :most")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("most", most)
                .query(AlertStore::alert)
                .list();
    }

    List<Alert> heldUp() {
        return jdbc.sql("select * from alert where held and cleared_at is null order by id")
                .query(AlertStore::alert)
                .list();
    }

    List<Raised> raised(String kind) {
        return jdbc.sql("select * from alert where origin_kind = :kind and cleared_at is null order by id")
                .param("kind", kind)
                .query((row, number) -> new Raised(
                        origin(row),
                        row.getString("fold_key"),
                        about(row),
                        Stamp.in(row, "raised_at"),
                        Severity.valueOf(row.getString("level")),
                        row.getDouble("value"),
                        row.getDouble("worst"),
                        row.getString("words"),
                        row.getString("occasion")))
                .list();
    }

    List<Alert> byIds(Collection<Long> ids) {
        return jdbc.sql("select * from alert where id = any(:ids::bigint[]) order by raised_at desc, id desc")
                .param("ids", ids.toArray(Long[]::new))
                .query(AlertStore::alert)
                .list();
    }

    /** Those that are up and not held. */
    List<Alert> up() {
        return jdbc.sql("select * from alert where cleared_at is null and not held order by raised_at, id")
                .query(AlertStore::alert)
                .list();
    }

    List<Alert> upOf(String kind, Collection<Long> origins) {
        return jdbc.sql(
                        """
                        select * from alert
                         where origin_kind = :kind and origin_id = any(:origins::bigint[]) and cleared_at is null and not held
                         order by raised_at, id""")
                .param("kind", kind)
                .param("origins", origins.toArray(Long[]::new))
                .query(AlertStore::alert)
                .list();
    }

    List<Alert> upOn(Collection<Long> components) {
        return jdbc.sql(
                        """
                        select * from alert
                         where component_id = any(:components::bigint[]) and cleared_at is null and not held
                         order by raised_at, id""")
                .param("components", components.toArray(Long[]::new))
                .query(AlertStore::alert)
                .list();
    }

    Map<Long, Alerts.Up> sumsOn(Collection<Long> components) {
        var sums = new HashMap<Long, Alerts.Up>();
        jdbc.sql(
                        """
                        select component_id, count(*) as alerts, min(raised_at) as since,
                               max(array_position(:levels::text[], level)) as worst
                          from alert where component_id = any(:components::bigint[]) and cleared_at is null and not held
                         group by component_id""")
                .param("levels", LEVELS)
                .param("components", components.toArray(Long[]::new))
                .query(row -> {
                    var worst = Severity.values()[row.getInt("worst") - 1];
                    sums.put(
                            row.getLong("component_id"),
                            new Alerts.Up(row.getInt("alerts"), worst, Stamp.in(row, "since")));
                });
        return sums;
    }

    /** When the same origin raised alerts on the same component as one, in a half-open span and in order of time. */
    List<Instant> raisedTimes(Alert like, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select raised_at from alert
                         where origin_kind = :kind and origin_id = :origin and raised_at >= :from and raised_at < :to
                           and component_id = :component
                         order by raised_at""")
                .param("kind", like.origin().kind())
                .param("origin", like.origin().id())
                .param("component", like.about().component())
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> Stamp.in(row, "raised_at"))
                .list();
    }

    List<Long> idsOf(Origin origin, Instant since, int most) {
        return jdbc.sql(
                        """
                        select id from alert where origin_kind = :kind and origin_id = :origin and raised_at >= :since
                         order by raised_at desc limit :most""")
                .param("kind", origin.kind())
                .param("origin", origin.id())
                .param("since", Stamp.of(since))
                .param("most", most)
                .query(Long.class)
                .list();
    }

    List<Long> idsOn(long component, Origin origin, Instant since, int most) {
        return jdbc.sql(
                        """
                        select id from alert where component_id = :component and origin_kind = :kind and origin_id = :origin
                           and raised_at >= :since
                         order by raised_at desc limit :most""")
                .param("component", component)
                .param("kind", origin.kind())
                .param("origin", origin.id())
                .param("since", Stamp.of(since))
                .param("most", most)
                .query(Long.class)
                .list();
    }

    /** All that were up in a span and are not held. */
    List<Alerts.Stretch> stretches(Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select component_id, level, raised_at, cleared_at from alert
                         where cleared_at > :from and raised_at < :to and not held
                        union all
                        select component_id, level, raised_at, cleared_at from alert
                         where cleared_at is null and raised_at < :to and not held""")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> stretch(row))
                .list();
    }

    /** Alerts of some components that were up in a span. */
    List<Alerts.Stretch> stretches(Collection<Long> components, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select component_id, level, raised_at, cleared_at from alert
                         where component_id = any(:components::bigint[]) and raised_at < :to and cleared_at > :from
                        union all
                        select component_id, level, raised_at, cleared_at from alert
                         where component_id = any(:components::bigint[]) and raised_at < :to and cleared_at is null""")
                .param("components", components.toArray(Long[]::new))
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> stretch(row))
                .list();
    }

    private static Alerts.Stretch stretch(ResultSet row) throws SQLException {
        @Nullable Instant to = Stamp.orNull(row, "cleared_at");
        return new Alerts.Stretch(
                row.getLong("component_id"), Severity.valueOf(row.getString("level")), Stamp.in(row, "raised_at"), to);
    }
}
