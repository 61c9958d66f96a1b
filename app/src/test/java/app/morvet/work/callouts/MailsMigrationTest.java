package app.morvet.work.callouts;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.FreshDatabase;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;

/** What was written to vendors by the version before goes on as mails like all others. */
class MailsMigrationTest {
    @Test
    void whatWasWrittenToVendorsIsMailsFromThenOn() throws Exception {
        var source = FreshDatabase.empty();
        Flyway.configure().dataSource(source).target("28").load().migrate();
        var jdbc = JdbcClient.create(source);
        jdbc.sql(
                        """
                        insert into person (login, name, password_hash, role) values ('a', 'Annika Ruuth', 'x', 'ANALYST');
                        insert into component (key, name, kind, first_seen) values ('ov', 'ov-eu-7', 'vendor instance', now());
                        insert into vendor_ticket (id, component_id, recipient, subject, body, by_id, at, state, failures, why)
                        select gen_random_uuid(), c.id, 'support@ostrevia.example', s.word, 'body', p.id, now(), s.word, s.failures, s.why
                          from component c, person p, (values ('sent', 0, ''), ('waiting', 2, 'no route'), ('given up', 9, 'no route')) s (word, failures, why);
                        insert into scheduled_tasks (task_name, task_instance, execution_time, picked, version)
                        select 'vendor-ticket', id::text, now(), false, 1 from vendor_ticket where state = 'waiting'""")
                .update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql(
                                """
                                select subject || ' ' || state || ' ' || about || ' ' || failures || ' ' || last_error || ' ' || (next_try is not null)
                                  from delivery where component_id is not null and case_id is null and by_id is not null order by subject""")
                        .query(String.class)
                        .list())
                .containsExactly(
                        "given up GIVEN_UP VENDOR 9 no route false",
                        "sent SENT VENDOR 0  false",
                        "waiting WAITING VENDOR 2 no route true");
        assertThat(jdbc.sql("select task_name from scheduled_tasks")
                        .query(String.class)
                        .list())
                .containsExactly("mail-sending");
    }
}
