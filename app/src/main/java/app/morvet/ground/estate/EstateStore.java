package app.morvet.ground.estate;

import app.morvet.core.estate.Tier;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of the estate. */
@Repository
class EstateStore {
    private final JdbcClient jdbc;

    EstateStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    List<Estate.Team> teams() {
        return jdbc.sql("select id, key, name, mail from team order by name")
                .query((row, number) -> new Estate.Team(
                        row.getLong("id"), row.getString("key"), row.getString("name"), row.getString("mail")))
                .list();
    }

    List<Estate.Application> applications() {
        return jdbc.sql("select id, key, name, tier, environment, team_id from application order by tier, name")
                .query((row, number) -> new Estate.Application(
                        row.getLong("id"),
                        row.getString("key"),
                        row.getString("name"),
                        new Tier(row.getInt("tier")),
                        row.getString("environment"),
                        row.getLong("team_id")))
                .list();
    }

    List<Estate.Component> components() {
        return jdbc.sql("select id, key, name, kind, application_id, stands_on, first_seen from component")
                .query((row, number) -> new Estate.Component(
                        row.getLong("id"),
                        row.getString("key"),
                        row.getString("name"),
                        row.getString("kind"),
                        row.getObject("application_id", Long.class),
                        row.getObject("stands_on", Long.class),
                        Stamp.in(row, "first_seen")))
                .list();
    }

    private static final String FEED =
            """
            select id, key, name, extract(epoch from cadence)::bigint as cadence, last_heard, fetch_url, failing_since, failure
              from feed""";

    List<Estate.Feed> feeds() {
        return jdbc.sql(FEED + " order by name").query(EstateStore::feed).list();
    }

    Optional<Estate.Feed> feed(long id) {
        return jdbc.sql(FEED + " where id = :id")
                .param("id", id)
                .query(EstateStore::feed)
                .optional();
    }

    private static Estate.Feed feed(ResultSet row, int number) throws SQLException {
        return new Estate.Feed(
                row.getLong("id"),
                row.getString("key"),
                row.getString("name"),
                Duration.ofSeconds(row.getLong("cadence")),
                Stamp.orNull(row, "last_heard"),
                row.getString("fetch_url"),
                Stamp.orNull(row, "failing_since"),
                row.getString("failure"));
    }

    /** One row a key: what is there already stays as it is. Gives back the keys of those that were not there. */
    List<String> register(List<Estate.Newcomer> newcomers, Instant at) {
        return jdbc.sql(
                        """
                        insert into component (key, name, kind, first_seen)
                        select key, key, kind, :at
                          from unnest(:keys::text[], :kinds::text[]) as newcomer(key, kind)
                            on conflict (key) do nothing returning key""")
                .param("keys", newcomers.stream().map(Estate.Newcomer::key).toArray(String[]::new))
                .param("kinds", newcomers.stream().map(Estate.Newcomer::kind).toArray(String[]::new))
                .param("at", Stamp.of(at))
                .query(String.class)
                .list();
    }

    void heard(long feed, Instant at) {
        jdbc.sql("update feed set last_heard = :at where id = :feed and (last_heard is null or last_heard < :at)")
                .param("feed", feed)
                .param("at", Stamp.of(at))
                .update();
    }

    long addTeam(String key, String name, String mail) {
        return jdbc.sql("insert into team (key, name, mail) values (:key, :name, :mail) returning id")
                .param("key", key)
                .param("name", name)
                .param("mail", mail)
                .query(Long.class)
                .single();
    }

    long addApplication(String key, String name, int tier, String environment, long team) {
        return jdbc.sql(
                        """
                        insert into application (key, name, tier, environment, team_id)
                        values (:key, :name, :tier, :environment, :team) returning id""")
                .param("key", key)
                .param("name", name)
                .param("tier", tier)
                .param("environment", environment)
                .param("team", team)
                .query(Long.class)
                .single();
    }

    long add(String key, String name, String kind, @Nullable Long application, Instant at) {
        return jdbc.sql(
                        """
                        insert into component (key, name, kind, application_id, first_seen)
                        values (:key, :name, :kind, :application, :at) returning id""")
                .param("key", key)
                .param("name", name)
                .param("kind", kind)
                .param("application", application)
                .param("at", Stamp.of(at))
                .query(Long.class)
                .single();
    }

    void seenSince(Instant at) {
        jdbc.sql("update component set first_seen = :at where first_seen > :at")
                .param("at", Stamp.of(at))
                .update();
    }

    /** What people may change of a component. */
    void change(long id, String name, String kind, @Nullable Long application, @Nullable Long standsOn) {
        jdbc.sql(
                        """
                        update component
                           set name = :name, kind = :kind, application_id = :application, stands_on = :on
                         where id = :id""")
                .param("id", id)
                .param("name", name)
                .param("kind", kind)
                .param("application", application)
                .param("on", standsOn)
                .update();
    }

    void changeTeam(Estate.Team one) {
        jdbc.sql("update team set name = :name, mail = :mail where id = :id")
                .param("id", one.id())
                .param("name", one.name())
                .param("mail", one.mail())
                .update();
    }

    void changeApplication(long id, String name, int tier, String environment, long team) {
        jdbc.sql(
                        "update application set name = :name, tier = :tier, environment = :environment, team_id = :team where id = :id")
                .param("id", id)
                .param("name", name)
                .param("tier", tier)
                .param("environment", environment)
                .param("team", team)
                .update();
    }

    void standsOn(String component, String on) {
        jdbc.sql("update component set stands_on = (select id from component where key = :on) where key = :component")
                .param("component", component)
                .param("on", on)
                .update();
    }

    void needs(String component, String other) {
        jdbc.sql(
                        """
                        insert into dependency (component_id, needs)
                        select one.id, other.id from component one, component other
                         where one.key = :component and other.key = :other
                            on conflict do nothing""")
                .param("component", component)
                .param("other", other)
                .update();
    }

    List<Groups.Group> groups() {
        return jdbc.sql(
                        """
                        select g.id, g.name, g.contact, g.rule, g.version,
                               array(select component_id from component_group_member m where m.group_id = g.id) as members
                          from component_group g order by lower(g.name), g.id""")
                .query((row, number) -> {
                    var rule = row.getString("rule");
                    return new Groups.Group(
                            row.getLong("id"),
                            row.getString("name"),
                            row.getString("contact"),
                            rule == null ? null : ScopeJson.read(rule),
                            Set.of((Long[]) row.getArray("members").getArray()),
                            row.getInt("version"));
                })
                .list();
    }

    /** Adds one with id 0, or changes one whose version is still the one given; 0 where it is not. */
    long keep(Groups.Group group) {
        var rule = group.rule();
        var sql = group.id() == 0
                ? "insert into component_group (name, contact, rule) values (:name, :contact, :rule::jsonb) returning id"
                : """
                  update component_group set name = :name, contact = :contact, rule = :rule::jsonb, version = version + 1
                   where id = :id and version = :version returning id""";
        long id = jdbc.sql(sql)
                .param("id", group.id())
                .param("version", group.version())
                .param("name", group.name())
                .param("contact", group.contact())
                .param("rule", rule == null ? null : ScopeJson.write(rule))
                .query(Long.class)
                .optional()
                .orElse(0L);
        if (id == 0) return 0;
        jdbc.sql("delete from component_group_member where group_id = :id")
                .param("id", id)
                .update();
        jdbc.sql("insert into component_group_member (group_id, component_id) select :id, unnest(:members::bigint[])")
                .param("id", id)
                .param("members", group.byHand().toArray(Long[]::new))
                .update();
        return id;
    }

    void deleteGroup(long id) {
        jdbc.sql("delete from component_group where id = :id").param("id", id).update();
    }

    /** A component and one that it needs. */
    record Need(long component, long needs) {}

    List<Need> needs() {
        return jdbc.sql("select component_id, needs from dependency order by component_id, needs")
                .query((row, number) -> new Need(row.getLong("component_id"), row.getLong("needs")))
                .list();
    }

    long addFeed(String key, String name, Duration cadence, @Nullable String url) {
        return jdbc.sql(
                        """
                        insert into feed (key, name, cadence, fetch_url)
                        values (:key, :name, make_interval(secs => :seconds), :url) returning id""")
                .param("key", key)
                .param("name", name)
                .param("seconds", cadence.toSeconds())
                .param("url", url)
                .query(Long.class)
                .single();
    }

    void fetchFailed(long feed, Instant at, String why) {
        jdbc.sql(
                        "update feed set failing_since = coalesce(failing_since, :at), failure = left(:why, 500) where id = :feed")
                .param("feed", feed)
                .param("at", Stamp.of(at))
                .param("why", why)
                .update();
    }

    void fetchWorks(long feed) {
        jdbc.sql("update feed set failing_since = null, failure = '' where id = :feed and failing_since is not null")
                .param("feed", feed)
                .update();
    }
}
