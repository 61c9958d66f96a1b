package app.morvet.work.callouts;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.FreshDatabase;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Who was told of a case by the version before is told to nobody twice, and whoever is next is told in time. */
class CallOutRulesMigrationTest {
    @Test
    void whatWasToldGoesOnByTheLastRule() throws Exception {
        var source = FreshDatabase.empty();
        Flyway.configure().dataSource(source).target("33").load().migrate();
        var jdbc = JdbcClient.create(source);
        jdbc.sql(
                        """
                        insert into team (key, name, mail) values ('f', 'Freight', 'f@sundrava.example');
                        insert into person (login, name, password_hash, role, mail) values ('o', 'Otso', 'x', 'MEMBER', 'o@sundrava.example');
                        insert into component (key, name, kind, first_seen) values ('open', 'open', 'host', now()), ('over', 'over', 'host', now());
                        insert into work_case (component_id, severity, headline, state, opened_at, first_seen, last_seen, failures, topic_since, over_since)
                        select id, 'CRITICAL', key, 'NEW', now() - interval '1 hour', now(), now(), 0, now(), case key when 'over' then now() end
                          from component;
                        insert into delivery (id, case_id, team_id, person_id, about, recipient, subject, body, state, made_at, failures, last_error)
                        select gen_random_uuid(), c.id, t.id, p.id, 'OPENED', 'o@sundrava.example', 's', 'b', 'SENT', now() - interval '50 min', 0, ''
                          from work_case c, team t, person p;
                        insert into delivery (id, case_id, team_id, about, recipient, subject, body, state, made_at, failures, last_error)
                        select gen_random_uuid(), c.id, t.id, 'OPENED', 'f@sundrava.example', 's', 'b', 'SENT', now() - interval '30 min', 0, ''
                          from work_case c, team t where c.headline = 'open';
                        insert into delivery (id, case_id, team_id, about, recipient, subject, body, state, made_at, failures, last_error)
                        select gen_random_uuid(), c.id, t.id, 'OVER', 'f@sundrava.example', 's', 'b', 'SENT', now(), 0, ''
                          from work_case c, team t where c.headline = 'over';
                        insert into call_out_unheard (case_id, since) select id, now() from work_case where headline = 'open'""")
                .update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql(
                                """
                                select c.headline || ' ' || d.who || ' ' || d.way || ' ' || (o.unheard is not null) || ' ' || r.catches
                                  from delivery d join call_out_course o on o.id = d.course_id join work_case c on c.id = d.case_id
                                  join call_out_rule r on r.id = o.rule_id order by d.made_at""")
                        .query(String.class)
                        .list())
                .hasSize(2)
                .allMatch(one -> one.startsWith("open ") && one.endsWith(" MAIL true true"))
                .anyMatch(one -> one.contains(" person "))
                .anyMatch(one -> one.contains(" team "));
        assertThat(jdbc.sql(
                                "select headline || ' ' || count(*) from case_turn t join work_case c on c.id = t.case_id group by headline order by 1")
                        .query(String.class)
                        .list())
                .as("it is known that one came and that the other came and went")
                .containsExactly("open 1", "over 2");
        assertThat(jdbc.sql("select body -> 'steps' -> 0 ->> 'whom' from call_out_rule")
                        .query(String.class)
                        .list())
                .containsExactly("duty 0 0");
    }
}
