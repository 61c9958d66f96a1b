package app.morvet.ground.connections;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.FreshDatabase;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;

/** A database of the version before keeps what it called outside, and its handoffs the desk that they went to. */
class ConnectionsMigrationTest {
    @Test
    void allThatWasConnectedStaysConnected() throws Exception {
        var source = FreshDatabase.empty();
        Flyway.configure().dataSource(source).target("17").load().migrate();
        var jdbc = JdbcClient.create(source);
        jdbc.sql(
                        """
                        insert into feed (key, name, cadence) values ('hub', 'Integration hub', interval '1 min'),
                                                                     ('night', 'Batch scheduler', interval '1 min');
                        insert into desk_connection (key, name, url, create_path, read_path, headers, template, number_path, state_path,
                                                     reason_path, states, page_path, secret, poll_seconds, version)
                        values ('old', 'Old desk', 'http://old', '/c', '/r/{{ticket}}', '', '{}', '$.n', '$.s', '$.r', '', '', '', 5, 1),
                               ('desk', 'Desk', 'http://desk', '/c', '/r/{{ticket}}', 'X-Who: morvet', '{}', '$.n', '$.s', '$.r',
                                'open = sent', '/p', 'hush', 15, 4);
                        insert into middleware (feed_id, url, send_path, headers, version)
                        select id, 'http://hub', '/again', 'Authorization: Bearer x', 2 from feed where key = 'hub';
                        insert into scheduler (feed_id, url, path, headers, slots)
                        select id, 'http://night', '/orders', '', 4 from feed where key = 'night';
                        insert into person (login, name, password_hash, role) values ('a', 'Annika Ruuth', 'x', 'ANALYST');
                        insert into team (key, name, mail) values ('t', 'Team', 't@sundrava.example');
                        insert into component (key, name, kind, first_seen) values ('i', 'Interface', 'interface', now());
                        insert into work_case (state, component_id, topic_since, severity, headline, opened_at, first_seen, last_seen, failures)
                        select 'NEW', id, now(), 'WARNING', 'h', now(), now(), now(), 1 from component;
                        insert into handoff (id, case_id, team_id, connection_id, title, story, body, state, made_at, made_by, changed_at)
                        select gen_random_uuid(), c.id, t.id, d.id, 't', 's', '{}', 'SENT', now(), p.id, now()
                          from work_case c, team t, person p, desk_connection d where d.key = 'desk'""")
                .update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql(
                                """
                                select sort || ' ' || name || ' ' || url || ' ' || version || ' ' || coalesce(settings ->> 'sendPath', settings ->> 'slots', settings ->> 'pollSeconds')
                                  from outside_connection order by 1""")
                        .query(String.class)
                        .list())
                .containsExactly(
                        "desk Desk http://desk 4 15",
                        "desk Old desk http://old 1 5",
                        "middleware Integration hub http://hub 2 /again",
                        "scheduler Batch scheduler http://night 1 4");
        assertThat(jdbc.sql(
                                "select c.key || ' ' || c.secret || ' ' || c.headers from handoff h join outside_connection c on c.id = h.connection_id")
                        .query(String.class)
                        .single())
                .isEqualTo("desk hush X-Who: morvet");
        // What is connected later gets a number of its own.
        assertThat(jdbc.sql(
                                """
                                insert into outside_connection (sort, key, name, url, headers, secret, settings)
                                values ('desk', 'new', 'New', 'http://new', '', '', '{}') returning id""")
                        .query(Long.class)
                        .single())
                .isGreaterThan(4);
    }
}
