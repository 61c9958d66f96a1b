package app.morvet.alerting.alerts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** A database of the version before keeps its alerts and cases when what raised an alert comes to be stored in one way. */
class SpineMigrationTest {
    private static final String DATABASE =
            "morvet_" + UUID.randomUUID().toString().substring(0, 8);
    private static Connection connection;

    private static String address(String database) {
        return "jdbc:postgresql://" + System.getenv("MORVET_TEST_PG") + "/" + database;
    }

    private static String password() {
        return System.getenv("MORVET_TEST_PG_PASSWORD");
    }

    private static Connection connect(String database) throws SQLException {
        return DriverManager.getConnection(address(database), "morvet", password());
    }

    private static void migrate(String to) {
        Flyway.configure()
                .dataSource(address(DATABASE), "morvet", password())
                .target(to)
                .load()
                .migrate();
    }

    private static void run(String sql) throws SQLException {
        try (var statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    private static List<String> rows(String sql) throws SQLException {
        var found = new ArrayList<String>();
        try (var statement = connection.createStatement();
                var rows = statement.executeQuery(sql)) {
            while (rows.next()) {
                var row = new ArrayList<String>();
                for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) row.add(rows.getString(i));
                found.add(String.join(" | ", row.stream().map(String::valueOf).toList()));
            }
        }
        return found;
    }

    @BeforeAll
    static void aDatabaseOfTheVersionBefore() throws SQLException {
        try (var server = connect("postgres");
                var statement = server.createStatement()) {
            statement.execute("create database " + DATABASE);
        }
        connection = connect(DATABASE);
        migrate("15");
        run(
                """
                insert into component (key, name, kind, first_seen)
                values ('manifest', 'Manifest', 'interface', now()), ('quay-03', 'quay-03', 'host', now()),
                       ('collect', 'Collect sailings', 'job', now()), ('rate', 'Rate fares', 'job', now());
                insert into guard (name, active, watched, rule, fix_note, version, changed_at)
                values ('Failed', true, '{"measure": "failed_messages"}', '{}', '', 1, now()),
                       ('Disk', true, '{"measure": "disk_used"}', '{}', '', 1, now());
                insert into failure_family (fingerprint, skeleton, first_seen) values ('f', 'refused', now());
                insert into run_guard (name, trouble, scope, scope_name, severity, below, critical_below, fix_note, active)
                values ('Late', 'DID_NOT_START', 'ALL', '', 'WARNING', 0, 0, '', true);
                insert into work_case (state, component_id, family_id, rule_id, severity, headline, opened_at, first_seen, last_seen)
                values ('NEW', 1, 1, null, 'WARNING', 'a family', '2026-11-23 04:00Z', now(), now()),
                       ('NEW', 1, null, 1, 'WARNING', 'a rule', '2026-11-23 05:00Z', now(), now()),
                       ('NEW', 1, null, null, 'WARNING', 'failures', '2026-11-23 06:00Z', now(), now()),
                       ('NEW', 2, null, null, 'WARNING', 'a disk', '2026-11-23 07:00Z', now(), now()),
                       ('NEW', 3, null, null, 'WARNING', 'a job', '2026-11-23 08:00Z', now(), now());
                insert into alert (guard_id, rule_id, run_guard_id, component_id, family_id, group_key, raised_at, cleared_at, level, value, worst, words)
                values (null, 1, null, 1, 1, 'f1.1', now(), null, 'WARNING', 4, 4, 'four'),
                       (null, 1, null, 1, 1, 'r', now(), null, 'WARNING', 5, 5, 'five'),
                       (1, null, null, 1, null, 'c1', now(), null, 'WARNING', 6, 6, 'six'),
                       (2, null, null, 2, null, 's1', now(), now(), 'CRITICAL', 70, 91, 'seventy'),
                       (null, null, 1, 4, null, 'c4', now(), null, 'WARNING', 8, 8, 'eight');
                insert into case_alert (alert_id, case_id, guard_id, rule_id, run_guard_id, level, value, worst, raised_at, at_settling, words, worst_words)
                values (1, 1, null, 1, null, 'WARNING', 4, 4, now(), null, 'four', 'four'),
                       (2, 2, null, 1, null, 'WARNING', 5, 5, now(), null, 'five', 'five'),
                       (3, 3, 1, null, null, 'WARNING', 6, 6, now(), 3, 'six', 'six'),
                       (4, 4, 2, null, null, 'CRITICAL', 70, 97, now(), null, 'seventy', 'ninety-seven'),
                       (5, 5, null, null, 1, 'WARNING', 8, 8, now(), null, 'eight', 'eight');
                insert into run_alert (guard_id, component_id, raised_at, level, value, worst, words, occasion)
                values (1, 4, now(), 'WARNING', 8, 8, 'eight', '2026-11-23T02:00:00Z');
                """);
        migrate("16");
    }

    @AfterAll
    static void gone() throws SQLException {
        connection.close();
        try (var server = connect("postgres");
                var statement = server.createStatement()) {
            statement.execute("drop database " + DATABASE);
        }
    }

    @Test
    void everyAlertKnowsWhatRaisedItAndWhatItIsAbout() throws SQLException {
        assertThat(
                        rows(
                                "select origin_kind, origin_id, fold_key, component_id, cause_id, topic, subject_id, occasion, held from alert order by id"))
                .containsExactly(
                        "sorting rule | 1 | f1.1 | 1 | 1 | failures/1 | 1 |  | f",
                        "sorting rule | 1 | r | 1 | 1 | failures/rule 1/everywhere | 1 |  | f",
                        "guard | 1 | c1 | 1 | 1 | failures | null |  | f",
                        "guard | 2 | s1 | 2 | 2 | null | null |  | f",
                        // What a job does to another: the case stood on the one that causes it.
                        "run guard | 1 | c4 | 4 | 3 | null | null | 2026-11-23T02:00:00Z | f");
    }

    @Test
    void theWorstAndItsWordsAreThoseOfTheCase() throws SQLException {
        assertThat(rows("select value, worst, words, worst_words from alert where id = 4"))
                .containsExactly("70 | 97 | seventy | ninety-seven");
    }

    @Test
    void aCaseIsAboutATopicAndItsAlertsStayInItWithWhereTheyStoodAtSettling() throws SQLException {
        assertThat(rows("select id, component_id, topic, topic_since = opened_at from work_case order by id"))
                .containsExactly(
                        "1 | 1 | failures/1 | t",
                        "2 | 1 | failures/rule 1/everywhere | t",
                        "3 | 1 | failures | t",
                        "4 | 2 | null | t",
                        "5 | 3 | null | t");
        assertThat(rows("select alert_id, case_id, at_settling from case_alert order by 1"))
                .containsExactly("1 | 1 | null", "2 | 2 | null", "3 | 3 | 3", "4 | 4 | null", "5 | 5 | null");
    }

    @Test
    void whatIsUpForOneFoldStaysTheOnlyOne() {
        assertThatThrownBy(
                        () -> run(
                                """
                        insert into alert (origin_kind, origin_id, fold_key, component_id, cause_id, raised_at, level, value, worst, words, worst_words)
                        values ('guard', 1, 'c1', 1, 1, now(), 'WARNING', 1, 1, '', '')"""))
                .hasMessageContaining("alert_up");
    }
}
