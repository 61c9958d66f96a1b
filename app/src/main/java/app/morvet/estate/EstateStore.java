package app.morvet.estate;

import app.morvet.base.Stamp;
import app.morvet.core.estate.Tier;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
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

    List<Estate.Interface> interfaces() {
        return jdbc.sql("select id, key, name, application_id from component where kind = 'interface' order by name")
                .query((row, number) -> new Estate.Interface(
                        row.getLong("id"),
                        row.getString("key"),
                        row.getString("name"),
                        row.getObject("application_id", Long.class)))
                .list();
    }

    List<Estate.Feed> feeds() {
        return jdbc.sql(
                        "select id, key, name, extract(epoch from cadence)::bigint as cadence, last_heard from feed order by name")
                .query((row, number) -> new Estate.Feed(
                        row.getLong("id"),
                        row.getString("key"),
                        row.getString("name"),
                        Duration.ofSeconds(row.getLong("cadence")),
                        Stamp.orNull(row, "last_heard")))
                .list();
    }

    /** One row a key: what is there already stays as it is. */
    void registerInterfaces(List<String> keys, Instant at) {
        jdbc.sql(
                        """
                        insert into component (key, name, kind, first_seen)
                        select key, key, 'interface', :at
                          from unnest(:keys::text[]) as key
                            on conflict (key) do nothing""")
                .param("keys", keys.toArray(String[]::new))
                .param("at", Stamp.of(at))
                .update();
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

    void addInterface(String key, String name, long application, Instant at) {
        jdbc.sql(
                        """
                        insert into component (key, name, kind, application_id, first_seen)
                        values (:key, :name, 'interface', :application, :at)""")
                .param("key", key)
                .param("name", name)
                .param("application", application)
                .param("at", Stamp.of(at))
                .update();
    }

    long addFeed(String key, String name, Duration cadence) {
        return jdbc.sql(
                        "insert into feed (key, name, cadence) values (:key, :name, make_interval(secs => :seconds)) returning id")
                .param("key", key)
                .param("name", name)
                .param("seconds", cadence.toSeconds())
                .query(Long.class)
                .single();
    }
}
